/** Beside what is bought again and again stands how often: the price, and the period that it is for. */

import { z } from 'zod';
import type { ScreenTextFact } from '../../../model/fact.ts';
import { namesPeriod } from '../../../platform/purchases/find-duration.ts';
import { plainText } from '../../../platform/purchases/find-money.ts';
import { type Assertion, defineCheck, elementDraft } from '../../check.ts';
import { quote } from '../../words.ts';
import { lastOffers } from '../last-offers.ts';

const dataSchema = z.strictObject({
  product: z.string(),
  period: z.string(),
  text: z.string(),
  locale: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const purchaseTerms = defineCheck({
  id: 'purchase-terms',
  area: 'purchases',
  priority: 'harder',
  standard: 'App Store Review Guidelines, 3.1.2 Subscriptions; Google Play, Subscriptions policy',
  basis: 'estimated',
  needs: 'store-offer',
  reads: ['screen-text'],
  data: dataSchema,
  words: ({ locale, period, product, text }) => ({
    what: `It does not stand beside the price of ${product} how often it is paid`,
    measured: `${quote(text)} (${locale})`,
    required: `the price and its period (${period}) together`,
    why: 'Both stores refuse subscriptions whose period and price do not stand where they are bought.',
    remedy: 'Write the period beside the price, in each language.',
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
    const offers = lastOffers(facts).filter(({ productKind }) => productKind === 'subscription');
    for (const { id, period, screen } of intent.purchases.products) {
      if (screen === undefined || period === undefined) continue;
      const texts = facts
        .of('screen-text')
        .filter(({ cell, from }) => cell.screen === screen && from === 'text');
      for (const fact of texts) {
        const { cell } = fact;
        const offer = offers.find(({ locale, product }) => product === id && locale === cell.locale);
        if (!offer || !plainText(fact.text).includes(plainText(offer.price).trim())) continue;
        const isNamed = namesPeriod(besides(fact, texts), period, cell.locale);
        yield isNamed
          ? { outcome: 'passed', cell }
          : {
              outcome: 'cantTell',
              cell,
              draft: elementDraft(fact, {
                basis: 'estimated',
                severity: 1,
                digest: fact.text,
                data: { product: id, period, text: fact.text, locale: cell.locale },
              }),
            };
      }
    }
  },

  doc: {
    looksAt: "The text with a subscription's price, and the line beside it",
    against: 'The unit of its period in that language. Always estimated',
    matters: 'Both stores refuse subscriptions whose period and price do not stand where they are bought.',
    measured:
      "The text with a subscription's price, and the line beside it, are searched for the unit of its period in that language.",
    errs: 'Words for periods that are not known may be used; always estimated.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'Text(stringResource(R.string.price_per_month, offer.formattedPrice))',
      },
      { where: 'iOS, SwiftUI', language: 'swift', code: 'Text("\\(product.displayPrice) per month")' },
    ],
  },
});

/** On the same capture, as near as the next line. */
const NEAR_LINES = 1.6;

function besides(fact: ScreenTextFact, texts: readonly ScreenTextFact[]): string {
  const { height, y } = fact.element.boundsPx;
  return texts
    .filter(
      (one) => one.evidence === fact.evidence && Math.abs(one.element.boundsPx.y - y) <= NEAR_LINES * height,
    )
    .map(({ text }) => text)
    .join('\n');
}
