/**
 * Translations much wider than their source (W3C, *Text size in translation*, after IBM's globalization guidelines: what
 * designers must leave room for, by the length of the English text). Estimated: only a screen shows what fits.
 */

import type { CatalogueTextFact } from '../../../model/fact.ts';
import { longestReading } from '../../../platform/text/icu.ts';
import { textWidthEm } from '../../../platform/text/text-width.ts';
import type { Check } from '../../check.ts';
import { translations } from './catalogue.ts';
import { departure, textDraft } from './text-draft.ts';

// Up to so many characters of the source: the widest that is still expected, as a multiple of the source.
const EXPECTED: [characters: number, factor: number][] = [
  [10, 3],
  [20, 2],
  [30, 1.8],
  [50, 1.6],
  [70, 1.4],
];
const LONGER = 1.3;
// These are averages over many texts; a single one may well be wider.
const SPREAD = 1.5;
// Below this a line has room for it anyway.
const LEAST_GROWTH_EM = 5;
const USUAL_LETTER_EM = 0.45;

export const textGrowth = {
  id: 'text-growth',
  area: 'localization',
  needs: ['package', 'catalogue-text'],
  *run(facts, intent) {
    let passed = 0;
    for (const { from, locale, text } of facts.once(translations, intent)) {
      const isWhole = !text.faults && !from.faults;
      const [reading, source] = isWhole ? [readingOf(text), readingOf(from)] : [text.text, from.text];
      const allowed = expectedFactor(source.length) * SPREAD * intent.limits.textGrowth;
      // the widest letters against the usual ones: a text of so few cannot have grown beyond it
      if (reading.length <= source.length * USUAL_LETTER_EM * allowed) {
        passed += 1;
        continue;
      }
      const [own, other] = [textWidthEm(reading), textWidthEm(source)];
      if (other === 0 || own <= other * allowed || own - other < LEAST_GROWTH_EM) passed += 1;
      else
        yield departure(
          textDraft(text, {
            locale,
            basis: 'estimated',
            severity: own / other / allowed,
            digest: `× ${(own / other).toFixed(1)}`,
            data: { source: from.text, factor: own / other, allowed },
          }),
        );
    }
    yield { outcome: 'passed', count: passed };
  },
} satisfies Check;

/** Of a message with choices only one of each is read. */
const readingOf = ({ syntax, text }: CatalogueTextFact): string =>
  syntax === 'icu' && text.includes('{') ? longestReading(text) : text;

const expectedFactor = (characters: number): number =>
  EXPECTED.find(([most]) => characters <= most)?.[1] ?? LONGER;
