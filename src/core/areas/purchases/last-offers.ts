import type { StoreListingFact, StoreOfferFact } from '../../model/facts/purchases.ts';
import type { FactIndex } from '../check.ts';

/** Of each product in each language and country the last. */
export function lastOffers(facts: FactIndex<'store-offer'>): StoreOfferFact[] {
  const last = new Map<string, StoreOfferFact>();
  for (const offer of facts.of('store-offer')) {
    const key = `${offer.product}|${offer.locale}|${offer.country ?? ''}`;
    const before = last.get(key);
    if (!before || before.at < offer.at) last.set(key, offer);
  }
  return [...last.values()];
}

/** Of each device the last. */
export function lastListings(facts: FactIndex<'store-listing'>): StoreListingFact[] {
  const last = new Map<string, StoreListingFact>();
  for (const listing of facts.of('store-listing')) {
    const before = last.get(listing.device);
    if (!before || before.at < listing.at) last.set(listing.device, listing);
  }
  return [...last.values()];
}
