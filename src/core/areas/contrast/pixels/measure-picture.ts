/**
 * The contrast of an icon with what surrounds it. A shape is made out by its strongest part, so the part that contrasts most
 * counts, as long as it is no mere detail. A photo, which has no such part, is told apart.
 */
import type { Box } from '../../../model/geometry.ts';
import type { Pixels } from '../../../model/ports.ts';
import { contrastRatio, type Rgb } from '../colour.ts';
import { findEnd, leastCoverage } from './find-end.ts';
import { findInk, type Ink, markInk } from './find-ink.ts';
import { findSpans } from './find-spans.ts';
import { type Area, countColours, distance, sampleArea, toRgb } from './sample-area.ts';

export interface PictureSeen {
  foreground: Rgb;
  background: Rgb;
  ratio: number;
  interval: [number, number];
}

export type PictureUnseen = 'no-ink' | 'too-small' | 'covered' | 'busy-background' | 'photo';

// Room around the box, in which what surrounds it is seen.
const RING_PX = 3;
const LEAST_RING_SHARE = 0.6;
// Of the ink; less is a detail.
const LEAST_PART = 0.15;
// Colours that together make up a drawing; a photo needs many more.
const DRAWN_COLOURS = 6;
const LEAST_DRAWN_SHARE = 0.4;
const TOLERANCE = 6;

/** @param box the element's visible bounds, within the picture */
export function measurePicture(
  pixels: Pixels,
  box: Box,
  covers: readonly Box[],
): PictureSeen | PictureUnseen {
  const grown = {
    x: box.x - RING_PX,
    y: box.y - RING_PX,
    width: box.width + 2 * RING_PX,
    height: box.height + 2 * RING_PX,
  };
  const area = sampleArea(pixels, grown, covers);
  if (box.width < 6 || box.height < 6) return 'too-small';
  if (area.uncoveredCount < area.colours.length * 0.5) return 'covered';
  const background = ringColour(area);
  if (!background) return 'busy-background';
  const found = findInk(area, { colour: background, tolerance: TOLERANCE });
  const inkCount = found.ink.reduce((sum, value) => sum + value, 0);
  if (inkCount < 12) return 'no-ink';
  const flat = mainColours(area, found, inkCount);
  if (flat.reduce((sum, { share }) => sum + share, 0) < LEAST_DRAWN_SHARE) {
    if (inkCount > area.colours.length * 0.6) return 'photo';
  } else {
    const best = flat
      .filter(({ share }) => share >= LEAST_PART)
      .map(({ colour }) => ({ colour, ratio: contrastRatio(colour, background) }))
      .sort((a, b) => b.ratio - a.ratio)[0];
    if (best)
      return {
        foreground: best.colour,
        background,
        ratio: best.ratio,
        interval: [Math.max(1, best.ratio * 0.992 - 0.01), Math.min(21, best.ratio * 1.008 + 0.01)],
      };
  }
  return measureStrokes(area, found, background) ?? 'no-ink';
}

/** What surrounds the box, where it is of one colour. */
function ringColour(area: Area): Rgb | undefined {
  const { colours, heightPx, widthPx } = area;
  const ring = colours.filter((_, i) => {
    const y = (i / widthPx) | 0;
    const x = i - y * widthPx;
    return x < RING_PX || y < RING_PX || x >= widthPx - RING_PX || y >= heightPx - RING_PX;
  });
  const counts = countColours(ring);
  const seen = [...counts.values()].reduce((sum, count) => sum + count, 0);
  const [winner] = [...counts].sort((a, b) => b[1] - a[1])[0] ?? [];
  if (winner === undefined) return undefined;
  const colour = toRgb(winner);
  let near = 0;
  for (const [other, count] of counts) if (distance(toRgb(other), colour) <= TOLERANCE) near += count;
  return near >= seen * LEAST_RING_SHARE ? colour : undefined;
}

function mainColours({ colours }: Area, { ink }: Ink, inkCount: number): { colour: Rgb; share: number }[] {
  const main: { colour: Rgb; share: number }[] = [];
  for (const [colour, count] of [...countColours(colours, ink)].sort((a, b) => b[1] - a[1])) {
    const rgb = toRgb(colour);
    const near = main.find((other) => distance(other.colour, rgb) <= 4);
    if (near) near.share += count / inkCount;
    else if (main.length < DRAWN_COLOURS && count >= inkCount * 0.04)
      main.push({ colour: rgb, share: count / inkCount });
  }
  return main;
}

/** Lines so thin that hardly a pixel has their colour. */
function measureStrokes(area: Area, ink: Ink, background: Rgb): PictureSeen | undefined {
  const surface = { flat: background };
  const marked = markInk(ink);
  const parts = marked.marks.map((mark) => ({ ...mark, marks: [mark] }));
  const ends = findSpans(area, marked, parts, surface).flatMap((span) => findEnd(area, span, surface) ?? []);
  const seen = ends.map((end) => {
    const ratio = contrastRatio(end.colour, background);
    const most = 1 + (ratio - 1) / leastCoverage(end) ** 2;
    return { foreground: end.colour, background, ratio, interval: [ratio * 0.99, Math.min(21, most)] };
  });
  return seen.sort((a, b) => b.ratio - a.ratio)[0] as PictureSeen | undefined;
}
