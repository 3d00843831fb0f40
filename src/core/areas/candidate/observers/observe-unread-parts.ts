import type { UnreadPartFact } from '../../../model/fact.ts';
import type { Problem } from '../../../model/problem.ts';
import type { PackageObserver } from '../../observer.ts';

/** Parts of the package that could not be read, so that what they would show is not known, and those that look tampered with. */
export const observeUnreadParts = {
  id: 'unread-parts',
  reads: 'package',
  *observe({ app, digest }) {
    const fact = ({ expected = '', found, place = '', remedy = '' }: Problem): UnreadPartFact => ({
      kind: 'unread-part',
      platform: app.platform,
      evidence: digest,
      place,
      found,
      expected,
      remedy,
    });
    for (const problem of app.unread) yield fact(problem);
    for (const problem of app.oddities) yield { ...fact(problem), isOdd: true } satisfies UnreadPartFact;
  },
} satisfies PackageObserver;
