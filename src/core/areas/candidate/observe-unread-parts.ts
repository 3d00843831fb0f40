import type { UnreadPartFact } from '../../model/fact.ts';
import type { PackageObserver } from '../observer.ts';

/** Parts of the package that were there and could not be read: what they would show is not known. */
export const observeUnreadParts = {
  id: 'unread-parts',
  version: 1,
  reads: 'package',
  *observe({ app, digest }) {
    for (const { expected = '', found, place = '', remedy = '' } of app.unread)
      yield {
        kind: 'unread-part',
        platform: app.platform,
        evidence: digest,
        place,
        found,
        expected,
        remedy,
      } satisfies UnreadPartFact;
  },
} satisfies PackageObserver;
