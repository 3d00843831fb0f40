import type { SideFact } from '../../../model/fact.ts';
import { type Box, pxToDp } from '../../../model/geometry.ts';
import { isLocaleTag, isRightToLeft } from '../../../model/locale.ts';
import { coversOf, isPicture, type UiNode, type VisibleNode, visibleNodes } from '../../../model/ui-tree.ts';
import { inkOf } from '../../contrast/pixels/find-ink.ts';
import type { CaptureObserver } from '../../observer.ts';
import { findArrow } from '../screens/find-arrow.ts';

// Larger pictures tell stories of their own.
const MOST_ARROW_DP = 56;

/** Where arrows point; and on right-to-left screens, where texts of its letters are drawn. */
export const observeSides = {
  id: 'sides',
  reads: 'capture',
  *observe({ capture, digest, pixels, tree }) {
    const { locale } = capture.cell;
    if (!isLocaleTag(locale)) return;
    const runsLeft = isRightToLeft(locale);
    const nodes = visibleNodes(tree, pixels);
    const toDp = (px: number) => pxToDp(px, capture.densityDpi);
    const leaves = nodes.filter(({ node }) => node.children.length === 0 && showsSomething(node));
    const fact = (
      of: (typeof nodes)[number],
      drawn: Box,
      what: Pick<SideFact, 'what' | 'points'>,
    ): SideFact => ({
      kind: 'side',
      cell: capture.cell,
      evidence: digest,
      platform: capture.platform,
      element: {
        key: of.key,
        className: of.node.className,
        shown: of.node.text || of.node.label,
        boundsPx: of.visiblePx,
      },
      ...what,
      leftDp: toDp(drawn.x),
      rightDp: toDp(pixels.widthPx - drawn.x - drawn.width),
      topDp: toDp(drawn.y),
      bottomDp: toDp(drawn.y + drawn.height),
      ...roomBeside(of, drawn, leaves, pixels.widthPx, toDp),
    });
    for (const item of nodes) {
      const { node, visiblePx } = item;
      if (runsLeft && isWrittenRightToLeft(node.text)) {
        const drawn = drawnIn(pixels, visiblePx, coversOf(item, nodes));
        if (drawn) yield fact(item, drawn, { what: 'text' });
      }
      const isIcon =
        node.text.trim() === '' &&
        node.children.length === 0 &&
        (isPicture(node) || node.clickable) &&
        toDp(Math.max(visiblePx.width, visiblePx.height)) <= MOST_ARROW_DP;
      const points = isIcon ? findArrow(pixels, visiblePx, coversOf(item, nodes)) : undefined;
      if (points) yield fact(item, visiblePx, { what: 'arrow', points });
    }
  },
} satisfies CaptureObserver;

const showsSomething = (node: UiNode): boolean =>
  node.text !== '' || node.label !== '' || node.clickable || node.checkable || isPicture(node);

/** How far it is to its neighbours in the row, or to the edges of the screen. */
function roomBeside(
  own: VisibleNode,
  drawn: Box,
  leaves: readonly VisibleNode[],
  widthPx: number,
  toDp: (px: number) => number,
): Pick<SideFact, 'roomLeftDp' | 'roomRightDp'> {
  let [left, right] = [drawn.x, widthPx - drawn.x - drawn.width];
  for (const { node, visiblePx: other } of leaves) {
    const shared = Math.min(other.y + other.height, drawn.y + drawn.height) - Math.max(other.y, drawn.y);
    if (node === own.node || shared < Math.min(other.height, drawn.height) / 2) continue;
    const toLeft = drawn.x - other.x - other.width;
    const toRight = other.x - drawn.x - drawn.width;
    if (toLeft >= 0) left = Math.min(left, toLeft);
    if (toRight >= 0) right = Math.min(right, toRight);
  }
  return { roomLeftDp: toDp(left), roomRightDp: toDp(right) };
}

const LEAST_LETTERS = 3;

/** Most of its letters run from right to left. */
function isWrittenRightToLeft(text: string): boolean {
  const own =
    text.match(/[\p{Script=Arabic}\p{Script=Hebrew}\p{Script=Syriac}\p{Script=Thaana}]/gu)?.length ?? 0;
  const all = text.match(/\p{L}/gu)?.length ?? 0;
  return own >= LEAST_LETTERS && own > all / 2;
}

/** What is inked of a box. */
function drawnIn(pixels: Parameters<typeof inkOf>[0], box: Box, covers: readonly Box[]): Box | undefined {
  const found = inkOf(pixels, box, covers);
  if (found.kind !== 'flat' || found.marked.marks.length === 0) return undefined;
  const { area, marked } = found;
  const x = Math.min(...marked.marks.map(({ left }) => left));
  const y = Math.min(...marked.marks.map(({ top }) => top));
  return {
    x: area.left + x,
    y: area.top + y,
    width: Math.max(...marked.marks.map(({ right }) => right)) + 1 - x,
    height: Math.max(...marked.marks.map(({ bottom }) => bottom)) + 1 - y,
  };
}
