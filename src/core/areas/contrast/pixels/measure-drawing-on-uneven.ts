/** A drawing on a pattern, on a photo, or across two grounds. */
import type { Rgb } from '../colour.ts';
import { backgroundUnder, faintestStretch, planesOf } from './faintest-stretch.ts';
import { extentOf, isAtEdge, LEAST_INK } from './find-carrier.ts';
import { findEnd, leastCoverage } from './find-end.ts';
import { markHeight, markInk, markWidth } from './find-ink.ts';
import { findSpans } from './find-spans.ts';
import type { PictureSeen } from './picture-seen.ts';
import { type Area, countColours, distance, toRgb } from './sample-area.ts';

// What no colour around the box comes near to is the drawing's own.
const NOVEL_LEVELS = 30;
const LEAST_OF_NOVEL = 0.12;
const UNSURE = 1.1;
// Of few columns a stretch holds little of what lies behind.
const NARROW_PX = 24;
const UNSURE_NARROW = 1.25;
// Half a drawing is a stretch that can be told by itself.
const STRETCHES = [0.4, 0.5, 0.6];

/** On a pattern or a photo: the colour of the drawing is one that nothing around the box has. */
export function measureDrawingOnUneven(area: Area): PictureSeen | undefined {
  const { colours, heightPx, widthPx } = area;
  const around = coarse(colours.filter((colour, i) => colour >= 0 && isAtEdge(i, area)));
  const [own, ...strewn] = novelColours(area, around);
  if (!own) return undefined;
  const others = [...around, ...strewn.filter((other) => distance(other, own) >= NOVEL_LEVELS)];
  const ink = Uint8Array.from(colours, (colour, i) =>
    colour >= 0 && !isAtEdge(i, area) && isNearer(toRgb(colour), own, others) ? 1 : 0,
  );
  const marked = markInk({ widthPx, heightPx, ink });
  const extent = extentOf(marked.ink, widthPx);
  if (!extent || extent.count < LEAST_INK) return undefined;
  const under = backgroundUnder(area, marked.ink, markHeight(extent));
  // bars one above the other are one drawing
  under.lines.fill(0);
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
  const unsure = markWidth(extent) < NARROW_PX ? UNSURE_NARROW : UNSURE;
  const most = 1 + (stretches.at(-1)!.ratio - 1) / leastCoverage(end) ** 2;
  return {
    foreground: end.colour,
    background: faintest.background,
    ratio: faintest.ratio,
    interval: [
      // what lies under broad strokes is not seen, and may be any part of a pattern
      Math.max(1, Math.min(...stretches.map(({ fifths }) => fifths[0])) / unsure),
      Math.min(21, Math.max(most, ...stretches.map(({ fifths }) => fifths[1])) * unsure),
    ],
  };
}

const isNearer = (rgb: Rgb, own: Rgb, others: readonly Rgb[]): boolean => {
  const off = distance(rgb, own);
  return others.every((other) => distance(other, rgb) > off);
};

/** That of the drawing first, then those of specks that do not reach the edge of the box. */
function novelColours(area: Area, around: readonly Rgb[]): Rgb[] {
  const inside = area.colours.filter((colour, i) => colour >= 0 && !isAtEdge(i, area));
  const novel = [...countColours(inside)].filter(([colour]) =>
    around.every((other) => distance(other, toRgb(colour)) >= NOVEL_LEVELS),
  );
  const total = novel.reduce((sum, [, count]) => sum + count, 0);
  if (total < LEAST_INK) return [];
  // a drawing hangs together, specks of a pattern do not
  const { colours, heightPx, widthPx } = area;
  const largestOf = (own: number): number => {
    const ink = Uint8Array.from(colours, (colour, i) => (colour === own && !isAtEdge(i, area) ? 1 : 0));
    return Math.max(...markInk({ widthPx, heightPx, ink }).marks.map((mark) => mark.count));
  };
  return novel
    .filter(([, count]) => count >= total * LEAST_OF_NOVEL)
    .sort((a, b) => b[1] - a[1])
    .slice(0, MAX_NOVEL)
    .map(([colour]) => ({ colour, largest: largestOf(colour) }))
    .sort((a, b) => b.largest - a.largest)
    .map(({ colour }) => toRgb(colour));
}
const MAX_NOVEL = 3;

/** Colours that are there, each once, as coarse as their difference matters. */
function coarse(colours: Int32Array): Rgb[] {
  const seen = new Set<number>();
  for (const colour of colours) seen.add(colour & 0xf0f0f0);
  return [...seen].map((colour) => toRgb(colour + 0x080808));
}
