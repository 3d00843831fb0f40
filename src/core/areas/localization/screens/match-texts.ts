/**
 * Which text of a catalogue a text on a screen was made from, with formats filled in. Nothing but the text is looked at:
 * neither keys nor ids.
 */
import type { ArgumentType, TextPart } from '../../../model/catalogue.ts';
import type { CatalogueTextFact } from '../../../model/fact.ts';
import { parseText } from '../../../platform/text/parse-text.ts';
import { plainLiteral } from '../../../platform/text/write-text.ts';

export interface TextMatcher {
  /** The key that a shown text was made from; undefined where it was made from none. */
  match(shown: string): string | undefined;
  /** The words of all its texts, in lower case. */
  words: ReadonlySet<string>;
}

interface Template {
  key: string;
  pattern: RegExp;
}

// In any script's digits, with what groups and parts them.
const FILLED: Partial<Record<ArgumentType, string>> = {
  integer: String.raw`[\p{Nd}.,٬٫'’\s\u00a0\u202f-]+`,
  decimal: String.raw`[\p{Nd}.,٬٫'’\s\u00a0\u202f\p{Sc}%+-]+`,
};
const MAX_FILLED = 200;

/** As it is compared: no invisible marks, one blank for many, no difference of case. */
const normal = (text: string): string =>
  text
    .normalize('NFC')
    .replace(/[\u200b-\u200f\u202a-\u202e\u2060-\u2069\ufeff\u00ad]/g, '')
    .replace(/[\s\u00a0\u202f]+/g, ' ')
    .trim()
    .toLowerCase();

export function textMatcher(texts: Iterable<CatalogueTextFact>): TextMatcher {
  const exact = new Map<string, string>();
  // by a word that they hold, so that few are tried
  const byWord = new Map<string, Template[]>();
  const wordless: Template[] = [];
  const words = new Set<string>();
  for (const { key, placeholders, syntax, text } of texts) {
    const { parts } = parseText(text, syntax);
    const plain = normal(plainOf(parts, syntax));
    for (const word of wordsIn(plain)) words.add(word);
    if (placeholders.length === 0) {
      if (plain !== '' && !exact.has(plain)) exact.set(plain, key);
      continue;
    }
    const template = templateOf(key, parts, syntax);
    const longest = wordsIn(plain).sort((a, b) => b.length - a.length)[0];
    if (longest === undefined) wordless.push(template);
    else byWord.set(longest, [...(byWord.get(longest) ?? []), template]);
  }
  const match = (shown: string, depth = 0): string | undefined => {
    const text = normal(shown);
    const known = exact.get(text);
    if (known !== undefined || depth > 2) return known;
    for (const word of new Set(wordsIn(text)))
      for (const { key, pattern } of byWord.get(word) ?? []) if (pattern.test(text)) return key;
    // where only what is filled in has words, each of these must be known or have none
    for (const { key, pattern } of wordless) {
      const filled = pattern.exec(text)?.slice(1);
      if (filled?.every((part) => wordsIn(part ?? '').length === 0 || match(part!, depth + 1) !== undefined))
        return key;
    }
    return undefined;
  };
  return { match: (shown) => match(shown), words };
}

const plainOf = (parts: readonly TextPart[], syntax: CatalogueTextFact['syntax']): string =>
  parts
    .map((part) =>
      part.kind === 'literal' ? plainLiteral(part.written, syntax, true) : part.kind === 'markup' ? '' : ' ',
    )
    .join('');

function templateOf(key: string, parts: readonly TextPart[], syntax: CatalogueTextFact['syntax']): Template {
  const sources = parts.map((part) => {
    if (part.kind === 'markup') return '';
    if (part.kind === 'placeholder') return `(${FILLED[part.type] ?? `.{0,${MAX_FILLED}}?`})`;
    return escapePattern(
      plainLiteral(part.written, syntax, true)
        .normalize('NFC')
        .replace(/[\s\u00a0\u202f]+/g, ' ')
        .toLowerCase(),
    );
  });
  return { key, pattern: new RegExp(`^\\s*${sources.join('')}\\s*$`, 'u') };
}

const escapePattern = (text: string): string => text.replace(/[\\^$.*+?()[\]{}|/]/g, '\\$&');

/** In lower case. */
export const wordsIn = (text: string): string[] => text.toLowerCase().match(/\p{L}[\p{L}\p{M}]*/gu) ?? [];
