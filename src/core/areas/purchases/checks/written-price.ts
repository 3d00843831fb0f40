/** Prices come from the store: one that is typed into a text is wrong in the next country, and after the next change. */

import { z } from 'zod';
import { findMoney } from '../../../platform/purchases/find-money.ts';
import { defineCheck } from '../../check.ts';
import { textDraft, textPlaceShape, toAssertion } from '../../localization/texts/text-draft.ts';
import { foundAt } from '../../localization/words.ts';
import { quote } from '../../words.ts';

/** `%1$s` would be a dollar, and `{0}` a number. */
const PLACEHOLDER = /%(?:\d+\$)?[-#+ 0,(]*\d*(?:\.\d+)?[a-z@]|\{[^{}]*\}/gi;

const dataSchema = z.strictObject({ ...textPlaceShape, found: z.string() });

export const writtenPrice = defineCheck({
  id: 'written-price',
  area: 'purchases',
  priority: 'harder',
  standard: 'Apple, Product.displayPrice; Android, ProductDetails.formattedPrice',
  basis: 'estimated',
  needs: 'catalogue-text',
  data: dataSchema,
  words: ({ found, ...place }) => ({
    what: `A text of the app holds a price: ${place.key} (${place.locale})`,
    measured: `${quote(found)} in ${quote(place.text)}${foundAt(place)}`,
    required: 'a placeholder that the store’s price is filled into',
    why: 'The same text is shown where other money is paid, and after the price has changed.',
    remedy: 'Put a placeholder in its place; or rule that it is the price of something that no store sells.',
  }),

  *run(facts, intent) {
    if (intent.purchases.products.length === 0) return;
    let passed = 0;
    for (const fact of facts.of('catalogue-text')) {
      const locale = fact.locale === 'default' ? intent.sourceLocale : fact.locale;
      const [money] = findMoney(fact.text.replace(PLACEHOLDER, ' '), locale);
      if (!money) passed += 1;
      else
        yield toAssertion(
          textDraft(fact, {
            locale,
            // it may be the price of something that no store sells
            basis: 'estimated',
            severity: 1,
            digest: money.text,
            data: { found: money.text },
          }),
        );
    }
    yield { outcome: 'passed', count: passed };
  },

  doc: {
    looksAt: "Amounts of money in the app's texts, beside signs, codes and words of 40 currencies",
    against: 'None. Always estimated',
    matters: 'The same text is shown where other money is paid, and after the price has changed.',
    measured: "Amounts of money in the app's texts, beside signs, codes and words of 40 currencies.",
    errs: 'The price of something that no store sells may be meant; always estimated.',
    fixes: [
      {
        where: 'strings.xml',
        language: 'xml',
        code: '<string name="pass_offer">Harbour pass for %1$s</string>',
      },
      { where: 'Localizable.strings', language: 'text', code: '"pass_offer" = "Harbour pass for %@";' },
    ],
  },
});
