import { formatCell } from '../../../model/cell.ts';
import type { UnreadPartFact } from '../../../model/fact.ts';
import { seenTexts } from '../../contrast/seen-texts.ts';
import type { CaptureObserver } from '../../observer.ts';

/** A capture whose picture does not show what its tree holds: they were taken one after another, and the screen changed. */
export const observeOtherMoment = {
  id: 'other-moment',
  reads: 'capture',
  *observe(evidence) {
    const { count, areMany, of } = seenTexts(evidence).missing;
    if (!areMany) return;
    yield {
      kind: 'unread-part',
      platform: evidence.capture.platform,
      evidence: evidence.digest,
      cell: evidence.capture.cell,
      place: formatCell(evidence.capture.cell),
      found: `${count} of ${of} texts of the tree are not in the picture where they should be`,
      expected: 'picture and tree of the same moment',
      remedy: 'Capture it again, when nothing moves on the screen.',
    } satisfies UnreadPartFact;
  },
} satisfies CaptureObserver;
