/**
 * `.strings` files (Apple, *Resource Programming Guide*, String Resources): text in UTF-8 or UTF-16, or a property list.
 *
 *     "key" = "value";   with comments as in C, \n \t \" \\ \Uxxxx and octal escapes; the quotes may be left out
 */
import type { Problem } from '../../model/problem.ts';
import { decodeText, lineCounter } from '../catalogues/decode-text.ts';
import { isDict, parsePlist } from './plist.ts';

interface StringsPair {
  key: string;
  text: string;
  /** Undefined in a property list. */
  line?: number;
}

/**
 * In the order of the file: a key that comes twice is there twice, and the last one counts. Where the syntax breaks, what
 * came before is kept.
 *
 * @throws UnreadableError where it is a property list that cannot be read
 */
export function parseStrings(bytes: Uint8Array, name: string): { pairs: StringsPair[]; problems: Problem[] } {
  const head = String.fromCharCode(...bytes.subarray(0, 8));
  if (head.startsWith('bplist0')) return { pairs: fromPlist(bytes, name), problems: [] };
  const { problems, text } = decodeText(bytes, name);
  if (/^\s*<(\?xml|!DOCTYPE|plist)/.test(text)) return { pairs: fromPlist(bytes, name), problems };
  return parseText(text, name, problems);
}

function fromPlist(bytes: Uint8Array, name: string): StringsPair[] {
  const value = parsePlist(bytes, name);
  const pairs = isDict(value) ? Object.entries(value) : [];
  return pairs.flatMap(([key, text]) => (typeof text === 'string' ? [{ key, text }] : []));
}

const BLANK = /(?:\s+|\/\*[\s\S]*?\*\/|\/\/[^\n]*)*/y;
const QUOTED = /"([^"\\]*(?:\\[\s\S][^"\\]*)*)"/y;
const BARE = /[\w.$:/-]+/y;

function parseText(
  text: string,
  name: string,
  problems: Problem[],
): { pairs: StringsPair[]; problems: Problem[] } {
  const pairs: StringsPair[] = [];
  const lineAt = lineCounter(text);
  let at = 0;
  const skip = (pattern: RegExp) => {
    pattern.lastIndex = at;
    const match = pattern.exec(text);
    if (match) at = pattern.lastIndex;
    return match;
  };
  const word = (): string | undefined => {
    const quoted = skip(QUOTED);
    return quoted ? unescapeText(quoted[1]!) : skip(BARE)?.[0];
  };
  const sign = (char: string) => {
    skip(BLANK);
    if (text[at] !== char) return false;
    at += 1;
    skip(BLANK);
    return true;
  };
  for (skip(BLANK); at < text.length; ) {
    const line = lineAt(at);
    const key = word();
    // a key alone stands for itself
    const value = key !== undefined && sign('=') ? word() : key;
    const wanted =
      key === undefined ? 'a key in quotes' : value === undefined ? 'a value in quotes' : 'a semicolon';
    if (value === undefined || !sign(';')) {
      problems.push(brokenAt(text, at, line, name, wanted, key));
      break;
    }
    pairs.push({ key: key!, text: value, line });
  }
  return { pairs, problems };
}

const brokenAt = (
  text: string,
  at: number,
  line: number,
  name: string,
  expected: string,
  key: string | undefined,
): Problem => ({
  code: 'strings.syntax',
  place: `${name}, line ${line}${key === undefined ? '' : `, ${key}`}`,
  found: at < text.length ? JSON.stringify(text.slice(at, at + 20)) : 'the end of the file',
  expected,
  remedy: 'Correct the line. What stands before it was read.',
});

const ESCAPES: Record<string, string> = { n: '\n', r: '\r', t: '\t', b: '\b', f: '\f', a: '\u0007', v: '\v' };

const unescapeText = (text: string): string =>
  text.replace(/\\(?:U([0-9a-f]{4})|([0-7]{1,3})|([\s\S]))/gi, (_, unicode, octal, char) =>
    unicode
      ? String.fromCharCode(Number.parseInt(unicode, 16))
      : octal
        ? String.fromCharCode(Number.parseInt(octal, 8))
        : (ESCAPES[char] ?? char),
  );
