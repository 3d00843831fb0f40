/** Facts of store listings: their texts, their pictures. */
import type { Listing, ListingPicture, StoreId } from '../listing.ts';
import type { Reviews } from '../review.ts';
import type { OfPackage } from './base.ts';

/** What a store shows of the app in one language. */
export interface ListingFact extends OfPackage {
  kind: 'listing';
  store: StoreId;
  /** BCP 47. */
  locale: string;
  /** Of its file. */
  name: string;
  texts: Pick<Listing, 'name' | 'short' | 'full' | 'news' | 'promotion' | 'keywords'>;
  /** From which age the store says that the app is. */
  age?: number;
  addresses: Pick<Listing, 'privacy' | 'support' | 'mail'>;
  pictures: ListingPicture[];
}

/** A table of reviews, by the names that it has. */
export interface ReviewsFact extends OfPackage, Reviews {
  kind: 'reviews';
  file: string;
}
