import type { TargetFact } from '../../model/fact.ts';
import { area, type Box, pxToDp } from '../../model/geometry.ts';
import { isActionable, type PlacedNode, placeNodes, visibleBounds } from '../../model/ui-tree.ts';
import type { CaptureObserver } from '../observer.ts';

/** The size of everything that can be tapped, and what cuts it. */
export const observeTargets = {
  id: 'targets',
  version: 1,
  reads: 'capture',
  *observe({ capture, digest, tree, pixels }) {
    const screen: Box = { x: 0, y: 0, width: pixels.widthPx, height: pixels.heightPx };
    for (const placed of placeNodes(tree)) {
      const { node } = placed;
      const bounds = visibleBounds(placed, screen);
      if (!isActionable(node) || !node.visible || area(bounds) === 0) continue;
      yield {
        kind: 'target',
        cell: capture.cell,
        evidence: digest,
        platform: capture.platform,
        element: {
          key: placed.key,
          className: node.className,
          shown: node.label || node.text,
          boundsPx: bounds,
        },
        enabled: node.enabled,
        widthDp: pxToDp(bounds.width, capture.densityDpi),
        heightDp: pxToDp(bounds.height, capture.densityDpi),
        pixelDp: pxToDp(1, capture.densityDpi),
        cutBy: cutBy(placed, screen),
      } satisfies TargetFact;
    }
  },
} satisfies CaptureObserver;

/** The OS reports bounds already cut, so what touches the edge of its scroller may go on beyond it. */
function cutBy({ node, ancestors }: PlacedNode, screen: Box): TargetFact['cutBy'] {
  const reaches = (outer: Box) =>
    node.bounds.y <= outer.y || node.bounds.y + node.bounds.height >= outer.y + outer.height;
  const sticksOut = (outer: Box) =>
    node.bounds.x < outer.x || node.bounds.x + node.bounds.width > outer.x + outer.width;
  if (
    ancestors.some(
      (ancestor) => ancestor.scrollable && (reaches(ancestor.bounds) || sticksOut(ancestor.bounds)),
    )
  )
    return 'scroll';
  return reaches(screen) || sticksOut(screen) ? 'screen' : undefined;
}
