/**
 * Languages made up to find trouble before translators do: longer, accented text shows what is cut or hard-coded, mirrored
 * text what does not follow the direction. Placeholders and markup stay as they are.
 */
import type { CatalogueEntry, TextPart, TextSyntax } from '../../model/catalogue.ts';
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

function pseudoText(text: string, syntax: TextSyntax, kind: PseudoLocale): string {
  const { parts } = parseText(text, syntax);
  const letters = parts.reduce(
    (sum, part) => sum + (part.kind === 'literal' ? countLetters(part.written) : 0),
    0,
  );
  if (letters === 0) return text;
  const changed = parts
    .map((part) => (part.kind === 'literal' ? literal(part, kind) : part.written))
    .join('');
  return kind === 'mirrored' ? changed : withEdges(changed, letters);
}

const literal = ({ written }: Extract<TextPart, { kind: 'literal' }>, kind: PseudoLocale): string =>
  kind === 'accented'
    ? [...written].map((char) => ACCENT.get(char) ?? char).join('')
    : written.replace(
        /[\p{L}\p{M}\p{N}'’]+/gu,
        (word) =>
          `${RIGHT_TO_LEFT_MARK}${RIGHT_TO_LEFT_OVERRIDE}${word}${POP_DIRECTION}${RIGHT_TO_LEFT_MARK}`,
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
