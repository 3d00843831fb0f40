/** What the store sells is what was meant: kind, period, and a price in money that exists. */
import type { StoreOfferFact } from '../../model/facts/purchases.ts';
import type { IntentProduct } from '../../model/intent.ts';
import type { Assertion, Check } from '../check.ts';
import { lastOffers } from './last-offers.ts';

interface Departure {
  fault: 'kind' | 'period' | 'free' | 'currency';
  found: string;
  wanted: string;
  /** A price of nothing may be meant. */
  isCertain: boolean;
}

export const productOffer = {
  id: 'product-offer',
  area: 'purchases',
  needs: ['store-offer'],
  *run(facts, intent): Iterable<Assertion> {
    const seen = new Set<string>();
    for (const offer of lastOffers(facts)) {
      const wanted = intent.purchases.products.find(({ id }) => id === offer.product);
      const departures = [...departuresOf(offer, wanted)];
      if (departures.length === 0) yield { outcome: 'passed' };
      for (const departure of departures) {
        // the same in every language
        const key = `${offer.product} ${departure.fault}`;
        if (seen.has(key)) continue;
        seen.add(key);
        yield judged(offer, departure);
      }
    }
  },
} satisfies Check;

function* departuresOf(offer: StoreOfferFact, wanted: IntentProduct | undefined): Iterable<Departure> {
  const { amount, currency, period = '', productKind } = offer;
  if (wanted && wanted.kind !== productKind)
    yield { fault: 'kind', found: productKind, wanted: wanted.kind, isCertain: true };
  if (wanted?.period !== undefined && wanted.period !== period)
    yield { fault: 'period', found: period || 'none', wanted: wanted.period, isCertain: true };
  if (!CURRENCIES.has(currency))
    yield { fault: 'currency', found: currency, wanted: 'a currency of ISO 4217', isCertain: true };
  if (amount === 0) yield { fault: 'free', found: offer.price, wanted: 'a price above 0', isCertain: false };
}

const CURRENCIES: ReadonlySet<string> = new Set(Intl.supportedValuesOf('currency'));

const judged = (
  { evidence, locale, product }: StoreOfferFact,
  { fault, found, isCertain, wanted }: Departure,
): Assertion => ({
  outcome: isCertain ? 'failed' : 'cantTell',
  draft: {
    identity: { subject: `product ${product}`, aspect: fault },
    basis: isCertain ? 'measured' : 'estimated',
    severity: 2,
    digest: found,
    occurrence: { evidence, shown: product, data: { product, fault, found, wanted, locale } },
  },
});
