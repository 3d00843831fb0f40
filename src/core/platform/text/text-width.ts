/**
 * How wide a text is drawn, estimated in em of a common sans-serif face: the widths of letters differ by a factor of
 * four, so that counting characters says little. Good to about a tenth for whole words.
 */

// Advance widths by class, in hundredths of an em, as common to interface faces.
const NARROW = new Set("ijlI.,:;'!|’‘·");
const SLIM = new Set(' ftr()[]{}-/\\"“”*');
const WIDE = new Set('mwMW@%—…');

/** In em. */
export function textWidthEm(text: string): number {
  let hundredths = 0;
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i);
    if (code < 0x80) hundredths += ASCII[code]!;
    else if (code < 0x250) hundredths += code < 0xc0 ? 45 : isCapital(text[i]!) ? 65 : 54;
    else hundredths += beyondLatin(code);
  }
  return hundredths / 100;
}

const isCapital = (char: string): boolean => char !== char.toLowerCase();

const ASCII = Uint8Array.from({ length: 0x80 }, (_, code) => {
  const char = String.fromCharCode(code);
  if (code < 0x20) return 0;
  if (NARROW.has(char)) return 27;
  if (SLIM.has(char)) return 34;
  if (WIDE.has(char)) return 86;
  return isCapital(char) ? 65 : 55;
});

function beyondLatin(code: number): number {
  // marks that stand over or under a letter, and what draws nothing
  if (
    (code >= 0x300 && code < 0x370) ||
    (code >= 0x200b && code < 0x2010) ||
    (code >= 0xfe00 && code < 0xfe10)
  )
    return 0;
  if ((code >= 0x591 && code < 0x5d0) || (code >= 0x610 && code < 0x620) || (code >= 0x64b && code < 0x660))
    return 0;
  // Indic and South-East Asian: about a third are marks
  if (code >= 0x900 && code < 0x1000) return 48;
  if (code >= 0x0e00 && code < 0x0f00) return 44;
  if (code >= 0x590 && code < 0x700) return 48;
  // East Asian letters are a square; a pair of surrogates is one of them
  if (
    (code >= 0x1100 && code < 0x1200) ||
    (code >= 0x2e80 && code < 0xd7b0) ||
    (code >= 0xff00 && code < 0xff61)
  )
    return 100;
  if (code >= 0xd800 && code < 0xe000) return 50;
  return 58;
}
