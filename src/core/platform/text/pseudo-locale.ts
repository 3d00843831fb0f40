/**
 * Languages made up to find trouble before translators do: longer, accented text shows what is cut or hard-coded, mirrored
 * text what does not follow the direction. Placeholders and markup stay as they are.
 */
import type { CatalogueEntry, TextSyntax } from '../../model/catalogue.ts';
import { type IcuNode, parseIcu, syntaxOfText } from './icu.ts';
import { parseText } from './parse-text.ts';

export const pseudoLocales = ['accented', 'mirrored'] as const;
export type PseudoLocale = (typeof pseudoLocales)[number];

/** Android has both in its developer settings; elsewhere the tags serve as well as any. */
export const PSEUDO_TAG: Record<PseudoLocale, string> = { accented: 'en-XA', mirrored: 'ar-XB' };

const PLAIN = 'AaBbCcDdEeFfGgHhIiJjKkLlMmNnOoPpQqRrSsTtUuVvWwXxYyZz';
const ACCENTED = 'ÅåƁƀÇçÐðÉéƑƒĜĝĤĥÎîĴĵĶķĻļṀɱÑñÖöÞþǪǫŔŕŠšŢţÛûṼṽŴŵẊẋÝýŽž';
const ACCENT = new Map([...PLAIN].map((letter, i) => [letter, [...ACCENTED][i]!]));
// What translations into longer languages take (W3C, *Text size in translation*): short texts grow most.
const GROWTH: [characters: number, factor: number][] = [
  [10, 1],
  [20, 0.8],
  [50, 0.5],
];
const LEAST_GROWTH = 0.35;

const RIGHT_TO_LEFT_OVERRIDE = '\u202e';
const POP_DIRECTION = '\u202c';
const RIGHT_TO_LEFT_MARK = '\u200f';

/** Every text of the entries in the made-up language; what must not be translated is left out. */
export function pseudoLocalize(
  entries: readonly CatalogueEntry[],
  syntax: TextSyntax,
  kind: PseudoLocale,
): CatalogueEntry[] {
  return entries
    .filter(({ translatable }) => translatable !== false)
    .map((entry) => ({
      ...entry,
      locale: PSEUDO_TAG[kind],
      forms: entry.forms.map((form) => ({
        ...form,
        text: pseudoText(form.text, entry.syntax ?? syntax, kind),
      })),
    }));
}

function pseudoText(text: string, given: TextSyntax, kind: PseudoLocale): string {
  const syntax = syntaxOfText(text, given);
  if (syntax === 'icu') return pseudoMessage(text, kind);
  const { parts } = parseText(text, syntax);
  const letters = parts.reduce(
    (sum, part) => sum + (part.kind === 'literal' ? countLetters(part.written) : 0),
    0,
  );
  if (letters === 0) return text;
  const changed = parts
    .map((part) => (part.kind === 'literal' ? change(part.written, kind) : part.written))
    .join('');
  return kind === 'mirrored' ? changed : withEdges(changed, letters);
}

/** The texts of choices too; names of arguments and words that choose stay. */
function pseudoMessage(text: string, kind: PseudoLocale): string {
  let letters = 0;
  const changeAll = (nodes: readonly IcuNode[]): string =>
    nodes
      .map((node) => {
        const written = text.slice(node.at, node.end);
        if (node.kind === 'literal') {
          letters += countLetters(written.replace(TAG, ''));
          return outsideTags(written, kind);
        }
        if (node.kind === 'number' || !node.choices) return written;
        let from = node.at;
        const pieces = node.choices.map(({ at, end, nodes: inside }) => {
          const before = text.slice(from, at);
          from = end;
          return before + changeAll(inside);
        });
        return pieces.join('') + text.slice(from, node.end);
      })
      .join('');
  const changed = changeAll(parseIcu(text).nodes);
  if (letters === 0) return text;
  return kind === 'mirrored' ? changed : withEdges(changed, letters);
}

const TAG = /<[^<>]*>/g;

function outsideTags(written: string, kind: PseudoLocale): string {
  let from = 0;
  let changed = '';
  const put = (until: number) => {
    changed += change(written.slice(from, until), kind, WORD_OF_MESSAGE);
  };
  for (const { 0: tag, index } of written.matchAll(TAG)) {
    put(index);
    changed += tag;
    from = index + tag.length;
  }
  put(written.length);
  return changed;
}

const WORD = /[\p{L}\p{M}\p{N}'’]+/gu;
// an apostrophe quotes what it stands at, and must stay there
const WORD_OF_MESSAGE = /[\p{L}\p{M}\p{N}’]+/gu;

const change = (text: string, kind: PseudoLocale, word = WORD): string =>
  kind === 'accented'
    ? [...text].map((char) => ACCENT.get(char) ?? char).join('')
    : text.replace(
        word,
        (of) => `${RIGHT_TO_LEFT_MARK}${RIGHT_TO_LEFT_OVERRIDE}${of}${POP_DIRECTION}${RIGHT_TO_LEFT_MARK}`,
      );

const countLetters = (text: string): number => text.match(/\p{L}/gu)?.length ?? 0;

/** In brackets, of which a cut text loses one, and with words behind it that make it longer. */
function withEdges(text: string, letters: number): string {
  const factor = GROWTH.find(([most]) => letters <= most)?.[1] ?? LEAST_GROWTH;
  const filler = 'öñé ţŵö ţĥŕéé ƒöûŕ ƒîṽé šîẋ šéṽéñ éîĝĥţ ñîñé ţéñ ';
  const length = Math.ceil(letters * factor);
  const words = filler
    .repeat(Math.ceil(length / filler.length))
    .slice(0, length)
    .trimEnd();
  const [, before, inner, after] = /^(\s*)([\s\S]*?)(\s*)$/.exec(text)! as unknown as [
    string,
    string,
    string,
    string,
  ];
  return `${before}[${inner} ${words}]${after}`;
}
