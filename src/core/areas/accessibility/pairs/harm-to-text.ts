/** What became of a text between two captures of one screen. */
import type { ScreenTextFact, SeenTextFact, TextContrastFact } from '../../../model/fact.ts';
import { area, type Box, intersect, pxToDp } from '../../../model/geometry.ts';
import { isJoined } from '../../contrast/pixels/find-words.ts';
import { isClipped } from '../../contrast/pixels/measure-glyphs.ts';
import { nodeKey, type ScreenPair, type SeenScreen } from './compare-pair.ts';

export const harmKinds = ['lost', 'cut', 'clipped', 'ellipsized', 'overlapped'] as const;
export type HarmKind = (typeof harmKinds)[number];

export interface Harm {
  kind: HarmKind;
  /** The text that it lies over, or under. */
  other?: string;
  /** Its node is there, and the picture does not show it as it was: drawn elsewhere, or cut. */
  isGuess?: true;
}

/** `out-of-sight`: it may only have been scrolled away. */
export function harmToText(key: string, pair: ScreenPair): Harm | 'out-of-sight' | undefined {
  const { after, before } = pair;
  const [was, is] = [before.texts.get(key), after.texts.get(key)];
  if (!was) return undefined;
  const label = is ? undefined : labelLeft(key, was, after);
  if (label) {
    const edges = scrolledEdges(label);
    return edges.top || edges.bottom ? 'out-of-sight' : { kind: 'clipped', isGuess: true };
  }
  if (!is)
    return was.scrollerPx && !isBetween(was, pair) && !isHolderSeen(was, pair)
      ? 'out-of-sight'
      : { kind: 'lost' };
  if (is.ellipsized) return was.ellipsized ? undefined : { kind: 'ellipsized' };
  const [inkBefore, ink] = [before.inks.get(key), after.inks.get(key)];
  if (ink?.cutBy === 'screen' && inkBefore?.cutBy !== 'screen' && isLess(inkBefore, ink))
    return { kind: 'cut' };
  if (inkBefore && ink && isCut(inkBefore, ink, [was, is], after)) return { kind: 'clipped' };
  const other = overlappedBy(key, after);
  return other !== undefined && overlappedBy(key, before) === undefined
    ? { kind: 'overlapped', other }
    : undefined;
}

/** A description that was found drawn, and is not any more, of a node that still has it. */
function labelLeft(key: string, was: ScreenTextFact, { labels }: SeenScreen): ScreenTextFact | undefined {
  const label = was.from === 'label' ? labels.get(nodeKey(key)) : undefined;
  return label?.text.includes(was.text) ? label : undefined;
}

/** Letters end at the edge, or fewer are drawn: what only reaches the edge of the screen may be whole. */
const isLess = (before: TextContrastFact | undefined, after: TextContrastFact): boolean =>
  after.unseen !== undefined ||
  after.edge !== undefined ||
  (before !== undefined && !before.unseen && lostRun(before, after));

/** Something before it and something below it, in the same scroller, is still there: it was not scrolled away. */
function isBetween({ element, order, scrollerPx }: ScreenTextFact, { after, before }: ScreenPair): boolean {
  const bottom = element.boundsPx.y + element.boundsPx.height;
  const left = [...before.texts].filter(
    ([key, text]) => isSameBox(text.scrollerPx, scrollerPx) && after.texts.get(key)?.text === text.text,
  );
  return (
    left.some(([, text]) => text.order < order) &&
    left.some(([, text]) => text.order > order && text.element.boundsPx.y >= bottom)
  );
}

/** The row or card that held it is seen whole, by another text in it. */
function isHolderSeen({ holderPx, scrollerPx }: ScreenTextFact, { after, before }: ScreenPair): boolean {
  return [...before.texts].some(([key, other]) => {
    const left = after.texts.get(key);
    // rows share their keys: where the list was scrolled, the key is another row's
    if (left?.text !== other.text) return false;
    if (!left.holderPx || !left.scrollerPx || !scrollerPx || !isSameBox(other.holderPx, holderPx))
      return false;
    const [top, bottom] = [left.holderPx.y, left.holderPx.y + left.holderPx.height];
    return top > left.scrollerPx.y && bottom < left.scrollerPx.y + left.scrollerPx.height;
  });
}

const isSameBox = (a: Box | undefined, b: Box | undefined): boolean =>
  a !== undefined &&
  b !== undefined &&
  a.x === b.x &&
  a.y === b.y &&
  a.width === b.width &&
  a.height === b.height;

// What hangs together or not makes words a little wider or narrower.
const LEAST_RUN = 0.75;
// Of the height to expect: antialiasing hides a pixel of some twenty; less where letters end at the edge besides.
const LEAST_LINE = 0.86;
const LEAST_LINE_AT_EDGE = 0.93;

/** Letters end at the edge of their box, are not as high as they are wide, or fewer are drawn than before. */
function isCut(
  before: TextContrastFact,
  after: TextContrastFact,
  [was, is]: [ScreenTextFact, ScreenTextFact],
  screen: SeenScreen,
): boolean {
  if (before.unseen || before.cutBy === 'screen' || after.cutBy === 'screen') return false;
  const edges = scrolledEdges(is);
  if (after.unseen) return !edges.top && !edges.bottom && !hasRoom(before, after, screen);
  if (before.element.shown !== after.element.shown) return false;
  // of what is scrolled away for the most part, the rest tells nothing
  if (after.cutBy === 'scroll') return false;
  if (isClipped(after.edge) && !isClipped(before.edge) && !edges[after.edge!.at]) return true;
  // what reaches an edge of its scroller may go on behind it, in more lines or fewer
  if (edges.top || edges.bottom) return false;
  const isScrolledAside = edges.side && !scrolledEdges(was).side;
  if (!isScrolledAside && lostRun(before, after)) return !isLineOverseen(before, after, screen);
  const widened = ratioOf(after.runDp, before.runDp);
  if (before.doubtful || after.doubtful || widened < 1) return false;
  const leastLine = after.edge && !before.edge ? LEAST_LINE_AT_EDGE : LEAST_LINE;
  // where lines are broken elsewhere, high and low letters may have come apart
  return (
    before.linesDp.length === after.linesDp.length &&
    Math.max(...after.linesDp) < Math.max(...before.linesDp) * widened * leastLine
  );
}

/** Fewer words are drawn than so large a text would need. */
function lostRun(before: SeenTextFact, after: SeenTextFact): boolean {
  const grown = Math.max(ratioOf(after.glyphDp, before.glyphDp), ratioOf(after.stemDp, before.stemDp));
  const widened = ratioOf(after.runDp, before.runDp);
  return widened > 0 && grown >= 1 && widened < grown * LEAST_RUN;
}

/** Of letters that hang together a line of several may be overseen; where its box has room for it, nothing cuts it off. */
function isLineOverseen(
  before: SeenTextFact,
  { element: { boundsPx, shown }, glyphDp, linesDp, runDp }: SeenTextFact,
  { capture: { densityDpi } }: SeenScreen,
): boolean {
  if (!isJoined(shown)) return false;
  const needed = Math.ceil((before.runDp * ratioOf(glyphDp, before.glyphDp)) / Math.max(1, runDp));
  return pxToDp(boundsPx.height, densityDpi) >= needed * Math.max(...linesDp);
}

/** 0 where either was not measured. */
const ratioOf = (after: number, before: number): number => (before > 0 ? after / before : 0);

/** Edges of its scroller that its box reaches, beyond which it may go on. */
function scrolledEdges({ element: { boundsPx }, scrollerPx }: ScreenTextFact) {
  if (!scrollerPx) return { top: false, bottom: false, side: false };
  const isWide = boundsPx.width >= scrollerPx.width - 1;
  return {
    top: boundsPx.y <= scrollerPx.y,
    bottom: boundsPx.y + boundsPx.height >= scrollerPx.y + scrollerPx.height,
    side:
      !isWide &&
      (boundsPx.x <= scrollerPx.x || boundsPx.x + boundsPx.width >= scrollerPx.x + scrollerPx.width),
  };
}

/** Whether its box could hold even the smaller letters. */
const hasRoom = (
  before: SeenTextFact,
  { element: { boundsPx }, unseen }: TextContrastFact,
  { capture: { densityDpi } }: SeenScreen,
): boolean =>
  unseen === 'covered' ||
  unseen === 'busy-background' ||
  (pxToDp(boundsPx.height, densityDpi) >= before.glyphDp &&
    pxToDp(boundsPx.width, densityDpi) >= before.glyphDp);

const LEAST_OVERLAP = 0.12;

/** What is written on the first other text of which it covers a part, or that covers a part of it. */
function overlappedBy(key: string, { texts }: SeenScreen): string | undefined {
  const own = texts.get(key)?.element.boundsPx;
  if (!own) return undefined;
  for (const [other, { element, text }] of texts) {
    if (other === key) continue;
    const shared = area(intersect(own, element.boundsPx));
    const [less, more] = [area(own), area(element.boundsPx)].sort((a, b) => a - b) as [number, number];
    // a text that lies wholly within another repeats a part of it
    if (shared > less * LEAST_OVERLAP && !(shared >= less * 0.98 && more > less * 1.5)) return text;
  }
  return undefined;
}
