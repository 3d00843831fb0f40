/**
 * Translations that were left as the source has them. Whether that is meant cannot be seen, so that it is estimated:
 * words that are equal in both languages, names, numbers and units are not taken up.
 */

import { z } from 'zod';
import type { CatalogueTextFact } from '../../../model/fact.ts';
import { isLocaleTag, isSameLanguage, scriptOf } from '../../../model/locale.ts';
import { defineCheck, type IntentWith } from '../../check.ts';
import { quote } from '../../words.ts';
import { type Row, sourceForm, translations } from '../texts/catalogue.ts';
import { textDraft, textPlaceShape, toAssertion } from '../texts/text-draft.ts';
import { foundAt, keyForm } from '../words.ts';

const dataSchema = z.strictObject({ ...textPlaceShape, source: z.string() });

export const sameAsSource = defineCheck({
  id: 'same-as-source',
  area: 'localization',
  priority: 'harder',
  standard: "Fenlok's own rule",
  basis: 'estimated',
  needs: 'package',
  reads: ['catalogue-text'],
  data: dataSchema,
  words: ({ source, ...place }) => ({
    what: `${keyForm(place)} in ${place.locale} is identical to the source`,
    measured: `${quote(source)}${foundAt(place)}`,
    required: `a text in ${place.locale}`,
    why: 'It reads like a sentence of the source language, and other languages did translate it.',
    remedy: `Translate it; or list ${place.key} under "untranslated" in fenlok.yaml, where it is the same on purpose.`,
  }),

  *run(facts, intent) {
    let passed = 0;
    for (const { from, locale, row, text } of facts.once(translations, intent)) {
      if (
        text.text !== from.text ||
        isSameLanguage(locale, intent.sourceLocale) ||
        !looksForgotten(text, row, locale, intent)
      )
        passed += 1;
      else
        yield toAssertion(
          textDraft(text, {
            locale,
            basis: 'estimated',
            severity: wordsOf(text.text).length,
            digest: text.text,
            data: { source: from.text },
          }),
        );
    }
    yield { outcome: 'passed', count: passed };
  },

  doc: {
    looksAt:
      'Translations that are identical to the source: sentences, and words in the letters of the source where the language writes others',
    against: 'A text of its own. Always estimated',
    matters: 'A sentence that was copied and never translated looks finished in every list.',
    measured:
      'Sentences that are identical to the source, and words in the letters of the source where the language writes others.',
    errs: 'Names, loan words and units may be the same; always estimated.',
    fixes: [
      { where: 'fenlok.yaml', language: 'yaml', code: 'untranslated: [brand_claim]   # the same on purpose' },
    ],
  },
});

/**
 * Two words or more, not all of them names; or a word in the letters of the source where the language writes others. One
 * word in the same letters may well be the same in both: "Ticket".
 */
function looksForgotten(text: CatalogueTextFact, row: Row, locale: string, intent: IntentWith): boolean {
  if (text.translatable === false || intent.untranslated.includes(text.key)) return false;
  const words = wordsOf(text.text);
  if (words.length === 0) return false;
  const others = row.byLocale.values().filter((texts) => {
    const other = texts[0]!.locale;
    const isOwn = other === 'default' || isSameLanguage(other, intent.sourceLocale);
    return !isOwn && !isSameLanguage(other, locale);
  });
  const alike = others.filter((texts) => sourceForm(texts, text.form).text === text.text).length;
  // what several languages leave is a name or a sign
  if (alike * 4 > others.length) return false;
  if (isOtherScript(locale, intent.sourceLocale))
    return words.some((word) => /^\p{L}\p{Ll}{2,}$/u.test(word));
  return words.slice(1).some((word) => /^\p{Ll}{3,}$/u.test(word));
}

const isOtherScript = (locale: string, source: string): boolean =>
  isLocaleTag(locale) && scriptOf(locale) !== scriptOf(source);

/** Words of letters, without what is filled in, addresses and markup. */
const wordsOf = (text: string): string[] =>
  text
    .replace(
      /%(\d+\$)?[-#+0,(']*\d*(\.\d+)?(ll|l)?[a-zA-Z@]|\{[^{}]*\}|<[^<>]*>|\S+@\S+|\S+\.\S+|\S+\/\S+/g,
      ' ',
    )
    .match(/\p{L}[\p{L}\p{M}'’-]*/gu) ?? [];
