/**
 * `.strings` files (Apple, *Resource Programming Guide*, String Resources): text in UTF-8 or UTF-16, or a property list.
 *
 *     "key" = "value";   with comments as in C, \n \t \" \\ \Uxxxx and octal escapes; the quotes may be left out
 */
import { UnreadableError } from '../../model/problem.ts';
import { isDict, parsePlist } from './plist.ts';

/** @throws UnreadableError with the line at which reading ended */
export function parseStrings(bytes: Uint8Array, name: string): Map<string, string> {
  const head = String.fromCharCode(...bytes.subarray(0, 8));
  if (head.startsWith('bplist0')) return fromPlist(bytes, name);
  const text = decode(bytes);
  return /^\s*<(\?xml|!DOCTYPE|plist)/.test(text) ? fromPlist(bytes, name) : parseText(text, name);
}

function fromPlist(bytes: Uint8Array, name: string): Map<string, string> {
  const value = parsePlist(bytes, name);
  const pairs = isDict(value) ? Object.entries(value) : [];
  return new Map(pairs.filter((pair): pair is [string, string] => typeof pair[1] === 'string'));
}

/** By the byte order mark; without one, zeros in every other byte tell UTF-16. */
function decode(bytes: Uint8Array): string {
  const [first, second] = bytes;
  if ((first === 0xfe && second === 0xff) || (first === 0 && second !== 0))
    return new TextDecoder('utf-16be').decode(bytes);
  if ((first === 0xff && second === 0xfe) || (second === 0 && first !== 0))
    return new TextDecoder('utf-16le').decode(bytes);
  return new TextDecoder().decode(bytes);
}

const BLANK = /(?:\s+|\/\*[\s\S]*?\*\/|\/\/[^\n]*)*/y;
const QUOTED = /"([^"\\]*(?:\\[\s\S][^"\\]*)*)"/y;
const BARE = /[\w.$:/-]+/y;

function parseText(text: string, name: string): Map<string, string> {
  const found = new Map<string, string>();
  let at = 0;
  const skip = (pattern: RegExp) => {
    pattern.lastIndex = at;
    const match = pattern.exec(text);
    if (match) at = pattern.lastIndex;
    return match;
  };
  const fail = (expected: string): never => {
    throw new UnreadableError({
      code: 'strings.syntax',
      place: `${name}, line ${text.slice(0, at).split('\n').length}`,
      found: at < text.length ? JSON.stringify(text.slice(at, at + 20)) : 'the end of the file',
      expected,
    });
  };
  const word = (expected: string): string => {
    const quoted = skip(QUOTED);
    return quoted ? unescapeText(quoted[1]!) : (skip(BARE)?.[0] ?? fail(expected));
  };
  const sign = (char: string) => {
    skip(BLANK);
    if (text[at] !== char) return false;
    at += 1;
    skip(BLANK);
    return true;
  };
  for (skip(BLANK); at < text.length; ) {
    const key = word('a key in quotes');
    // a key alone stands for itself
    const value = sign('=') ? word('a value in quotes') : key;
    if (!sign(';')) fail('a semicolon');
    found.set(key, value);
  }
  return found;
}

const ESCAPES: Record<string, string> = { n: '\n', r: '\r', t: '\t', b: '\b', f: '\f', a: '\u0007', v: '\v' };

const unescapeText = (text: string): string =>
  text.replace(/\\(?:U([0-9a-f]{4})|([0-7]{1,3})|([\s\S]))/gi, (_, unicode, octal, char) =>
    unicode
      ? String.fromCharCode(Number.parseInt(unicode, 16))
      : octal
        ? String.fromCharCode(Number.parseInt(octal, 8))
        : (ESCAPES[char] ?? char),
  );
