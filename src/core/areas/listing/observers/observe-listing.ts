import type { ListingFact } from '../../../model/facts/listing.ts';
import type { ListingObserver } from '../../observer.ts';

/** Texts and pictures of one store in one language. */
export const observeListing = {
  id: 'listing',
  reads: 'listing',
  *observe({ digest, listing, name, pictures, platform }) {
    const {
      age,
      full,
      keywords,
      locale,
      mail,
      name: title,
      news,
      privacy,
      promotion,
      short,
      store,
      support,
    } = listing;
    yield {
      kind: 'listing',
      platform,
      evidence: digest,
      store,
      locale,
      name,
      texts: { name: title, short, full, news, promotion, keywords },
      addresses: { privacy, support, mail },
      ...(age !== undefined && { age }),
      pictures: [...pictures],
    } satisfies ListingFact;
  },
} satisfies ListingObserver;
