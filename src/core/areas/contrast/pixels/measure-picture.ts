/**
 * The contrast of an icon with what carries it: the shape that lies around it (a button, a pill, a badge), or the screen.
 *
 *      ┌──────────────┐      the plain at the edge of the box is the screen; a plain
 *      │  ╭────────╮  │      inside it that goes all around something else is a shape,
 *      │  │   ▟▙   │  │      filled or outlined, and what it goes around lies on it;
 *      │  │   ▜▛   │  │      the innermost such plain carries the glyph
 *      │  ╰────────╯  │
 *      └──────────────┘
 *
 * A drawing of several colours is given with an interval from its faintest to its strongest part. A photo, which has no
 * plains, is told apart.
 */
import type { Box } from '../../../model/geometry.ts';
import type { Pixels } from '../../../model/ports.ts';
import { contrastRatio, type Rgb } from '../colour.ts';
import { backgroundUnder, faintestStretch, planesOf } from './faintest-stretch.ts';
import { findEnd, leastCoverage } from './find-end.ts';
import {
  type Ink,
  keepMarks,
  type Mark,
  type MarkedInk,
  markHeight,
  markInk,
  markWidth,
} from './find-ink.ts';
import { enclosedBy, findPlains, type Plains } from './find-plains.ts';
import { findSpans } from './find-spans.ts';
import { type Area, countColours, distance, OFF_LINE, offLine, sampleArea, toRgb } from './sample-area.ts';

export interface PictureSeen {
  foreground: Rgb;
  background: Rgb;
  ratio: number;
  interval: [number, number];
}

// Colours: a drawing of more is an illustration, which tells by more than one shape.
const MOST_PARTS = 2;

interface DrawingSeen extends PictureSeen {
  /** Colours that are more than a detail. */
  partCount: number;
  isOneColour: boolean;
}

export type PictureUnseen = 'no-ink' | 'too-small' | 'covered' | 'busy-background' | 'photo';

// Room around the box, in which what surrounds it is seen.
const RING_PX = 3;
const LEAST_RING_SHARE = 0.55;
const LEAST_BOX_PX = 6;
const LEAST_INK = 12;
// Of the ink; less is a detail.
const LEAST_PART = 0.15;
const TOLERANCE = 6;
const MAX_SHAPES = 4;

/** @param box the element's visible bounds, within the picture */
export const measurePicture = (
  pixels: Pixels,
  box: Box,
  covers: readonly Box[],
): PictureSeen | PictureUnseen => look(pixels, box, covers, innermostCarrier);

/**
 * A switch, a box or a radio button: its outline on the screen, or the part inside it on its outline, shows it. The interval
 * holds both; the ratio is that of the one that stands out more.
 */
export function measureControl(
  pixels: Pixels,
  box: Box,
  covers: readonly Box[],
): PictureSeen | PictureUnseen {
  const inner = measurePicture(pixels, box, covers);
  const outer = look(pixels, box, covers, (area, _, label) => ({ carrier: label, within: everywhere(area) }));
  if (typeof inner === 'string') return outer;
  if (typeof outer === 'string') return inner;
  const stronger = outer.ratio > inner.ratio ? outer : inner;
  return {
    ...stronger,
    interval: [
      Math.min(inner.interval[0], outer.interval[0]),
      Math.max(inner.interval[1], outer.interval[1]),
    ],
  };
}

type FindCarrier = (area: Area, found: Plains, outer: number) => Carrier;

function look(
  pixels: Pixels,
  box: Box,
  covers: readonly Box[],
  findCarrier: FindCarrier,
): PictureSeen | PictureUnseen {
  if (box.width < LEAST_BOX_PX || box.height < LEAST_BOX_PX) return 'too-small';
  const area = sampleArea(pixels, grow(box, RING_PX), covers);
  if (area.uncoveredCount < area.colours.length * 0.5) return 'covered';
  const plain = ofTwoColours(area);
  if (plain) return plain;
  const found = findPlains(area);
  const outer = commonestAtEdge(area, found);
  if (!outer) {
    const onPattern = measureOnUneven(area);
    if (!onPattern) return isPhoto(area, found) ? 'photo' : 'busy-background';
    return onPattern;
  }
  const { carrier, within } = findCarrier(area, found, outer);
  const background = commonColourOf(area, found.labels, carrier);
  const isNoisy = levelsNear(area, found.labels, carrier, background) >= NOISY_LEVELS;
  const tolerance = isNoisy ? NOISY_TOLERANCE : TOLERANCE;
  const marked = markInk(inkWithin(area, within, background, tolerance));
  const own = carrier === outer ? withoutNeighbours(marked, area) : marked;
  const count = own.marks.reduce((sum, mark) => sum + mark.count, 0);
  if (count < LEAST_INK) return 'no-ink';
  if (isPhoto(area, found) && count > area.colours.length * 0.6) return 'photo';
  const isStrewn =
    carrier === outer && (contactsOf(marked, area) >= PATTERN_CONTACTS || own.marks.length > MAX_MARKS);
  const onPattern = isStrewn ? measureOnUneven(area) : undefined;
  if (onPattern) return onPattern;
  const drawing = measureInk(area, own, background);
  if (!drawing) return 'no-ink';
  if (drawing.partCount > MOST_PARTS) return 'photo';
  const { isOneColour, partCount, ...seen } = drawing;
  if (isNoisy) return widened(seen, NOISY_SPREAD);
  // several colours are those of the drawing, or of what is strewn behind it
  return isOneColour && !isStrewn ? seen : joined(seen, measureOnUneven(area));
}

// Of the ink: so much has the drawing's colour itself, and all else is a mixture of it and the ground.
const LEAST_MAIN = 0.3;
const MIXED_LEVELS = 10;

/** The common case, told without a look at shapes: all around is of one colour, and the drawing of one other. */
function ofTwoColours(area: Area): PictureSeen | undefined {
  const { colours, widthPx } = area;
  const ground = colours[0]!;
  if (ground < 0) return undefined;
  for (let i = 0; i < colours.length; i++) {
    if (isAtEdge(i, area) && colours[i] !== ground) return undefined;
    // skip what lies inside of the edge
    if (i % widthPx === RING_PX - 1 && i > RING_PX * widthPx && i < colours.length - RING_PX * widthPx)
      i += widthPx - 2 * RING_PX;
  }
  const counts = [...countColours(colours)].filter(([colour]) => colour !== ground);
  const total = counts.reduce((sum, [, count]) => sum + count, 0);
  const [own, most] = counts.reduce((best, one) => (one[1] > best[1] ? one : best), [-1, 0]);
  if (total < LEAST_INK || most < total * LEAST_MAIN) return undefined;
  const [background, foreground] = [toRgb(ground), toRgb(own)];
  if (counts.some(([colour]) => offLine(toRgb(colour), background, foreground) > MIXED_LEVELS))
    return undefined;
  const ratio = contrastRatio(foreground, background);
  const rounding = Math.max(ratio * 0.008, 0.015);
  return {
    foreground,
    background,
    ratio,
    interval: [Math.max(1, ratio - rounding), Math.min(21, ratio + rounding)],
  };
}

const everywhere = ({ colours }: Area): Uint8Array => new Uint8Array(colours.length).fill(1);

// Marks that reach the edge of the box: a neighbour touches it once or twice, a pattern on all sides.
const PATTERN_CONTACTS = 3;
// A drawing falls into fewer.
const MAX_MARKS = 8;

const contactsOf = ({ marks }: MarkedInk, { heightPx, widthPx }: Area): number =>
  marks.reduce(
    (sum, { bottom, left, right, top }) =>
      sum + [left === 0, top === 0, right === widthPx - 1, bottom === heightPx - 1].filter(Boolean).length,
    0,
  );

/** Without what reaches in from beside the box, where there is anything else. */
function withoutNeighbours(marked: MarkedInk, area: Area): MarkedInk {
  const inside = marked.marks.filter((mark) => !crossesEdge(mark, area));
  const count = inside.reduce((sum, mark) => sum + mark.count, 0);
  return count >= LEAST_INK && inside.length < marked.marks.length ? keepMarks(marked, inside) : marked;
}

const grow = ({ height, width, x, y }: Box, by: number): Box => ({
  x: x - by,
  y: y - by,
  width: width + 2 * by,
  height: height + 2 * by,
});

/** The plain of most of what surrounds the box. */
function commonestAtEdge(area: Area, { labels }: Plains): number | undefined {
  const counts = new Map<number, number>();
  let total = 0;
  for (let i = 0; i < labels.length; i++) {
    if (!isAtEdge(i, area) || area.colours[i]! < 0) continue;
    total += 1;
    counts.set(labels[i]!, (counts.get(labels[i]!) ?? 0) + 1);
  }
  const [label, count] = [...counts].filter(([of]) => of > 0).sort((a, b) => b[1] - a[1])[0] ?? [0, 0];
  return count >= total * LEAST_RING_SHARE ? label : undefined;
}

const crossesEdge = ({ bottom, left, right, top }: Mark, { heightPx, widthPx }: Area): boolean =>
  left === 0 || top === 0 || right === widthPx - 1 || bottom === heightPx - 1;

interface Carrier {
  carrier: number;
  /** 1 for each pixel where the glyph may lie. */
  within: Uint8Array;
}

function innermostCarrier(area: Area, found: Plains, outer: number): Carrier {
  let inner: Carrier = { carrier: outer, within: everywhere(area) };
  for (let depth = 0; depth < MAX_SHAPES; depth++) {
    const shape = shapeWithin(area, found, inner);
    if (!shape) break;
    inner = shape;
  }
  return inner;
}

// Of a shape's own extent: what it goes around is a glyph, and no speck.
const LEAST_GLYPH_SHARE = 0.2;
const LEAST_SHAPE_PX = 10;

/** The largest plain inside that goes all around something. */
function shapeWithin(
  area: Area,
  { labels, plains }: Plains,
  { carrier, within }: Carrier,
): Carrier | undefined {
  const { widthPx } = area;
  const inside = plains
    .filter(({ label }) => label !== carrier)
    .filter((plain) => Math.min(markWidth(plain), markHeight(plain)) >= LEAST_SHAPE_PX)
    .sort((a, b) => markWidth(b) * markHeight(b) - markWidth(a) * markHeight(a));
  for (const plain of inside) {
    if (!isWithin(plain.label, labels, within)) continue;
    const enclosed = enclosedBy(plain, labels, widthPx);
    const extent = extentOf(enclosed, widthPx);
    if (!extent || extent.count < LEAST_INK) continue;
    const share = Math.max(markWidth(extent) / markWidth(plain), markHeight(extent) / markHeight(plain));
    if (share < LEAST_GLYPH_SHARE) continue;
    if (isOneDrawing(area, labels, { carrier, plain: plain.label, enclosed })) continue;
    return { carrier: plain.label, within: enclosed };
  }
  return undefined;
}

const isWithin = (label: number, labels: Int32Array, within: Uint8Array): boolean =>
  within[labels.indexOf(label)] === 1;

/** Lines of one colour on the screen's own colour, inside and around: a clock's rim and hands are one glyph. */
function isOneDrawing(
  area: Area,
  labels: Int32Array,
  { carrier, enclosed, plain }: { carrier: number; plain: number; enclosed: Uint8Array },
): boolean {
  const ground = commonColourOf(area, labels, plain);
  if (distance(ground, commonColourOf(area, labels, carrier)) > TOLERANCE) return false;
  const inner = strongest(area, ground, (i) => enclosed[i] === 1);
  // what lies just outside of it, on its way to the screen
  const rim = strongest(
    area,
    ground,
    (i) => labels[i] !== plain && !enclosed[i] && touches(i, plain, labels, area),
  );
  return !!inner && !!rim && distance(inner, rim) <= SAME_INK;
}
const SAME_INK = 40;
const RIM_PX = 3;

function touches(i: number, plain: number, labels: Int32Array, { widthPx }: Area): boolean {
  for (let reach = 1; reach <= RIM_PX; reach++)
    for (const at of [i - reach, i + reach, i - reach * widthPx, i + reach * widthPx])
      if (labels[at] === plain) return true;
  return false;
}

/** The colour that departs most from the ground, of those that more than a few pixels have. */
function strongest({ colours }: Area, ground: Rgb, isOf: (i: number) => boolean): Rgb | undefined {
  const off: [number, number][] = [];
  for (let i = 0; i < colours.length; i++)
    if (colours[i]! >= 0 && isOf(i)) off.push([distance(toRgb(colours[i]!), ground), colours[i]!]);
  if (off.length === 0) return undefined;
  off.sort((a, b) => b[0] - a[0]);
  return toRgb(off[Math.floor(off.length * 0.1)]![1]);
}

function extentOf(mask: Uint8Array, widthPx: number) {
  const extent = { left: widthPx, right: -1, top: -1, bottom: -1, count: 0 };
  for (let i = 0; i < mask.length; i++) {
    if (!mask[i]) continue;
    const y = (i / widthPx) | 0;
    const x = i - y * widthPx;
    extent.left = Math.min(extent.left, x);
    extent.right = Math.max(extent.right, x);
    if (extent.top < 0) extent.top = y;
    extent.bottom = y;
    extent.count += 1;
  }
  return extent.count > 0 ? extent : undefined;
}

function commonColourOf({ colours }: Area, labels: Int32Array, label: number): Rgb {
  const mask = new Uint8Array(labels.length);
  for (let i = 0; i < labels.length; i++) if (labels[i] === label) mask[i] = 1;
  let [best, most] = [0, 0];
  for (const [colour, count] of countColours(colours, mask)) if (count > most) [best, most] = [colour, count];
  return toRgb(best);
}

function inkWithin(
  { colours, heightPx, widthPx }: Area,
  within: Uint8Array,
  [red, green, blue]: Rgb,
  tolerance: number,
): Ink {
  const ink = new Uint8Array(colours.length);
  for (let i = 0; i < colours.length; i++) {
    const colour = colours[i]!;
    if (!within[i] || colour < 0) continue;
    const [dr, dg, db] = [(colour >> 16) - red, ((colour >> 8) & 255) - green, (colour & 255) - blue];
    if (dr * dr + dg * dg + db * db > tolerance * tolerance) ink[i] = 1;
  }
  return { widthPx, heightPx, ink };
}

// Of the area: less lies in plains of a photo.
const LEAST_IN_PLAINS = 0.4;

const isPhoto = ({ colours }: Area, { plains }: Plains): boolean =>
  plains.slice(0, 8).reduce((sum, { count }) => sum + count, 0) < colours.length * LEAST_IN_PLAINS;

/** Of each colour of the drawing that is more than a detail; they are apart where strokes or plains have it. */
function measureInk(area: Area, marked: MarkedInk, background: Rgb): DrawingSeen | undefined {
  const surface = { flat: background };
  const words = marked.marks.map((mark) => ({ ...mark, marks: [mark] }));
  const spans = findSpans(area, marked, words, surface);
  const total = spans.reduce((sum, { pixels }) => sum + pixels.length, 0);
  const seen = spans.flatMap((span) => {
    const end = findEnd(area, span, surface);
    if (!end || span.pixels.length < total * LEAST_PART) return [];
    const ratio = contrastRatio(end.colour, background);
    const most = 1 + (ratio - 1) / leastCoverage(end) ** 2;
    const rounding = Math.max(ratio * 0.008, 0.015);
    const interval: [number, number] = [
      Math.max(1, ratio - rounding),
      Math.min(21, Math.max(ratio, most) + rounding),
    ];
    return [{ foreground: end.colour, background, ratio, interval, count: span.pixels.length }];
  });
  const [main] = seen.sort((a, b) => b.count - a.count);
  if (!main) return undefined;
  const { background: behind, foreground, ratio } = main;
  return {
    foreground,
    background: behind,
    ratio,
    interval: [
      Math.min(...seen.map(({ interval }) => interval[0])),
      Math.max(...seen.map(({ interval }) => interval[1])),
    ],
    partCount: seen.length,
    isOneColour: spans.length === 1 && !hasOthers(area, marked, background, main.foreground),
  };
}

// Of the ink.
const LEAST_OTHERS = 0.02;

/** Some of the ink is no mixture of the ground and the drawing's colour. */
function hasOthers({ colours }: Area, { ink }: MarkedInk, from: Rgb, to: Rgb): boolean {
  let [off, total] = [0, 0];
  for (const [colour, count] of countColours(colours, ink)) {
    total += count;
    if (offLine(toRgb(colour), from, to) > OFF_LINE) off += count;
  }
  return off > total * LEAST_OTHERS;
}

// A picture that was packed with losses: colours about the ground's own, and what they may hide of a ratio.
const NOISY_LEVELS = 12;
const NOISY_TOLERANCE = 20;
const NOISY_SPREAD = 1.3;

function levelsNear({ colours }: Area, labels: Int32Array, label: number, colour: Rgb): number {
  const mask = Uint8Array.from(labels, (of) => (of === label ? 1 : 0));
  return [...countColours(colours, mask).keys()].filter(
    (other) => distance(toRgb(other), colour) <= TOLERANCE,
  ).length;
}

const widened = ({ interval, ...seen }: PictureSeen, by: number): PictureSeen => ({
  ...seen,
  interval: [Math.max(1, interval[0] / by), Math.min(21, interval[1] * by)],
});

/** What both ways of looking at it may be. */
const joined = ({ interval, ...seen }: PictureSeen, other: PictureSeen | undefined): PictureSeen => ({
  ...seen,
  interval: [
    Math.min(interval[0] / STREWN, other?.interval[0] ?? interval[0]),
    Math.max(interval[1] * STREWN, other?.interval[1] ?? interval[1]),
  ],
});
const STREWN = 1.05;

// What no colour around the box comes near to is the drawing's own.
const NOVEL_LEVELS = 30;
const LEAST_OF_NOVEL = 0.12;
const UNSURE = 1.1;
// Half a drawing is a stretch that can be told by itself.
const STRETCHES = [0.4, 0.5, 0.6];

/** On a pattern or a photo: the colour of the drawing is one that nothing around the box has. */
function measureOnUneven(area: Area): PictureSeen | undefined {
  const { colours, heightPx, widthPx } = area;
  const around = coarse(colours.filter((colour, i) => colour >= 0 && isAtEdge(i, area)));
  const own = commonestNovel(area, around);
  if (!own) return undefined;
  const ink = Uint8Array.from(colours, (colour, i) =>
    colour >= 0 && !isAtEdge(i, area) && isNearer(toRgb(colour), own, around) ? 1 : 0,
  );
  const marked = markInk({ widthPx, heightPx, ink });
  const extent = extentOf(marked.ink, widthPx);
  if (!extent || extent.count < LEAST_INK) return undefined;
  const under = backgroundUnder(area, marked.ink, markHeight(extent));
  const surface = { planes: planesOf(under, area) };
  const words = [{ ...extent, marks: marked.marks }];
  const [span] = findSpans(area, marked, words, surface);
  const end = span && findEnd(area, span, surface);
  if (!end) return undefined;
  const stretches = STRETCHES.flatMap(
    (share) => faintestStretch(under, end.colour, markWidth(extent) * share) ?? [],
  ).sort((a, b) => a.ratio - b.ratio);
  const [faintest] = stretches;
  if (!faintest) return undefined;
  const most = 1 + (stretches.at(-1)!.ratio - 1) / leastCoverage(end) ** 2;
  return {
    foreground: end.colour,
    background: faintest.background,
    ratio: faintest.ratio,
    interval: [
      Math.max(1, Math.min(...stretches.map(({ lowest }) => lowest)) / UNSURE),
      Math.min(21, most * UNSURE),
    ],
  };
}

function isAtEdge(i: number, { heightPx, widthPx }: Area): boolean {
  const y = (i / widthPx) | 0;
  const x = i - y * widthPx;
  return x < RING_PX || y < RING_PX || x >= widthPx - RING_PX || y >= heightPx - RING_PX;
}

const isNearer = (rgb: Rgb, own: Rgb, others: readonly Rgb[]): boolean => {
  const off = distance(rgb, own);
  return others.every((other) => distance(other, rgb) > off);
};

function commonestNovel(area: Area, around: readonly Rgb[]): Rgb | undefined {
  const inside = area.colours.filter((colour, i) => colour >= 0 && !isAtEdge(i, area));
  const novel = [...countColours(inside)].filter(([colour]) =>
    around.every((other) => distance(other, toRgb(colour)) >= NOVEL_LEVELS),
  );
  const total = novel.reduce((sum, [, count]) => sum + count, 0);
  if (total < LEAST_INK) return undefined;
  // a drawing hangs together, specks of a pattern do not
  const { colours, heightPx, widthPx } = area;
  const largestOf = (own: number): number => {
    const ink = Uint8Array.from(colours, (colour, i) => (colour === own && !isAtEdge(i, area) ? 1 : 0));
    return Math.max(...markInk({ widthPx, heightPx, ink }).marks.map((mark) => mark.count));
  };
  const [own] = novel
    .filter(([, count]) => count >= total * LEAST_OF_NOVEL)
    .sort((a, b) => b[1] - a[1])
    .slice(0, MAX_NOVEL)
    .map(([colour]) => ({ colour, largest: largestOf(colour) }))
    .sort((a, b) => b.largest - a.largest);
  return own && toRgb(own.colour);
}
const MAX_NOVEL = 3;

/** Colours that are there, each once, as coarse as their difference matters. */
function coarse(colours: Int32Array): Rgb[] {
  const seen = new Set<number>();
  for (const colour of colours) seen.add(colour & 0xf0f0f0);
  return [...seen].map((colour) => toRgb(colour + 0x080808));
}
