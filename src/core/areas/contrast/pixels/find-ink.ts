/** What is written in a box of a picture: pixels that differ from the background, and how they hang together. */
import type { Box } from '../../../model/geometry.ts';
import type { Pixels } from '../../../model/ports.ts';
import {
  cropRegion,
  cropToInk,
  type FlatBackground,
  findFlatBackground,
  innermostPanel,
  sampleRows,
  sampleRowsOf,
} from './find-background.ts';
import { type Area, distance, regionOf, sampleArea } from './sample-area.ts';

/** Where a box holds ink, row by row. */
export interface Ink {
  widthPx: number;
  heightPx: number;
  ink: Uint8Array;
}

/** Ink that hangs together, bounds in pixels of the box, both ends inclusive. */
export interface Mark {
  left: number;
  right: number;
  top: number;
  bottom: number;
  /** Of its pixels. */
  count: number;
  /** What its pixels have in `MarkedInk.labels`. */
  label: number;
}

export interface MarkedInk extends Ink {
  /** The mark of each pixel; 0 where there is none. */
  labels: Int32Array;
  marks: Mark[];
}

/** A text's ink, where its background is of one colour. */
export interface FlatInk {
  kind: 'flat';
  /** What the ink was found in: the box, cropped to it. */
  area: Area;
  background: FlatBackground;
  marked: MarkedInk;
}

type BoxInk =
  | FlatInk
  | { kind: 'too-small' | 'covered' | 'no-ink' }
  /** A gradient, or a picture. */
  | { kind: 'uneven'; area: Area };

// Several observers read the ink of the same boxes, one after another; it goes with the pixels.
const known = new WeakMap<Pixels, Map<string, BoxInk>>();

/** The ink of a box, found once for each picture. */
export function inkOf(pixels: Pixels, box: Box, covers: readonly Box[], leastSeen = LEAST_SEEN): BoxInk {
  const ofPicture = known.get(pixels) ?? new Map<string, BoxInk>();
  known.set(pixels, ofPicture);
  const key = JSON.stringify([box, covers, leastSeen]);
  const found = ofPicture.get(key) ?? findBoxInk(pixels, box, covers, leastSeen);
  ofPicture.set(key, found);
  return found;
}

/** The ink of a box on its own background, and that on the innermost panel inside it, where there is one. */
export function inkLayersOf(pixels: Pixels, box: Box, covers: readonly Box[]): FlatInk[] {
  const inner = inkOf(pixels, box, covers);
  if (inner.kind !== 'flat') return [];
  const area = sampleArea(pixels, box, covers);
  const outer = findFlatBackground(pixels, regionOf(pixels, box), sampleRows(area));
  if (!outer || distance(outer.colour, inner.background.colour) < 1) return [inner];
  return [flatInk(area, outer), inner];
}

// Of the box: where less is left uncovered, it says too little.
const LEAST_SEEN = 0.5;

function findBoxInk(pixels: Pixels, box: Box, covers: readonly Box[], leastSeen: number): BoxInk {
  const region = regionOf(pixels, box);
  if (region.width < 3 || region.height < 3) return { kind: 'too-small' };
  const covered = covers.length > 0 ? sampleArea(pixels, region, covers) : undefined;
  if (covered && covered.uncoveredCount < covered.colours.length * leastSeen) return { kind: 'covered' };
  const rows = covered ? sampleRows(covered) : sampleRowsOf(pixels, region);
  const flat = findFlatBackground(pixels, region, rows);
  if (!flat) return { kind: 'uneven', area: covered ?? sampleArea(pixels, region, []) };
  if (covered) return inkOnPanel(covered, flat, covered.uncoveredCount);
  const cropped = cropRegion(pixels, region, flat);
  if (!cropped) return { kind: 'no-ink' };
  const area = sampleArea(pixels, cropped, []);
  return flat.others.length > 0 ? inkOnPanel(area, flat, region.width * region.height) : flatInk(area, flat);
}

/** @param count of the pixels that the box shows, of which the area may be a part */
function inkOnPanel(area: Area, flat: FlatBackground, count: number): BoxInk {
  const panel = innermostPanel(area, flat, count);
  const cropped = cropToInk(panel.area, panel.background);
  return cropped ? flatInk(cropped, panel.background) : { kind: 'no-ink' };
}

const flatInk = (area: Area, background: FlatBackground): FlatInk => ({
  kind: 'flat',
  area,
  background,
  marked: withoutFrames(markInk(findInk(area, background))),
});

function findInk(
  area: Area,
  { colour: background, tolerance }: Pick<FlatBackground, 'colour' | 'tolerance'>,
): Ink {
  const red = background[0];
  const green = background[1];
  const blue = background[2];
  const { colours, heightPx, widthPx } = area;
  const ink = new Uint8Array(colours.length);
  const limit = tolerance * tolerance;
  let last = -1;
  let lastIsInk = 0;
  for (let i = 0; i < colours.length; i++) {
    const colour = colours[i]!;
    if (colour !== last) {
      last = colour;
      const dr = (colour >> 16) - red;
      const dg = ((colour >> 8) & 255) - green;
      const db = (colour & 255) - blue;
      lastIsInk = colour >= 0 && dr * dr + dg * dg + db * db > limit ? 1 : 0;
    }
    ink[i] = lastIsInk;
  }
  return { widthPx, heightPx, ink };
}

/** The same on a background that changes from place to place. */
export function findInkOn(area: Area, planes: Float32Array, tolerance: number): Ink {
  const { colours, heightPx, widthPx } = area;
  const ink = new Uint8Array(colours.length);
  const limit = tolerance * tolerance;
  for (let i = 0, p = 0; i < colours.length; i++, p += 3) {
    const colour = colours[i]!;
    const dr = (colour >> 16) - planes[p]!;
    const dg = ((colour >> 8) & 255) - planes[p + 1]!;
    const db = (colour & 255) - planes[p + 2]!;
    if (colour >= 0 && dr * dr + dg * dg + db * db > limit) ink[i] = 1;
  }
  return { widthPx, heightPx, ink };
}

/**
 * Parts the ink into marks: pixels that touch, also at their corners. Runs of ink in a row are joined to those of the row
 * above that they touch (union by the lower number), so that each pixel is looked at once.
 */
export function markInk({ heightPx, ink, widthPx }: Ink): MarkedInk {
  const labels = new Int32Array(ink.length);
  const starts: number[] = [];
  const ends: number[] = [];
  const parents: number[] = [];
  const find = (run: number): number => {
    let root = run;
    while (parents[root] !== root) root = parents[root]!;
    parents[run] = root;
    return root;
  };
  let [aboveFrom, aboveTo] = [0, 0];
  for (let y = 0; y < heightPx; y++) {
    const rowEnd = (y + 1) * widthPx;
    const from = starts.length;
    let above = aboveFrom;
    for (let i = y * widthPx; i < rowEnd; ) {
      if (!ink[i]) {
        i += 1;
        continue;
      }
      const start = i;
      while (i < rowEnd && ink[i]) i += 1;
      const run = starts.length;
      starts.push(start);
      ends.push(i);
      parents.push(run);
      // those above that end before this one begins touch none of the later ones either
      while (above < aboveTo && ends[above]! + widthPx < start) above += 1;
      for (let other = above; other < aboveTo && starts[other]! + widthPx <= i; other++) {
        const a = find(run);
        const b = find(other);
        if (a !== b) parents[Math.max(a, b)] = Math.min(a, b);
      }
    }
    aboveFrom = from;
    aboveTo = starts.length;
  }
  return { widthPx, heightPx, ink, labels, marks: marksOfRuns(starts, ends, find, labels, widthPx) };
}

function marksOfRuns(
  starts: readonly number[],
  ends: readonly number[],
  find: (run: number) => number,
  labels: Int32Array,
  widthPx: number,
): Mark[] {
  const marks: Mark[] = [];
  const markOf = new Int32Array(starts.length);
  for (let run = 0; run < starts.length; run++) {
    const root = find(run);
    const start = starts[run]!;
    const end = ends[run]!;
    const y = (start / widthPx) | 0;
    const left = start - y * widthPx;
    const right = end - 1 - y * widthPx;
    if (markOf[root] === 0) {
      markOf[root] = marks.length + 1;
      marks.push({ left, right, top: y, bottom: y, count: 0, label: marks.length + 1 });
    }
    const mark = marks[markOf[root]! - 1]!;
    mark.count += end - start;
    if (left < mark.left) mark.left = left;
    if (right > mark.right) mark.right = right;
    mark.bottom = y;
    labels.fill(mark.label, start, end);
  }
  return marks;
}

export const markWidth = ({ left, right }: Pick<Mark, 'left' | 'right'>): number => right - left + 1;
export const markHeight = ({ bottom, top }: Pick<Mark, 'top' | 'bottom'>): number => bottom - top + 1;

/** Takes out what is not writing: outlines around the box, its edges, and corners rounded off onto what lies behind. */
export const withoutFrames = (marked: MarkedInk): MarkedInk =>
  keepMarks(
    marked,
    marked.marks.filter(
      (mark) => !isCorner(mark, marked) && !liesAlongEdge(mark, marked) && !isFrame(mark, marked),
    ),
  );

const spansWidth = (mark: Mark, { widthPx }: Ink): boolean => markWidth(mark) >= widthPx * 0.9;
const spansHeight = (mark: Mark, { heightPx }: Ink): boolean => markHeight(mark) >= heightPx * 0.9;

/** A letter in a tight box may lie in its corner too, but is higher than where a corner is rounded off. */
function isCorner(mark: Mark, marked: MarkedInk): boolean {
  const { heightPx, labels, widthPx } = marked;
  const last = heightPx * widthPx - 1;
  const touched = [0, widthPx - 1, last - widthPx + 1, last].filter((at) => labels[at] === mark.label).length;
  // joined along edges that fall between two pixels: what lies around a rounded shape
  if (touched >= 3) return mark.count < heightPx * widthPx * 0.5;
  if (touched >= 2) return !(spansWidth(mark, marked) && spansHeight(mark, marked));
  return touched === 1 && markHeight(mark) <= heightPx * 0.55;
}

/** A line of what lies beside the box, on one side of it or on several. */
function liesAlongEdge(mark: Mark, { heightPx, labels, widthPx }: MarkedInk): boolean {
  const touches =
    mark.left === 0 || mark.top === 0 || mark.right === widthPx - 1 || mark.bottom === heightPx - 1;
  const depth = Math.max(3, Math.round(Math.min(widthPx, heightPx) * EDGE_SHARE));
  if (!touches || mark.count > (widthPx + heightPx) * 2 * depth) return false;
  let along = 0;
  for (let y = mark.top; y <= mark.bottom; y++) {
    const isEdgeRow = y < depth || y >= heightPx - depth;
    for (let x = mark.left, i = y * widthPx + x; x <= mark.right; x++, i++)
      if (labels[i] === mark.label && (isEdgeRow || x < depth || x >= widthPx - depth)) along += 1;
  }
  return along >= mark.count * 0.8;
}

// Of the shorter side: what is no deeper is a border.
const EDGE_SHARE = 0.06;

function isFrame(mark: Mark, marked: MarkedInk): boolean {
  const { heightPx, marks, widthPx } = marked;
  const touches =
    mark.left === 0 || mark.top === 0 || mark.right === widthPx - 1 || mark.bottom === heightPx - 1;
  const isWide = spansWidth(mark, marked);
  if (touches && isWide && markHeight(mark) <= heightPx * 0.15) return true;
  const held = marks.filter((other) => other !== mark && isWithin(other, mark));
  // letters of a small text hang together too, and then span their box; they have no upper and lower edge
  const isEdged = hasEdges(mark, marked) || (held.length > 0 && isRound(mark));
  if (touches && isWide && spansHeight(mark, marked) && isEdged) return true;
  // an outline that stands off the edge: thin, and with all else inside of it
  const isThin = mark.count < markWidth(mark) * markHeight(mark) * 0.3;
  if (!isThin || markHeight(mark) < heightPx * 0.5) return false;
  if (held.length < 2 || held.length < (marks.length - 1) * 0.6) return false;
  // dots lie within the bounds of joined letters, and are not surrounded by them
  return held.filter((other) => surrounds(mark, other, marked)).length >= held.length * 0.5;
}

/** From the middle of the other one, all four ways lead to it. */
function surrounds(
  { bottom, label, left, right, top }: Mark,
  inner: Mark,
  { labels, widthPx }: MarkedInk,
): boolean {
  const [x, y] = [(inner.left + inner.right) >> 1, (inner.top + inner.bottom) >> 1];
  const meets = (fromX: number, fromY: number, stepX: number, stepY: number, count: number): boolean => {
    for (let n = 0, i = fromY * widthPx + fromX; n < count; n++, i += stepY * widthPx + stepX)
      if (labels[i] === label) return true;
    return false;
  };
  return (
    meets(x, y, -1, 0, x - left + 1) &&
    meets(x, y, 1, 0, right - x + 1) &&
    meets(x, y, 0, -1, y - top + 1) &&
    meets(x, y, 0, 1, bottom - y + 1)
  );
}

/** Almost half of its highest and of its lowest row is inked. */
function hasEdges({ bottom, label, left, right, top }: Mark, { labels, widthPx }: MarkedInk): boolean {
  const inked = (y: number) => {
    let count = 0;
    for (let i = y * widthPx + left; i <= y * widthPx + right; i++) if (labels[i] === label) count += 1;
    return count / (right - left + 1);
  };
  return inked(top) >= 0.45 && inked(bottom) >= 0.45;
}

const isRound = (mark: Mark): boolean => Math.abs(Math.log(markWidth(mark) / markHeight(mark))) < 0.35;

const isWithin = (inner: Mark, outer: Mark): boolean =>
  inner.left > outer.left &&
  inner.right < outer.right &&
  inner.top > outer.top &&
  inner.bottom < outer.bottom;

/** Only these marks are left of the ink. */
export function keepMarks(marked: MarkedInk, kept: readonly Mark[]): MarkedInk {
  if (kept.length === marked.marks.length) return marked;
  // of marks that were left out before, labels are missing in between
  const highest = kept.reduce((most, { label }) => Math.max(most, label), 0);
  const isKept = new Uint8Array(highest + 1);
  for (const { label } of kept) isKept[label] = 1;
  const ink = new Uint8Array(marked.ink.length);
  const labels = new Int32Array(marked.labels.length);
  for (let i = 0; i < ink.length; i++) {
    const label = marked.labels[i]!;
    if (!isKept[label]) continue;
    ink[i] = 1;
    labels[i] = label;
  }
  return { ...marked, ink, labels, marks: [...kept] };
}
