import type { FieldEdgeFact } from '../../../model/facts/looks.ts';
import type { Box } from '../../../model/geometry.ts';
import { coversOf, cutBy, isField, shownText, type VisibleNode } from '../../../model/ui-tree.ts';
import type { CaptureObserver } from '../../observer.ts';
import { contrastRatio, type Rgb, toHex } from '../colour.ts';
import { flatColour } from '../pixels/flat-colour.ts';
import type { SettledPixels } from '../pixels/settle-colours.ts';
import { seenTexts } from '../seen-texts.ts';

// How far around a field its surroundings are looked at, and how far beyond it a frame of its own may stand.
const AROUND_DP = 6;
const FRAME_DP = 16;
/** Of its width, or its height, that a line must run along. */
const ALONG = 0.8;

/** What shows where each field is: its fill, or a line under or around it. */
export const observeFieldEdges = {
  id: 'field-edges',
  reads: 'capture',
  *observe(evidence) {
    const { capture, digest } = evidence;
    const { missing, nodes, pixels } = seenTexts(evidence);
    if (missing.areMany) return;
    const toPx = (dp: number) => (dp * capture.densityDpi) / 160;
    for (const item of nodes) {
      const { key, node, visiblePx } = item;
      if (!isField(node)) continue;
      const frame = frameOf(item, toPx(FRAME_DP));
      const edge = edgeOf(pixels, frame, coversOf(item, nodes), toPx(AROUND_DP));
      if (!edge) continue;
      const cut = cutBy(item, pixels);
      yield {
        kind: 'field-edge',
        cell: capture.cell,
        evidence: digest,
        platform: capture.platform,
        element: { key, className: node.className, shown: node.text || node.hint, boundsPx: visiblePx },
        enabled: node.enabled,
        isWritten: shownText(node) !== '',
        ...edge,
        ...(cut && { cutBy: cut }),
      } satisfies FieldEdgeFact;
    }
  },
} satisfies CaptureObserver;

/** The field, or a box around it alone that is hardly larger: toolkits draw the line of some fields on what holds them. */
function frameOf({ ancestors, visiblePx }: VisibleNode, mostPx: number): Box {
  const isNear = ({ height, width, x, y }: Box) =>
    visiblePx.x - x <= mostPx &&
    visiblePx.y - y <= mostPx &&
    x + width - visiblePx.x - visiblePx.width <= mostPx &&
    y + height - visiblePx.y - visiblePx.height <= mostPx;
  let frame = visiblePx;
  for (const { bounds, children } of ancestors.toReversed()) {
    if (children.length > 1 || !isNear(bounds)) break;
    frame = bounds;
  }
  return frame;
}

type Edge = Pick<FieldEdgeFact, 'around' | 'colour' | 'ratio' | 'shownBy'>;

function edgeOf(
  pixels: SettledPixels,
  frame: Box,
  covers: readonly Box[],
  aroundPx: number,
): Edge | undefined {
  const outer = {
    x: frame.x - aroundPx,
    y: frame.y - aroundPx,
    width: frame.width + 2 * aroundPx,
    height: frame.height + 2 * aroundPx,
  };
  const around = flatColour(pixels, outer, [frame, ...covers]);
  const inside = flatColour(pixels, frame, covers);
  // on a photo or a gradient no one colour surrounds it
  if (!around || !inside || around.share < 0.5) return undefined;
  const candidates: { shownBy: Edge['shownBy']; rgb: Rgb }[] = [
    { shownBy: 'fill', rgb: inside.rgb },
    ...linesOf(pixels, frame).map((rgb) => ({ shownBy: 'line' as const, rgb })),
  ];
  return candidates
    .map(({ rgb, shownBy }) => ({
      shownBy,
      ratio: contrastRatio(rgb, around.rgb),
      colour: toHex(rgb),
      around: toHex(around.rgb),
    }))
    .reduce((best, one) => (one.ratio > best.ratio ? one : best));
}

/** Colours of rows that run along most of the width, of one colour: an underline, or the upper and lower side of a frame. */
function linesOf(pixels: SettledPixels, frame: Box): Rgb[] {
  const lines: Rgb[] = [];
  for (let y = Math.floor(frame.y); y < frame.y + frame.height; y++) {
    const row = flatColour(pixels, { x: frame.x, y, width: frame.width, height: 1 });
    if (row && row.share >= ALONG) lines.push(row.rgb);
  }
  return lines;
}
