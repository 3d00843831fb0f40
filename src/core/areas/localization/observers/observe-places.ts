import type { PlaceFact } from '../../../model/fact.ts';
import { pxToDp } from '../../../model/geometry.ts';
import { visibleNodes } from '../../../model/ui-tree.ts';
import type { CaptureObserver } from '../../observer.ts';

/** Where everything lies that shows something of its own: texts, pictures, controls. */
export const observePlaces = {
  id: 'places',
  reads: 'capture',
  *observe({ capture, digest, pixels, tree }) {
    const seen = new Map<string, number>();
    for (const { key, node } of visibleNodes(tree, pixels)) {
      const position = (seen.get(key) ?? 0) + 1;
      seen.set(key, position);
      if (!node.text && !node.label && !node.clickable && !/Image/.test(node.className)) continue;
      const { width, x } = node.bounds;
      yield {
        kind: 'place',
        cell: capture.cell,
        evidence: digest,
        platform: capture.platform,
        key: `${key} #${position}`,
        leftDp: pxToDp(x, capture.densityDpi),
        rightDp: pxToDp(pixels.widthPx - x - width, capture.densityDpi),
        screenWidthDp: pxToDp(pixels.widthPx, capture.densityDpi),
      } satisfies PlaceFact;
    }
  },
} satisfies CaptureObserver;
