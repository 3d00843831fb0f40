/** The ids that the app asks for, the ids that the store returns, and those that were meant: a shorter list is an empty shop with no error. */

import { z } from 'zod';
import type { StoreListingFact } from '../../../model/facts/purchases.ts';
import { nearest } from '../../../platform/text/nearest.ts';
import type { Assertion, Draft } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { lastListings } from '../last-offers.ts';

const dataSchema = z.strictObject({
  product: z.string(),
  fault: z.enum(['misspelt', 'not-intended', 'not-returned', 'not-asked']),
  /** What was probably meant; empty where nothing is near. */
  near: z.string(),
  isReturned: z.boolean(),
  asked: z.number(),
  returned: z.number(),
});
type Data = z.infer<typeof dataSchema>;

export const productIds = defineCheck({
  id: 'product-ids',
  area: 'purchases',
  priority: 'cannot-use',
  standard: 'Apple developers, Product.products(for:); Android, queryProductDetailsAsync',
  basis: 'measured',
  needs: 'store-listing',
  data: dataSchema,
  words: ({ asked, fault, isReturned, near, product, returned }) => {
    const counted = `${returned} of ${asked} products returned`;
    const said: Record<Data['fault'], [what: string, measured: string, required: string, remedy: string]> = {
      misspelt: [
        `The app asks the store for ${quote(product)}, which is probably ${quote(near)} misspelt`,
        isReturned ? 'the store has a product of that name, too' : `${counted}; this one is not among them`,
        quote(near),
        `Ask for ${near}, or write ${product} into fenlok.yaml where it is meant.`,
      ],
      'not-intended': [
        `The app asks the store for ${quote(product)}, which fenlok.yaml does not name`,
        isReturned ? 'the store returns it' : counted,
        'products of fenlok.yaml',
        'Write it under purchases.products, or ask for it no more.',
      ],
      'not-returned': [
        `The store does not return ${quote(product)}`,
        counted,
        'every product that is asked for',
        'Look whether it is approved and for sale in this country, and whether the device is signed in to the test catalogue.',
      ],
      'not-asked': [
        `The app never asks the store for ${quote(product)}`,
        `${asked} other products asked for`,
        'every product of fenlok.yaml',
        'Ask for it, or take it out of purchases.products.',
      ],
    };
    const [what, measured, required, remedy] = said[fault];
    return {
      what,
      measured,
      required,
      why: 'What the store does not return is not in the shop, and no error says so.',
      remedy,
    };
  },

  *run(facts, intent): Iterable<Assertion<Data>> {
    const intended = intent.purchases.products.map(({ id }) => id);
    const seen = new Set<string>();
    for (const listing of lastListings(facts)) {
      const judged = [...judgeListing(listing, intended)];
      const wrong = new Set(judged.map(({ identity }) => identity.subject));
      const right = listing.asked.filter((id) => !wrong.has(`product ${id}`)).length;
      yield { outcome: 'passed', count: right };
      for (const draft of judged) {
        // two phones ask for the same
        const key = `${draft.identity.subject} ${draft.identity.aspect}`;
        if (!seen.has(key)) yield { outcome: 'failed', draft };
        seen.add(key);
      }
    }
  },

  doc: {
    looksAt: 'The product ids that the app asks the store for, and those that come back',
    against: '`purchases.products` of the intent file; a near miss is suggested',
    matters: 'What the store does not return is not in the shop, and no error says so.',
    measured:
      'The ids that the app asks for, those that come back, and those of the intent file. A near miss is suggested.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'fenlok.yaml',
        language: 'yaml',
        code: 'purchases: { products: [{ id: pass.month, kind: subscription, period: P1M }] }',
      },
    ],
  },
});

function* judgeListing(listing: StoreListingFact, intended: readonly string[]): Iterable<Draft<Data>> {
  const { asked, returned } = listing;
  const missing = intended.filter((id) => !asked.includes(id));
  const meant = new Set<string>();
  for (const id of asked) {
    const isIntended = intended.length === 0 || intended.includes(id);
    const near = isIntended ? undefined : nearest(id, missing);
    if (near !== undefined) meant.add(near);
    if (near !== undefined) yield draftOf(listing, id, 'misspelt', near);
    else if (!isIntended) yield draftOf(listing, id, 'not-intended');
    else if (!returned.includes(id)) yield draftOf(listing, id, 'not-returned');
  }
  for (const id of missing) if (!meant.has(id)) yield draftOf(listing, id, 'not-asked');
}

const draftOf = (
  { asked, evidence, returned }: StoreListingFact,
  product: string,
  fault: Data['fault'],
  near = '',
): Draft<Data> => ({
  identity: { subject: `product ${product}`, aspect: fault },
  target: { kind: 'product', id: product },
  basis: 'measured',
  severity: fault === 'not-intended' ? 1 : 2,
  digest: fault,
  occurrence: {
    evidence,
    shown: product,
    data: {
      product,
      fault,
      near,
      isReturned: returned.includes(product),
      asked: asked.length,
      returned: returned.length,
    },
  },
});
