/** Characters that draw nothing (Unicode 15, General Categories Cf and Cc; Unicode Standard Annex 9 for direction). */

const INVISIBLE =
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\u200b-\u200f\u202a-\u202e\u2060-\u2064\u2066-\u206f\ufeff\ufffc\ufffd]/g;
const OPENING = /[\u202a\u202b\u202d\u202e\u2066-\u2068]/g;
const CLOSING = /[\u202c\u2069]/g;
const NAMES = new Map([
  [0x200b, 'zero width space'],
  [0x200c, 'zero width non-joiner'],
  [0x200d, 'zero width joiner'],
  [0x200e, 'left-to-right mark'],
  [0x200f, 'right-to-left mark'],
  [0x2060, 'word joiner'],
  [0xfeff, 'byte order mark'],
  [0xfffc, 'object replacement'],
  [0xfffd, 'replacement of what could not be decoded'],
]);

/** Each once, in the order of the text; undefined where there are none. */
export function invisibleCharacters(text: string): string[] | undefined {
  const found = text.match(INVISIBLE);
  return found ? [...new Set(found)] : undefined;
}

/** Whether what turns the direction is ended as often as it is begun. */
export const isDirectionBalanced = (text: string): boolean =>
  (text.match(OPENING)?.length ?? 0) === (text.match(CLOSING)?.length ?? 0);

export const isDirectionControl = (char: string): boolean => /[\u202a-\u202e\u2066-\u2069]/.test(char);

/** `U+200B zero width space` */
export function formatCharacter(char: string): string {
  const code = char.codePointAt(0)!;
  const name =
    NAMES.get(code) ??
    (code < 0xa0
      ? 'control character'
      : isDirectionControl(char)
        ? 'control of direction'
        : 'invisible sign');
  return `U+${code.toString(16).toUpperCase().padStart(4, '0')} ${name}`;
}
