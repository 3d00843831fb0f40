/**
 * The two colours of a text, seen in a picture.
 *
 * Antialiasing mixes the text's own colour with what lies behind it, so inked pixels lie on a line in RGB that starts at
 * the background; the text's colour is where that line ends. Strokes of two pixels and more reach the end; thinner ones may
 * not, and then the true ratio lies between what was seen and what so thin a stroke may hide.
 */
import type { Box } from '../../../model/geometry.ts';
import type { Pixels } from '../../../model/ports.ts';
import { contrastRatio, type Rgb } from '../colour.ts';
import { CLEAN_TOLERANCE } from './find-background.ts';
import { findEnd, type InkEnd, leastCoverage } from './find-end.ts';
import { findInkOn, inkOf, type MarkedInk, markInk, withoutFrames } from './find-ink.ts';
import { measureOnPhoto } from './find-on-photo.ts';
import { findSpans } from './find-spans.ts';
import { findSurface, type Surface } from './find-surface.ts';
import { findWords } from './find-words.ts';
import { isClipped, measureGlyphs } from './measure-glyphs.ts';
import { type Area, distance, regionOf, sampleArea } from './sample-area.ts';
import type { GlyphSize } from './text-size.ts';

/** How the background was seen: one colour; a gradient; or a picture, of which only the neighbourhood of glyphs counts. */
export type Behind = 'flat' | 'gradient' | 'picture';

export interface TextSeen extends GlyphSize {
  /** Of the faintest part, where it has several colours or an uneven background. */
  foreground: Rgb;
  background: Rgb;
  ratio: number;
  /** Lowest and highest that the true ratio may be. */
  interval: [number, number];
  behind: Behind;
  /** On an uneven background: the ratio at its average place. */
  meanRatio: number;
  /** Share of inked pixels that bear the foreground itself. */
  reached: number;
  /** Width of the strokes; 0 where it was not measured. */
  stemPx: number;
  /** Colours of the text: more than one where a word stands out. */
  spanCount: number;
  /** Widths of all its words together; 0 where they were not told apart. */
  runPx: number;
  /** A good part of its letters end at the upper or lower edge of the box. */
  clipped: boolean;
}

export type TextUnseen = 'no-ink' | 'too-small' | 'covered' | 'busy-background';

/**
 * @param box the element's visible bounds, within the picture
 * @param covers boxes drawn over the element, left out
 * @param text as the tree holds it, which tells icons from letters; may be empty
 */
export function measureText(
  pixels: Pixels,
  box: Box,
  covers: readonly Box[],
  text = '',
): TextSeen | TextUnseen {
  const found = inkOf(pixels, box, covers);
  if (found.kind === 'flat') {
    const { area, background, marked } = found;
    const isNoisy = background.tolerance > CLEAN_TOLERANCE;
    const spread = isNoisy ? SPREAD.noisy : SPREAD.clean;
    const how = { behind: 'flat', spread, text, box: regionOf(pixels, box) } as const;
    const seen = measureInk(area, marked, { flat: background.colour }, how);
    const isNoise =
      isNoisy && typeof seen !== 'string' && distance(seen.foreground, background.colour) < NOISE;
    return isNoise ? measureOnUneven(pixels, box, sampleArea(pixels, box, covers), text) : seen;
  }
  return found.kind === 'uneven' ? measureOnUneven(pixels, box, found.area, text) : found.kind;
}

// Levels of 255: writing that stands out no more may be the grain of a picture.
const NOISE = 15;

function measureOnUneven(pixels: Pixels, box: Box, area: Area, text: string): TextSeen | TextUnseen {
  const surface = findSurface(area);
  if (surface) {
    const marked = withoutFrames(markInk(findInkOn(area, surface.planes, SURFACE_TOLERANCE)));
    const how = { behind: 'gradient', spread: SPREAD.gradient, text, box: regionOf(pixels, box) } as const;
    return measureInk(area, marked, surface, how);
  }
  return measureOnPhoto(area, text) ?? 'busy-background';
}

// Levels of 255: what dithering, rounding and the fit of a gradient may stray by.
const SURFACE_TOLERANCE = 9;
const LEAST_INK = 6;
// Share of the ratio that rounding to 8 bits, the fit of a gradient, or lossy packing may hide.
const SPREAD = { clean: 0.008, gradient: 0.025, noisy: 0.1 };

function measureInk(
  area: Area,
  marked: MarkedInk,
  surface: Surface,
  { behind, box, spread, text }: { behind: Behind; spread: number; text: string; box: Box },
): TextSeen | TextUnseen {
  const { runPx, words } = findWords(marked, text);
  const spans = findSpans(area, marked, words, surface);
  const seen = spans.flatMap((span) => {
    const end = findEnd(area, span, surface);
    return end && end.count >= LEAST_INK ? [{ end, ...ratiosOf(end, spread), stemPx: end.stemPx }] : [];
  });
  if (seen.length === 0) return 'no-ink';
  const worst = seen.reduce((a, b) => (b.interval[0] < a.interval[0] ? b : a));
  const { end } = worst;
  return {
    foreground: end.colour,
    background: worst.background,
    ratio: worst.ratio,
    interval: worst.interval,
    behind,
    meanRatio: worst.meanRatio,
    reached: end.reached,
    stemPx: end.stemPx,
    spanCount: seen.length,
    runPx,
    clipped: isClipped(words, area, box),
    ...measureGlyphs(words),
  };
}

/** The ratio where the background is worst, and what so thin a stroke may hide of it. */
function ratiosOf(end: InkEnd, spread: number) {
  const coverage = leastCoverage(end);
  const farthest = extrapolate(end.meanBackground, end.colour, 1 / coverage);
  const ratios = end.backgrounds
    .map((background) => ({ background, ratio: contrastRatio(end.colour, background) }))
    .sort((a, b) => a.ratio - b.ratio);
  const worst = ratios[Math.floor(ratios.length * 0.02)]!;
  const meanRatio = ratios.reduce((sum, { ratio }) => sum + ratio, 0) / ratios.length;
  const atEnd = contrastRatio(farthest, worst.background);
  const rounding = Math.max(worst.ratio * spread, 0.015);
  const ratio = coverage >= 1 ? worst.ratio : Math.sqrt(worst.ratio * atEnd);
  const interval: [number, number] = [
    Math.max(1, Math.min(worst.ratio, atEnd) - rounding),
    Math.min(21, Math.max(worst.ratio, atEnd) + rounding),
  ];
  return { background: worst.background, ratio, interval, meanRatio };
}

/** Along the line from the background on, as far as 8 bits go. */
function extrapolate(from: Rgb, through: Rgb, factor: number): Rgb {
  let reach = factor;
  for (let c = 0; c < 3; c++) {
    const step = through[c]! - from[c]!;
    if (step > 0) reach = Math.min(reach, (255 - from[c]!) / step);
    if (step < 0) reach = Math.min(reach, from[c]! / -step);
  }
  return [0, 1, 2].map((c) =>
    Math.min(255, Math.max(0, from[c]! + (through[c]! - from[c]!) * Math.max(1, reach))),
  ) as unknown as Rgb;
}
