import type { ReviewsFact } from '../../../model/facts/listing.ts';
import type { ReviewsObserver } from '../../observer.ts';

/** A table of reviews, as it is: which of its columns means what, the intent file says. */
export const observeReviews = {
  id: 'reviews',
  reads: 'reviews',
  *observe({ digest, name, platform, reviews }) {
    yield {
      kind: 'reviews',
      platform,
      evidence: digest,
      file: name,
      rows: reviews.rows,
    } satisfies ReviewsFact;
  },
} satisfies ReviewsObserver;
