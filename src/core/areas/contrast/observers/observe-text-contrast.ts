import type { TextContrastFact } from '../../../model/fact.ts';
import { pxToDp } from '../../../model/geometry.ts';
import { cutBy, isField } from '../../../model/ui-tree.ts';
import type { CaptureObserver } from '../../observer.ts';
import { toHex } from '../colour.ts';
import type { TextSeen } from '../pixels/text-seen.ts';
import { estimateBold, estimateTextSize } from '../pixels/text-size.ts';
import { widthInEm } from '../pixels/text-widths.ts';
import { seenTexts } from '../seen-texts.ts';

/** Of iOS. Their texts are shown large while they are held (UIKit, `UILargeContentViewerInteraction`). */
const SYSTEM_BARS = new Set(['UITabBar', 'UINavigationBar', 'UIToolbar']);

// Of a text that is cut, glyphs may show a third of their height, or what is left of a frame may stand as high as three.
const HIDDEN_GLYPHS = 3;

/** Contrast of every text that a capture shows, from its pixels. */
export const observeTextContrast = {
  id: 'text-contrast',
  reads: 'capture',
  *observe(evidence) {
    const { capture, digest, pixels } = evidence;
    const { missing, texts } = seenTexts(evidence);
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
        ...(item.ancestors.some(({ className }) => SYSTEM_BARS.has(className)) && { inBar: true as const }),
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
            ? [
                pxToDp(estimated[0] / hidden, capture.densityDpi),
                pxToDp(estimated[1] * hidden, capture.densityDpi),
              ]
            : [node.textSizeDp, node.textSizeDp],
        glyphDp: pxToDp(seen.glyphHeightsPx[0] ?? seen.linePx, capture.densityDpi),
        stemDp: pxToDp(seen.stemPx, capture.densityDpi),
        linesDp: seen.lineHeightsPx.map((height) => pxToDp(height, capture.densityDpi)),
        runDp: pxToDp(seen.runPx, capture.densityDpi),
        ...(seen.edge && { edge: seen.edge }),
        ...((seen.doubtful || (!common.cutBy && !isField(node) && areBlots(seen, text))) && {
          doubtful: true,
        }),
        ...(seen.packed && { packed: true }),
        bold: node.bold ?? (seen.hasWeights ? 'unknown' : boldOf(text, seen, estimated)),
      } satisfies TextContrastFact;
    }
  },
} satisfies CaptureObserver;

// Of a line's height: the strokes of the heaviest letters are thinner.
const THICKEST = 0.45;
// Of what it would be by its letters: a wider one is cut at its foot or its top, so that only its height misleads.
const MOST_RUN = 2;

/** On what is not of one colour, specks of a pattern may happen to be as wide as the text; they are blots, and no strokes. */
function areBlots({ behind, linePx, runPx, stemPx }: TextSeen, text: string): boolean {
  const expectedEm = widthInEm(text);
  return (
    behind !== 'flat' &&
    expectedEm !== undefined &&
    /[\p{L}\p{N}]/u.test(text) &&
    runPx < linePx * expectedEm * MOST_RUN &&
    stemPx > linePx * THICKEST
  );
}

const boldOf = (text: string, seen: TextSeen, sizePx: readonly [number, number]): boolean | 'unknown' =>
  estimateBold(text, { ...seen, isOnPicture: seen.behind === 'picture' }, sizePx);

/** Where it is not clear which marks are the letters, by either reading; where parts have other colours, by any of its words. */
function sizeEither(text: string, seen: TextSeen): [number, number] {
  const words = seen.spanCount > 1 ? text.split(/\s+/).filter(Boolean) : [];
  const told = [text, ...words].flatMap((of) => [
    estimateTextSize(of, seen),
    ...(seen.otherSize ? [estimateTextSize(of, seen.otherSize)] : []),
  ]);
  return [Math.min(...told.map(([least]) => least)), Math.max(...told.map(([, most]) => most))];
}
