import type { UnseenFocusFact } from '../../../model/fact.ts';
import { area, intersect } from '../../../model/geometry.ts';
import { toolkitOf } from '../../../model/toolkit.ts';
import { isActionable, placeNodes, type UiNode } from '../../../model/ui-tree.ts';
import type { CaptureObserver } from '../../observer.ts';

/** What takes the focus where nobody can see it. What a scroller holds may have been scrolled away, and is left out. */
export const observeUnseenFocus = {
  id: 'unseen-focus',
  reads: 'capture',
  *observe({ capture, digest, pixels, tree }) {
    const screen = { x: 0, y: 0, width: pixels.widthPx, height: pixels.heightPx };
    const isSeen = ({ bounds }: UiNode): boolean => area(intersect(bounds, screen)) >= 1;
    const holdsSeen = (node: UiNode): boolean =>
      node.children.some((child) => child.visible && (isSeen(child) || holdsSeen(child)));
    const toolkit = toolkitOf(tree, capture.platform);
    for (const { ancestors, key, node } of placeNodes(tree)) {
      const around = [...ancestors, node];
      if (!(node.focusable || node.isElement || isActionable(node)) || !node.enabled) continue;
      if (around.some((of) => of.scrollable || of.hidden || !of.visible)) continue;
      if (isSeen(node) || holdsSeen(node)) continue;
      yield {
        kind: 'unseen-focus',
        cell: capture.cell,
        evidence: digest,
        platform: capture.platform,
        element: {
          key,
          className: node.className,
          shown: node.label || node.text,
          boundsPx: node.bounds,
        },
        toolkit,
        where: area(node.bounds) < 1 ? 'no-size' : 'off-screen',
      } satisfies UnseenFocusFact;
    }
  },
} satisfies CaptureObserver;
