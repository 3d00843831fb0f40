/** The ids that the app asks for, the ids that the store returns, and those that were meant: a shorter list is an empty shop with no error. */
import type { StoreListingFact } from '../../model/facts/purchases.ts';
import { nearest } from '../../platform/text/nearest.ts';
import type { Assertion, Check, Draft } from '../check.ts';
import { lastListings } from './last-offers.ts';

export const productIds = {
  id: 'product-ids',
  area: 'purchases',
  needs: ['store-listing'],
  *run(facts, intent): Iterable<Assertion> {
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
} satisfies Check;

function* judgeListing(listing: StoreListingFact, intended: readonly string[]): Iterable<Draft> {
  const { asked, returned } = listing;
  const missing = intended.filter((id) => !asked.includes(id));
  const meant = new Set<string>();
  for (const id of asked) {
    const isIntended = intended.length === 0 || intended.includes(id);
    const near = isIntended ? undefined : nearest(id, missing);
    if (near !== undefined) meant.add(near);
    if (near !== undefined)
      yield draftOf(listing, id, 'misspelt', { near, isReturned: returned.includes(id) });
    else if (!isIntended) yield draftOf(listing, id, 'not-intended', { isReturned: returned.includes(id) });
    else if (!returned.includes(id)) yield draftOf(listing, id, 'not-returned', {});
  }
  for (const id of missing) if (!meant.has(id)) yield draftOf(listing, id, 'not-asked', {});
}

const draftOf = (
  { asked, evidence, returned }: StoreListingFact,
  product: string,
  fault: string,
  data: Record<string, string | boolean>,
): Draft => ({
  identity: { subject: `product ${product}`, aspect: fault },
  basis: 'measured',
  severity: fault === 'not-intended' ? 1 : 2,
  digest: fault,
  occurrence: {
    evidence,
    shown: product,
    data: { product, fault, asked: asked.length, returned: returned.length, ...data },
  },
});
