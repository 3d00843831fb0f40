import type { TextContrastFact } from '../../../model/fact.ts';
import { pxToDp } from '../../../model/geometry.ts';
import { cutBy, type UiNode } from '../../../model/ui-tree.ts';
import type { CaptureObserver } from '../../observer.ts';
import { toHex } from '../colour.ts';
import type { TextSeen } from '../pixels/text-seen.ts';
import { estimateBold, estimateTextSize } from '../pixels/text-size.ts';
import { seenTexts } from '../seen-texts.ts';

// Of a text that is cut, glyphs may show a third of their height.
const HIDDEN_GLYPHS = 3;

/** Contrast of every text that a capture shows, from its pixels. */
export const observeTextContrast = {
  id: 'text-contrast',
  reads: 'capture',
  *observe(evidence) {
    const { capture, digest, pixels } = evidence;
    const { isPacked, missing, texts } = seenTexts(evidence);
    // told once, by `other-moment`
    if (missing.areMany) return;
    for (const { boundsPx, from, item, line, seen, text } of texts) {
      const { key, node } = item;
      const common = {
        kind: 'text-contrast' as const,
        cell: capture.cell,
        evidence: digest,
        platform: capture.platform,
        element: {
          key: line > 0 ? `${key} line ${line + 1}` : key,
          className: node.className,
          shown: text,
          boundsPx,
        },
        enabled: node.enabled && item.ancestors.every((ancestor) => ancestor.enabled),
        ...(from === 'description' && { described: true as const }),
        cutBy: cutBy(item, pixels),
      };
      if (typeof seen === 'string') {
        yield { ...common, unseen: seen } satisfies TextContrastFact;
        continue;
      }
      const estimated = sizeEither(text, seen);
      const hidden = common.cutBy ? HIDDEN_GLYPHS : 1;
      yield {
        ...common,
        ratio: seen.ratio,
        interval: seen.interval,
        foreground: toHex(seen.foreground),
        background: toHex(seen.background),
        behind: seen.behind,
        meanRatio: seen.meanRatio,
        reached: seen.reached,
        sizeFrom: node.textSizeDp === undefined ? 'glyphs' : 'tree',
        textSizeDp:
          node.textSizeDp === undefined
            ? [pxToDp(estimated[0], capture.densityDpi), pxToDp(estimated[1] * hidden, capture.densityDpi)]
            : [node.textSizeDp, node.textSizeDp],
        glyphDp: pxToDp(seen.glyphHeightsPx[0] ?? seen.linePx, capture.densityDpi),
        stemDp: pxToDp(seen.stemPx, capture.densityDpi),
        linesDp: seen.lineHeightsPx.map((height) => pxToDp(height, capture.densityDpi)),
        runDp: pxToDp(seen.runPx, capture.densityDpi),
        ...(seen.edge && { edge: seen.edge }),
        ...((seen.doubtful || isOffSize(estimated, node, capture.densityDpi)) && { doubtful: true }),
        ...(isPacked && { packed: true }),
        bold: node.bold ?? estimateBold(text, seen.stemPx, estimated),
      } satisfies TextContrastFact;
    }
  },
} satisfies CaptureObserver;

// Nobody writes smaller.
const SMALLEST_DP = 6;
// Designs differ by less from what their glyphs say of the size.
const OFF_SIZE = 1.5;

/** Specks of a pattern may happen to be as wide as the text would be, at a size that nobody writes, or that it does not have. */
function isOffSize(
  estimatedPx: readonly [number, number],
  { textSizeDp }: UiNode,
  densityDpi: number,
): boolean {
  const [least, most] = estimatedPx.map((px) => pxToDp(px, densityDpi)) as [number, number];
  if (textSizeDp === undefined) return most < SMALLEST_DP;
  return most * OFF_SIZE < textSizeDp || least > textSizeDp * OFF_SIZE;
}

/** Where it is not clear which marks are the letters, by either reading. */
function sizeEither(text: string, seen: TextSeen): [number, number] {
  const own = estimateTextSize(text, seen);
  const other = seen.otherSize ? estimateTextSize(text, seen.otherSize) : own;
  return [Math.min(own[0], other[0]), Math.max(own[1], other[1])];
}
