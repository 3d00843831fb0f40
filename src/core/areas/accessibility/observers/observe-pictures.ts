import type { PictureFact } from '../../../model/facts/looks.ts';
import { area, type Box, intersect, pxToDp } from '../../../model/geometry.ts';
import { isActionable, isPicture, shownText, type UiNode, visibleNodes } from '../../../model/ui-tree.ts';
import { flatColour } from '../../contrast/pixels/flat-colour.ts';
import type { CaptureObserver } from '../../observer.ts';

/** Pictures that are there to be looked at: what can be acted on is told by its control. */
export const observePictures = {
  id: 'pictures',
  reads: 'capture',
  *observe({ capture, digest, pixels, tree }) {
    const nodes = visibleNodes(tree, pixels);
    const texts = nodes.filter(({ node }) => shownText(node) !== '');
    for (const { ancestors, key, node, order, visiblePx } of nodes) {
      if (!isPicture(node) || [node, ...ancestors].some(isActionable)) continue;
      const holder = ancestors.findLast(
        (ancestor) => !ancestor.scrollable && textsIn(ancestor).length > 0 && ancestor !== tree,
      );
      const flat = flatColour(pixels, visiblePx, [], stepFor(visiblePx));
      yield {
        kind: 'picture',
        cell: capture.cell,
        evidence: digest,
        platform: capture.platform,
        element: { key, className: node.className, shown: node.label, boundsPx: visiblePx },
        name: node.label.trim() || node.text.trim(),
        isHidden: [node, ...ancestors].some(({ hidden }) => hidden === true),
        widthDp: pxToDp(visiblePx.width, capture.densityDpi),
        heightDp: pxToDp(visiblePx.height, capture.densityDpi),
        beside: holder ? textsIn(holder) : [],
        over: texts.filter(
          (text) =>
            text.order > order && area(intersect(text.visiblePx, visiblePx)) > area(text.visiblePx) / 2,
        ).length,
        isDrawn: flat !== undefined && flat.share < 0.99,
      } satisfies PictureFact;
    }
  },
} satisfies CaptureObserver;

/** Some 64 by 64 points, or all of a small one. */
const stepFor = (box: Box): number => Math.max(1, Math.floor(Math.sqrt(area(box)) / 64));

const textsIn = (node: UiNode): string[] =>
  node.children.flatMap((child) => [...(shownText(child) ? [shownText(child)] : []), ...textsIn(child)]);
