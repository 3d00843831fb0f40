import type { CaptureFact } from '../../../model/fact.ts';
import { toolkitOf } from '../../../model/toolkit.ts';
import { placeNodes } from '../../../model/ui-tree.ts';
import { seenTexts } from '../../contrast/seen-texts.ts';
import type { CaptureObserver } from '../../observer.ts';

/** That a capture was looked at, so that cells nobody looked at stay untested. */
export const observeCapture = {
  id: 'capture',
  reads: 'capture',
  *observe(evidence) {
    const { buildBasis, capture, digest, pixels, tree } = evidence;
    const { behindCount } = seenTexts(evidence);
    yield {
      kind: 'capture',
      cell: capture.cell,
      evidence: digest,
      platform: capture.platform,
      widthPx: pixels.widthPx,
      heightPx: pixels.heightPx,
      densityDpi: capture.densityDpi,
      elementCount: placeNodes(tree).length,
      toolkit: toolkitOf(tree, capture.platform),
      ...(capture.carries.length > 0 && { carries: capture.carries }),
      buildBasis,
      ...(capture.unproven && { unproven: capture.unproven }),
      ...(behindCount > 0 && { behindCount }),
    } satisfies CaptureFact;
  },
} satisfies CaptureObserver;
