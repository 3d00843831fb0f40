/** What the store sells is what was meant: kind, period, and a price in money that exists. */

import { z } from 'zod';
import type { StoreOfferFact } from '../../../model/facts/purchases.ts';
import type { Words } from '../../../model/finding.ts';
import type { IntentProduct } from '../../../model/intent-parts.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { lastOffers } from '../last-offers.ts';

interface Difference {
  fault: 'kind' | 'period' | 'free' | 'currency';
  found: string;
  wanted: string;
  /** A price of nothing may be meant. */
  isCertain: boolean;
}

const dataSchema = z.strictObject({
  product: z.string(),
  fault: z.enum(['kind', 'period', 'free', 'currency']),
  found: z.string(),
  wanted: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const productOffer = defineCheck({
  id: 'product-offer',
  area: 'purchases',
  priority: 'wrong',
  standard: 'ISO 4217; Apple, Product; Android, ProductDetails',
  basis: 'either',
  needs: 'store-offer',
  data: dataSchema,
  words: ({ fault, found, product, wanted }) => {
    const { remedy, what, why } = OFFERS[fault];
    return {
      what: `${product}: ${what}`,
      measured: quote(found),
      required: wanted,
      why,
      remedy,
    };
  },

  *run(facts, intent): Iterable<Assertion<Data>> {
    const seen = new Set<string>();
    for (const offer of lastOffers(facts)) {
      const wanted = intent.purchases.products.find(({ id }) => id === offer.product);
      const differences = [...differencesOf(offer, wanted)];
      if (differences.length === 0) yield { outcome: 'passed' };
      for (const difference of differences) {
        // the same in every language
        const key = `${offer.product} ${difference.fault}`;
        if (seen.has(key)) continue;
        seen.add(key);
        yield judged(offer, difference);
      }
    }
  },

  doc: {
    looksAt: 'Kind, period, price and currency of what the store returns',
    against: 'The intent file; ISO 4217. A price of 0 is estimated',
    matters: 'What is used up, kept or renewed is bought, finished and restored in different ways.',
    measured: 'Kind, period, price and currency of what the store returns, against the intent file.',
    errs: 'A price of 0 may be meant, so that it is estimated.',
    fixes: [
      {
        where: 'fenlok.yaml',
        language: 'yaml',
        code: 'purchases: { products: [{ id: pass.year, kind: subscription, period: P1Y }] }',
      },
    ],
  },
});

function* differencesOf(offer: StoreOfferFact, wanted: IntentProduct | undefined): Iterable<Difference> {
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
  { evidence, product }: StoreOfferFact,
  { fault, found, isCertain, wanted }: Difference,
): Assertion<Data> => ({
  outcome: isCertain ? 'failed' : 'cantTell',
  draft: {
    identity: { subject: `product ${product}`, aspect: fault },
    target: { kind: 'product' as const, id: product },
    basis: isCertain ? 'measured' : 'estimated',
    severity: 2,
    digest: found,
    occurrence: { evidence, shown: product, data: { product, fault, found, wanted } },
  },
});

const OFFERS: Readonly<Record<Data['fault'], Omit<Words, 'measured' | 'required'>>> = {
  kind: {
    what: 'the store has it as another kind than fenlok.yaml',
    why: 'What is used up, kept or renewed is bought, finished and restored in different ways.',
    remedy: 'Correct the kind in the store’s catalogue; most stores want a new id for it.',
  },
  period: {
    what: 'the store renews it in another rhythm than fenlok.yaml says',
    why: 'People pay more often, or less often, than the screen tells them.',
    remedy: 'Correct the period in the store’s catalogue, or in fenlok.yaml.',
  },
  free: {
    what: 'it costs nothing',
    why: 'A price that was never set is 0 in some test catalogues, and is then sold for it.',
    remedy: 'Set the price for this country; or rule that it is meant.',
  },
  currency: {
    what: 'its price is in money that does not exist',
    why: 'No amount can be shown or charged in it.',
    remedy: 'Correct the currency in the store’s catalogue.',
  },
};
