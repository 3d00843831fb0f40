import type { IconContrastFact } from '../../model/fact.ts';
import { pxToDp } from '../../model/geometry.ts';
import { coversOf, cutBy, isActionable, isField, isPicture, visibleNodes } from '../../model/ui-tree.ts';
import type { CaptureObserver } from '../observer.ts';
import { toHex } from './colour.ts';
import { measurePicture } from './pixels/measure-picture.ts';

// A larger picture tells by many parts, as a photo does.
const MOST_ICON_DP = 96;

/** Contrast of every icon with what surrounds it: pictures, and controls that show no text. */
export const observeIconContrast = {
  id: 'icon-contrast',
  version: 2,
  reads: 'capture',
  *observe({ capture, digest, tree, pixels }) {
    const nodes = visibleNodes(tree, pixels);
    for (const item of nodes) {
      const { ancestors, key, node, visiblePx: boundsPx } = item;
      const isBare = isActionable(node) && !isField(node) && node.children.length === 0;
      if (node.text.trim() || !(isPicture(node) || isBare)) continue;
      // the picture inside it is measured, not the box around
      if (node.children.some(isPicture)) continue;
      const common = {
        kind: 'icon-contrast' as const,
        cell: capture.cell,
        evidence: digest,
        platform: capture.platform,
        element: { key, className: node.className, shown: node.label, boundsPx },
        meant: isActionable(node) || node.label.trim() !== '',
        enabled: node.enabled && ancestors.every((ancestor) => ancestor.enabled),
        cutBy: cutBy(item, pixels),
      };
      const isIllustration =
        pxToDp(Math.min(boundsPx.width, boundsPx.height), capture.densityDpi) > MOST_ICON_DP;
      const seen = isIllustration ? 'photo' : measurePicture(pixels, boundsPx, coversOf(item, nodes));
      if (typeof seen === 'string') yield { ...common, unseen: seen } satisfies IconContrastFact;
      else
        yield {
          ...common,
          ratio: seen.ratio,
          interval: seen.interval,
          foreground: toHex(seen.foreground),
          background: toHex(seen.background),
        } satisfies IconContrastFact;
    }
  },
} satisfies CaptureObserver;
