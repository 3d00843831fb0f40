import type { TargetFact } from '../../model/fact.ts';
import { type Box, pxToDp } from '../../model/geometry.ts';
import { isActionable, type PlacedNode, visibleNodes } from '../../model/ui-tree.ts';
import type { CaptureObserver } from '../observer.ts';

/** The size of everything that can be tapped, and what cuts it. */
export const observeTargets = {
  id: 'targets',
  version: 1,
  reads: 'capture',
  *observe({ capture, digest, tree, pixels }) {
    const screen: Box = { x: 0, y: 0, width: pixels.widthPx, height: pixels.heightPx };
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
        cutBy: cutBy(placed, screen),
      } satisfies TargetFact;
    }
  },
} satisfies CaptureObserver;

/** The OS reports bounds already cut, so what touches the edge of its scroller may go on beyond it. */
function cutBy({ node, ancestors }: PlacedNode, screen: Box): TargetFact['cutBy'] {
  const { x, y, width, height } = node.bounds;
  const reaches = (outer: Box) => y <= outer.y || y + height >= outer.y + outer.height;
  const sticksOut = (outer: Box) => x < outer.x || x + width > outer.x + outer.width;
  const isCut = (outer: Box) => reaches(outer) || sticksOut(outer);
  if (ancestors.some((ancestor) => ancestor.scrollable && isCut(ancestor.bounds))) return 'scroll';
  return isCut(screen) ? 'screen' : undefined;
}
