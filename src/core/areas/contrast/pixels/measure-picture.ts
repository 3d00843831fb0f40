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
import { intervalWithLosses, mayBeNoise } from './allow-for-losses.ts';
import {
  type Carrier,
  commonColourOf,
  commonestAtEdge,
  everywhere,
  fillingShape,
  innermostCarrier,
  isAtEdge,
  LEAST_INK,
  RING_PX,
  TOLERANCE,
} from './find-carrier.ts';
import { findEnd, leastCoverage } from './find-end.ts';
import { type Ink, keepMarks, type Mark, type MarkedInk, markInk } from './find-ink.ts';
import { findPlains, type Plains } from './find-plains.ts';
import { findSpans } from './find-spans.ts';
import { measureDrawingOnUneven } from './measure-drawing-on-uneven.ts';
import type { PictureSeen, PictureUnseen } from './picture-seen.ts';
import { type Area, countColours, distance, OFF_LINE, offLine, sampleArea, toRgb } from './sample-area.ts';
import { type SettledPixels, settleColours } from './settle-colours.ts';

// Colours: a drawing of more is an illustration, which tells by more than one shape.
const MOST_PARTS = 2;

interface DrawingSeen extends PictureSeen {
  /** Colours that are more than a detail. */
  partCount: number;
  isOneColour: boolean;
}

const LEAST_BOX_PX = 6;
// Of the ink; less is a detail.
const LEAST_PART = 0.15;

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
  asTaken: Pixels,
  box: Box,
  covers: readonly Box[],
  findCarrier: FindCarrier,
): PictureSeen | PictureUnseen {
  const pixels = settleColours(asTaken);
  const seen = lookAtSettled(pixels, box, covers, findCarrier);
  return typeof seen === 'string' || pixels.strayLevels === undefined
    ? seen
    : {
        ...seen,
        interval: intervalWithLosses(seen),
        packed: true,
        ...(mayBeNoise(seen) && { doubtful: true as const }),
      };
}

function lookAtSettled(
  pixels: SettledPixels,
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
  const shape = outer ? findCarrier(area, found, outer) : fillingShape(area, found);
  if (!shape) {
    const onPattern = measureDrawingOnUneven(area);
    if (!onPattern) return isPhoto(area, found) ? 'photo' : 'busy-background';
    return onPattern;
  }
  const { carrier, within } = shape;
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
  const onPattern = isStrewn ? measureDrawingOnUneven(area) : undefined;
  if (onPattern) return onPattern;
  const drawing = measureInk(area, own, background);
  if (!drawing) return 'no-ink';
  if (drawing.partCount > MOST_PARTS) return 'photo';
  const { isOneColour, partCount, ...seen } = drawing;
  if (isNoisy) return widened(seen, NOISY_SPREAD);
  // several colours are those of the drawing, or of what is strewn behind it
  return isOneColour && !isStrewn ? seen : joined(seen, measureDrawingOnUneven(area));
}

// Of the ink: so much has the drawing's colour itself, and all else is a mixture of it and the ground.
const LEAST_MAIN = 0.3;
const MIXED_LEVELS = 10;
// Of the ink: what has so much of it is a colour of its own, if only on the way from one to the other.
const MOST_OF_MIXED = 0.02;

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
  // losses give many pixels one colour on the way
  const isOwn = (count: number) =>
    area.strayLevels === undefined && count >= LEAST_INK && count >= total * MOST_OF_MIXED;
  if (counts.some(([colour, count]) => colour !== own && isOwn(count))) return undefined;
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

const crossesEdge = ({ bottom, left, right, top }: Mark, { heightPx, widthPx }: Area): boolean =>
  left === 0 || top === 0 || right === widthPx - 1 || bottom === heightPx - 1;

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
