import type { IconContrastFact } from '../../../model/fact.ts';
import { type Box, pxToDp } from '../../../model/geometry.ts';
import {
  coversOf,
  cutBy,
  isActionable,
  isField,
  isPicture,
  shownText,
  type VisibleNode,
} from '../../../model/ui-tree.ts';
import type { CaptureObserver } from '../../observer.ts';
import { toHex } from '../colour.ts';
import { measureControl, measurePicture } from '../pixels/measure-picture.ts';
import type { PictureSeen, PictureUnseen } from '../pixels/picture-seen.ts';
import { seenTexts } from '../seen-texts.ts';

// A larger picture tells by many parts, as a photo does.
const MOST_ICON_DP = 96;

/** Than an icon: wide strips too. */
const isLarger = ({ height, width }: Box, densityDpi: number): boolean =>
  pxToDp(Math.min(height, width), densityDpi) > MOST_ICON_DP ||
  pxToDp(Math.max(height, width), densityDpi) > 3 * MOST_ICON_DP;

/** Contrast of every icon with what carries it: pictures, controls that show no text, and what is drawn beside a text. */
export const observeIconContrast = {
  id: 'icon-contrast',
  reads: 'capture',
  *observe(evidence) {
    const { capture, digest } = evidence;
    const { drawings, missing, nodes, pixels, texts } = seenTexts(evidence);
    if (missing.areMany) return;
    const written = new Set(texts.map(({ item }) => item));
    const factOf = (
      item: VisibleNode,
      key: string,
      boundsPx: Box,
      seen: PictureSeen | PictureUnseen,
    ): IconContrastFact => {
      const { ancestors, node } = item;
      const common = {
        kind: 'icon-contrast' as const,
        cell: capture.cell,
        evidence: digest,
        platform: capture.platform,
        element: { key, className: node.className, shown: node.label || node.text, boundsPx },
        // web content gives the words for a picture as its text
        meant: isActionable(node) || (node.label || (isPicture(node) ? node.text : '')).trim() !== '',
        enabled: node.enabled && ancestors.every((ancestor) => ancestor.enabled),
        cutBy: cutBy(item, pixels),
      };
      return typeof seen === 'string'
        ? { ...common, unseen: seen }
        : {
            ...common,
            ratio: seen.ratio,
            interval: seen.interval,
            foreground: toHex(seen.foreground),
            background: toHex(seen.background),
            ...(seen.packed && { packed: true as const }),
            ...(seen.doubtful && { doubtful: true as const }),
          };
    };
    for (const item of nodes) {
      const { key, node, visiblePx } = item;
      const isBare = (isActionable(node) || node.checkable) && !isField(node) && node.children.length === 0;
      // some toolkits give an icon as a plain view that has nothing but a description
      const isPlain = node.label.trim() !== '' && node.children.length === 0 && !isActionable(node);
      if (written.has(item) || shownText(node) || !(isPicture(node) || isBare || isPlain)) continue;
      // the picture inside it is measured, not the box around
      if (node.children.some(isPicture)) continue;
      const isIllustration = isLarger(visiblePx, capture.densityDpi);
      const look = node.checkable ? measureControl : measurePicture;
      const seen = isIllustration ? 'photo' : look(pixels, visiblePx, coversOf(item, nodes));
      // a description may speak of what is drawn elsewhere, or of nothing that is drawn
      if (isPlain && !isPicture(node) && (typeof seen === 'string' || cutBy(item, pixels))) continue;
      yield factOf(item, key, visiblePx, seen);
    }
    const counts = new Map<VisibleNode, number>();
    for (const { boundsPx, item } of drawings) {
      const count = (counts.get(item) ?? 0) + 1;
      counts.set(item, count);
      const isIllustration = isLarger(boundsPx, capture.densityDpi);
      if (isIllustration) continue;
      const seen = measurePicture(pixels, boundsPx, coversOf(item, nodes));
      // nothing in the tree speaks of it, so that a speck may be anything
      if (seen === 'too-small') continue;
      yield factOf(item, `${item.key} drawing ${count}`, boundsPx, seen);
    }
  },
} satisfies CaptureObserver;
