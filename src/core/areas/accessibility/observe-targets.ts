import type { TargetFact } from '../../model/fact.ts';
import { pxToDp } from '../../model/geometry.ts';
import { cutBy, isActionable, visibleNodes } from '../../model/ui-tree.ts';
import type { CaptureObserver } from '../observer.ts';

/** The size of everything that can be tapped, and what cuts it. */
export const observeTargets = {
  id: 'targets',
  version: 1,
  reads: 'capture',
  *observe({ capture, digest, tree, pixels }) {
    for (const placed of visibleNodes(tree, pixels)) {
      const { key, node, visiblePx } = placed;
      if (!isActionable(node)) continue;
      yield {
        kind: 'target',
        cell: capture.cell,
        evidence: digest,
        platform: capture.platform,
        element: { key, className: node.className, shown: node.label || node.text, boundsPx: visiblePx },
        enabled: node.enabled,
        widthDp: pxToDp(visiblePx.width, capture.densityDpi),
        heightDp: pxToDp(visiblePx.height, capture.densityDpi),
        pixelDp: pxToDp(1, capture.densityDpi),
        cutBy: cutBy(placed, pixels),
      } satisfies TargetFact;
    }
  },
} satisfies CaptureObserver;
