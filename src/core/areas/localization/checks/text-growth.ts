/**
 * Translations much wider than their source (W3C, *Text size in translation*, after IBM's globalization guidelines: what
 * designers must leave room for, by the length of the English text). Estimated: only a screen shows what fits.
 */

import { z } from 'zod';
import type { CatalogueTextFact } from '../../../model/fact.ts';
import { longestReading } from '../../../platform/text/icu.ts';
import { textWidthEm } from '../../../platform/text/text-width.ts';
import { defineCheck } from '../../check.ts';
import { quote, round } from '../../words.ts';
import { translations } from '../texts/catalogue.ts';
import { textDraft, textPlaceShape, toAssertion } from '../texts/text-draft.ts';
import { foundAt, keyForm } from '../words.ts';

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

const dataSchema = z.strictObject({
  ...textPlaceShape,
  source: z.string(),
  factor: z.number(),
  allowed: z.number(),
});

export const textGrowth = defineCheck({
  id: 'text-growth',
  area: 'localization',
  priority: 'harder',
  standard: 'W3C, Text size in translation',
  basis: 'estimated',
  needs: 'package',
  reads: ['catalogue-text'],
  limits: ['textGrowth'],
  data: dataSchema,
  words: ({ allowed, factor, source, ...place }) => ({
    what: `${keyForm(place)} is ${round(factor)} times as wide in ${place.locale} as in the source`,
    measured: `× ${round(factor)}, ${quote(place.text)} for ${quote(source)}${foundAt(place)}`,
    required: `up to × ${round(allowed)}, by the length of the source (W3C, Text size in translation)`,
    why: 'The width is estimated from the letters. A label made for the source cuts or wraps it.',
    remedy: 'Look at the screen in this language. Let the label grow, or ask for a shorter text.',
  }),

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
        yield toAssertion(
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

  doc: {
    looksAt: 'The width of every translation, estimated from its letters',
    against:
      'What the length of its source leads to expect (W3C, *Text size in translation*). Always estimated',
    matters: 'A label made for the source cuts or wraps a text that is twice as wide.',
    measured:
      'The width of each translation, estimated from its letters, against what the length of its source leads to expect.',
    errs: 'Whether the label has room cannot be seen; always estimated.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'Button(onClick = onBook, Modifier.defaultMinSize(minWidth = 96.dp)) { Text(label) }',
      },
      { where: 'iOS, UIKit', language: 'swift', code: 'button.titleLabel?.numberOfLines = 0' },
    ],
  },
});

/** Of a message with choices only one of each is read. */
const readingOf = ({ syntax, text }: CatalogueTextFact): string =>
  syntax === 'icu' && text.includes('{') ? longestReading(text) : text;

const expectedFactor = (characters: number): number =>
  EXPECTED.find(([most]) => characters <= most)?.[1] ?? LONGER;
