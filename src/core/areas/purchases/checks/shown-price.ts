/** The price on the screen is the store's, in its currency and the form of the language. */

import { z } from 'zod';
import type { ScreenTextFact } from '../../../model/fact.ts';
import type { StoreOfferFact } from '../../../model/facts/purchases.ts';
import { findMoney, plainText } from '../../../platform/purchases/find-money.ts';
import { type Assertion, defineCheck, elementDraft } from '../../check.ts';
import { quote } from '../../words.ts';
import { lastOffers } from '../last-offers.ts';

const dataSchema = z.strictObject({
  fault: z.string(),
  found: z.string(),
  prices: z.array(z.string()),
  locale: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const shownPrice = defineCheck({
  id: 'shown-price',
  area: 'purchases',
  priority: 'wrong',
  standard: 'Apple, Product.displayPrice; Android, ProductDetails.formattedPrice',
  basis: 'either',
  needs: 'store-offer',
  reads: ['screen-text'],
  data: dataSchema,
  words: ({ fault, found, locale, prices }) => ({
    what:
      fault === 'form'
        ? 'A price is not written as the store writes it'
        : 'An amount of money on the screen is no price of the store',
    measured: `${quote(found)} (${locale})`,
    required: prices.join(', '),
    why: 'The store charges in its own currency, and writes it as the language does; what stands on the screen must be that.',
    remedy: 'Show the price text that the store returns, and format nothing by hand.',
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
    const offers = lastOffers(facts);
    for (const fact of facts.of('screen-text')) {
      const sold = intent.purchases.products.filter(({ screen }) => screen === fact.cell.screen);
      if (sold.length === 0 || fact.from !== 'text' || fact.isField) continue;
      const here = offers.filter(
        ({ locale, product }) => locale === fact.cell.locale && sold.some(({ id }) => id === product),
      );
      if (here.length === 0) continue;
      yield* judgeText(fact, here);
    }
  },

  doc: {
    looksAt: 'Amounts of money on screens that sell (`screen` of a product)',
    against: 'The price text of the store in that language. Another amount than any price is estimated',
    matters:
      'The store charges in its own currency. Another amount on the screen is a promise that nobody keeps.',
    measured: 'Amounts of money on screens that sell, against the price texts of the store in that language.',
    errs: 'Another amount than any price may be something else, so that it is estimated.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'price.text = details.oneTimePurchaseOfferDetails?.formattedPrice',
      },
      { where: 'iOS, SwiftUI', language: 'swift', code: 'Text(product.displayPrice)' },
    ],
  },
});

function* judgeText(fact: ScreenTextFact, offers: readonly StoreOfferFact[]): Iterable<Assertion<Data>> {
  const { cell } = fact;
  const shown = plainText(fact.text);
  for (const money of findMoney(fact.text, cell.locale)) {
    if (offers.some(({ price }) => shown.includes(plainText(price).trim()))) {
      yield { outcome: 'passed', cell };
      continue;
    }
    // the same number in another form is the price; another number may be anything
    const meant = offers.find(({ amount }) => amount === money.amount);
    yield {
      outcome: meant ? 'failed' : 'cantTell',
      cell,
      draft: elementDraft(fact, {
        basis: meant ? 'measured' : 'estimated',
        severity: meant ? 2 : 1,
        digest: money.text,
        data: {
          fault: meant ? 'form' : 'amount',
          found: money.text,
          prices: (meant ? [meant] : offers).map(({ price, product }) => `${price} (${product})`),
          locale: cell.locale,
        },
      }),
    };
  }
}
