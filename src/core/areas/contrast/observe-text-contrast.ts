import type { TextContrastFact } from '../../model/fact.ts';
import { pxToDp } from '../../model/geometry.ts';
import { coversOf, cutBy, visibleNodes } from '../../model/ui-tree.ts';
import type { CaptureObserver } from '../observer.ts';
import { toHex } from './colour.ts';
import { measureText } from './measure-text.ts';
import { estimateTextSize } from './text-size.ts';

// Of a text that is cut, glyphs may show a third of their height.
const HIDDEN_GLYPHS = 3;

/** Contrast of every text that a capture shows, from its pixels. */
export const observeTextContrast = {
  id: 'text-contrast',
  version: 2,
  reads: 'capture',
  *observe({ capture, digest, tree, pixels }) {
    const nodes = visibleNodes(tree, pixels);
    for (const item of nodes) {
      const { key, node, visiblePx: bounds } = item;
      if (!node.text.trim()) continue;
      const common = {
        kind: 'text-contrast' as const,
        cell: capture.cell,
        evidence: digest,
        platform: capture.platform,
        element: { key, className: node.className, shown: node.text, boundsPx: bounds },
        enabled: node.enabled && item.ancestors.every((ancestor) => ancestor.enabled),
        cutBy: cutBy(item, pixels),
      };
      const seen = measureText(pixels, bounds, coversOf(item, nodes));
      if (typeof seen === 'string') {
        yield { ...common, unseen: seen } satisfies TextContrastFact;
        continue;
      }
      const [lowestPx, highestPx] = estimateTextSize(node.text, seen.lineHeightsPx);
      const hidden = common.cutBy ? HIDDEN_GLYPHS : 1;
      yield {
        ...common,
        ratio: seen.ratio,
        interval: seen.interval,
        foreground: toHex(seen.foreground),
        background: toHex(seen.background),
        reached: seen.reached,
        textSizeDp: [pxToDp(lowestPx, capture.densityDpi), pxToDp(highestPx * hidden, capture.densityDpi)],
      } satisfies TextContrastFact;
    }
  },
} satisfies CaptureObserver;
