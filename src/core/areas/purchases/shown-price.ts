/** The price on the screen is the store's, in its currency and the form of the language. */
import type { ScreenTextFact } from '../../model/fact.ts';
import type { StoreOfferFact } from '../../model/facts/purchases.ts';
import { findMoney, plainText } from '../../platform/purchases/find-money.ts';
import { type Assertion, type Check, elementDraft } from '../check.ts';
import { lastOffers } from './last-offers.ts';

export const shownPrice = {
  id: 'shown-price',
  area: 'purchases',
  needs: ['store-offer', 'screen-text'],
  *run(facts, intent): Iterable<Assertion> {
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
} satisfies Check;

function* judgeText(fact: ScreenTextFact, offers: readonly StoreOfferFact[]): Iterable<Assertion> {
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
