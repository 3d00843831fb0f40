import { indexBoxes } from '../../../model/box-index.ts';
import { behindCurtains } from '../../../model/curtains.ts';
import type { TargetFact } from '../../../model/fact.ts';
import { area, type Box, intersect, pxToDp } from '../../../model/geometry.ts';
import { cutBy, isActionable, type VisibleNode, visibleNodes } from '../../../model/ui-tree.ts';
import type { CaptureObserver } from '../../observer.ts';

// Further neighbours crowd nobody.
const REACH_DP = 48;

/** The size of everything that can be tapped, what cuts it, and what crowds it. */
export const observeTargets = {
  id: 'targets',
  reads: 'capture',
  *observe({ capture, digest, tree, pixels }) {
    const toDp = (px: number) => pxToDp(px, capture.densityDpi);
    const reachPx = (REACH_DP * capture.densityDpi) / 160;
    const nodes = visibleNodes(tree, pixels);
    const behind = behindCurtains(nodes, pixels);
    const targets = nodes.filter((item) => isActionable(item.node) && !behind.has(item));
    const index = indexBoxes(targets, ({ visiblePx }) => visiblePx);
    for (const target of targets) {
      const { key, node, visiblePx } = target;
      // what contains it, or is inside of it, is tapped in its own right by the platform's rule of the innermost
      const others = index
        .near(grown(visiblePx, reachPx))
        .filter(
          (other) =>
            other !== target &&
            !other.ancestors.includes(node) &&
            !target.ancestors.includes(other.node) &&
            !scrollsUnder(target, other) &&
            !scrollsUnder(other, target),
        );
      yield {
        kind: 'target',
        cell: capture.cell,
        evidence: digest,
        platform: capture.platform,
        element: { key, className: node.className, shown: node.label || node.text, boundsPx: visiblePx },
        enabled: node.enabled,
        widthDp: toDp(visiblePx.width),
        heightDp: toDp(visiblePx.height),
        pixelDp: toDp(1),
        overlaps: overlapsOf(visiblePx, others, toDp),
        clearanceDp: toDp(clearanceOf(visiblePx, others, (24 * capture.densityDpi) / 160)),
        cutBy: cutBy(target, pixels),
      } satisfies TargetFact;
    }
  },
} satisfies CaptureObserver;

/** A bar or a floating button stands over what scrolls, which a swipe mostly brings out from under it. */
const scrollsUnder = (moved: VisibleNode, fast: VisibleNode): boolean =>
  moved.ancestors.some(
    (scroller) =>
      scroller.scrollable &&
      !fast.ancestors.includes(scroller) &&
      area(intersect(scroller.bounds, fast.visiblePx)) > 0,
  );

const grown = ({ height, width, x, y }: Box, by: number): Box => ({
  x: x - by,
  y: y - by,
  width: width + 2 * by,
  height: height + 2 * by,
});

const overlapsOf = (box: Box, others: readonly VisibleNode[], toDp: (px: number) => number) =>
  others.flatMap(({ key, node, visiblePx }) => {
    const shared = intersect(box, visiblePx);
    return area(shared) === 0
      ? []
      : [{ key, shown: node.label || node.text, widthDp: toDp(shared.width), heightDp: toDp(shared.height) }];
  });

/**
 * WCAG 2.2, 2.5.8: a circle of 24 CSS px about the centre must touch neither another target nor the circle of another small
 * one. How far the nearest of them is from the centre, less the radius of that circle.
 */
function clearanceOf(box: Box, others: readonly VisibleNode[], minimumPx: number): number {
  const [x, y] = centreOf(box);
  let nearest = 1e6;
  for (const { visiblePx: other } of others) {
    const dx = Math.max(other.x - x, 0, x - other.x - other.width);
    const dy = Math.max(other.y - y, 0, y - other.y - other.height);
    nearest = Math.min(nearest, Math.hypot(dx, dy));
    if (Math.min(other.width, other.height) >= minimumPx) continue;
    const [ox, oy] = centreOf(other);
    nearest = Math.min(nearest, Math.hypot(ox - x, oy - y) - minimumPx / 2);
  }
  return nearest;
}

const centreOf = ({ height, width, x, y }: Box): [number, number] => [x + width / 2, y + height / 2];
