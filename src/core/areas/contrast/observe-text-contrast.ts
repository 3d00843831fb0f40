import type { TextContrastFact } from '../../model/fact.ts';
import { area, type Box, intersect, pxToDp } from '../../model/geometry.ts';
import { type PlacedNode, placeNodes, visibleBounds } from '../../model/ui-tree.ts';
import type { CaptureObserver } from '../observer.ts';
import { toHex } from './colour.ts';
import { measureText } from './measure-text.ts';
import { estimateTextSize } from './text-size.ts';

/** Contrast of every text that a capture shows, from its pixels. */
export const observeTextContrast = {
  id: 'text-contrast',
  version: 1,
  reads: 'capture',
  *observe({ capture, digest, tree, pixels }) {
    const screen: Box = { x: 0, y: 0, width: pixels.widthPx, height: pixels.heightPx };
    const placed = placeNodes(tree);
    for (const item of placed) {
      const { node } = item;
      if (!node.text.trim() || !node.visible) continue;
      const bounds = visibleBounds(item, screen);
      if (area(bounds) === 0) continue;
      const seen = measureText(pixels, bounds, coversOf(item, placed, bounds));
      const common = {
        kind: 'text-contrast' as const,
        cell: capture.cell,
        evidence: digest,
        platform: capture.platform,
        element: { key: item.key, className: node.className, shown: node.text, boundsPx: bounds },
        enabled: node.enabled && item.ancestors.every((ancestor) => ancestor.enabled),
      };
      if (typeof seen === 'string') {
        yield {
          ...common,
          unseen: seen,
          ratio: 0,
          interval: [1, 21],
          foreground: '',
          background: '',
          reached: 0,
          textSizeDp: [0, 0],
        } satisfies TextContrastFact;
        continue;
      }
      const [lowestPx, highestPx] = estimateTextSize(node.text, seen.lineHeightsPx);
      yield {
        ...common,
        ratio: seen.ratio,
        interval: seen.interval,
        foreground: toHex(seen.foreground),
        background: toHex(seen.background),
        reached: seen.reached,
        textSizeDp: [pxToDp(lowestPx, capture.densityDpi), pxToDp(highestPx, capture.densityDpi)],
      } satisfies TextContrastFact;
    }
  },
} satisfies CaptureObserver;

/** What is drawn over a part of the element: later in drawing order, with something to show, not around it. */
function coversOf(item: PlacedNode, placed: readonly PlacedNode[], bounds: Box): Box[] {
  return placed
    .filter((other) => other.order > item.order && !other.ancestors.includes(item.node) && other.node.visible)
    .filter((other) => other.node.text || other.node.clickable || /Image/.test(other.node.className))
    .map((other) => intersect(other.node.bounds, bounds))
    .filter((box) => area(box) > 0);
}
