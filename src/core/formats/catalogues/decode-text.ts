/** Bytes of a text file as text: UTF-8, or UTF-16 by its mark or its zeros. */
import type { Problem } from '../../model/problem.ts';

interface DecodedText {
  text: string;
  problems: Problem[];
}

/**
 * What cannot be decoded becomes U+FFFD, and is told with its line.
 *
 * @param charset that the file itself names (WHATWG *Encoding*, section 4.2)
 */
export function decodeText(bytes: Uint8Array, name: string, charset?: string): DecodedText {
  const encoding = charset ?? encodingOf(bytes);
  try {
    return { text: new TextDecoder(encoding, { fatal: true }).decode(bytes), problems: [] };
  } catch {
    const text = new TextDecoder(isKnown(encoding) ? encoding : 'utf-8').decode(bytes);
    const line = lineAt(text, text.indexOf('\ufffd'));
    const problem: Problem = {
      code: 'catalogue.encoding',
      place: `${name}, line ${line}`,
      found: isKnown(encoding)
        ? `bytes that are not ${encoding.toUpperCase()}`
        : `the character set ${encoding}, which is not known`,
      expected: charset ? 'UTF-8, or what the header says' : 'UTF-8, or UTF-16 with a byte order mark',
      remedy: 'Save the file as UTF-8. Characters that could not be read are shown as \ufffd.',
    };
    return { text, problems: [problem] };
  }
}

function isKnown(encoding: string): boolean {
  try {
    return new TextDecoder(encoding) !== undefined;
  } catch {
    return false;
  }
}

function encodingOf([first, second]: Uint8Array): 'utf-8' | 'utf-16le' | 'utf-16be' {
  if ((first === 0xfe && second === 0xff) || (first === 0 && second !== 0 && second !== undefined))
    return 'utf-16be';
  if ((first === 0xff && second === 0xfe) || (second === 0 && first !== 0)) return 'utf-16le';
  return 'utf-8';
}

export const lineAt = (text: string, index: number): number => {
  let line = 1;
  for (let at = text.indexOf('\n'); at >= 0 && at < index; at = text.indexOf('\n', at + 1)) line += 1;
  return line;
};

/** The lines of rising positions, without counting from the beginning each time. */
export function lineCounter(text: string): (index: number) => number {
  let line = 1;
  let at = 0;
  return (index) => {
    for (let next = text.indexOf('\n', at); next >= 0 && next < index; next = text.indexOf('\n', at)) {
      line += 1;
      at = next + 1;
    }
    return line;
  };
}
