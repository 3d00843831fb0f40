/** Where the line of mixed colours ends: the text's own colour, and how surely its strokes reach it. */
import type { Rgb } from '../colour.ts';
import type { Span } from './find-spans.ts';
import { colourAt, type Surface } from './find-surface.ts';
import { type Area, countColours, toRgb } from './sample-area.ts';

export interface InkEnd {
  colour: Rgb;
  /** Of inked pixels. */
  count: number;
  /** Share of them that have the colour itself, within two levels. */
  reached: number;
  /** Width of the upright strokes, each pixel counted by how much of the colour it has. */
  stemPx: number;
  /** Height of the level ones. */
  barPx: number;
  /** Height of the tallest word. */
  heightPx: number;
  /** Under all pixels of ink, a sample of some hundreds. */
  backgrounds: Rgb[];
  /** Under those that have the colour itself. */
  meanBackground: Rgb;
}

const LEVELS = 443;
const NEAR = 2;
// Times what colours stray by: the text's own colour strays to either side.
const STRAY_WINDOW = 2;
const MAX_BACKGROUNDS = 400;

export function findEnd(area: Area, span: Span, surface: Surface): InkEnd | undefined {
  const { pixels } = span;
  if (pixels.length === 0) return undefined;
  const strength = strengths(area, span, surface);
  const end = endLevel(strength);
  const near = area.strayLevels === undefined ? NEAR : area.strayLevels * STRAY_WINDOW;
  const reaching = new Int32Array(pixels.length);
  let reachedCount = 0;
  for (let n = 0; n < pixels.length; n++) {
    const i = pixels[n]!;
    if (strength[n]! < end - near - 0.5) continue;
    reaching[reachedCount] = i;
    reachedCount += 1;
  }
  const atEnd = reaching.subarray(0, reachedCount);
  if (end < 1 || atEnd.length === 0) return undefined;
  const behind = (list: ArrayLike<number>): Rgb[] => {
    if (surface.flat) return [surface.flat];
    const step = Math.max(1, Math.floor(list.length / MAX_BACKGROUNDS));
    const found: Rgb[] = [];
    for (let n = 0; n < list.length; n += step) {
      found.push(colourAt(surface, list[n]!));
    }
    return found;
  };
  return {
    colour: commonColour(area, atEnd),
    count: pixels.length,
    reached: reachedCount / pixels.length,
    ...strokesOf(area, pixels, strength, end),
    heightPx: span.heightPx,
    backgrounds: behind(pixels),
    meanBackground: meanOf(behind(atEnd)),
  };
}

/** How far along the span's direction each pixel lies, in levels. */
function strengths({ colours }: Area, { direction, pixels }: Span, surface: Surface): Float32Array {
  const found = new Float32Array(pixels.length);
  const red = direction[0];
  const green = direction[1];
  const blue = direction[2];
  const { flat, planes } = surface;
  const behind = flat ? flat[0] * red + flat[1] * green + flat[2] * blue : 0;
  for (let n = 0; n < pixels.length; n++) {
    const i = pixels[n]!;
    const colour = colours[i]!;
    const along = (colour >> 16) * red + ((colour >> 8) & 255) * green + (colour & 255) * blue;
    const from = planes
      ? planes[i * 3]! * red + planes[i * 3 + 1]! * green + planes[i * 3 + 2]! * blue
      : behind;
    found[n] = along - from;
  }
  return found;
}

/** The highest level that more than a few stray pixels reach. */
function endLevel(strength: Float32Array): number {
  const counts = new Uint32Array(LEVELS + 1);
  for (let n = 0; n < strength.length; n++) {
    const value = strength[n]!;
    if (value > 0) counts[value < LEVELS ? (value + 0.5) | 0 : LEVELS]! += 1;
  }
  const enough = Math.max(3, strength.length * 0.006);
  let sum = 0;
  for (let level = LEVELS; level > 0; level--) {
    sum += counts[level]! - (counts[level + NEAR + 1] ?? 0);
    if (sum >= enough) {
      // what lies highest within the window
      let top = Math.min(LEVELS, level + NEAR);
      while (counts[top] === 0) top -= 1;
      return plateauBelow(counts, top, strength.length) ?? top;
    }
  }
  return 0;
}

// Of the ink: so much of it in one level is the text's colour, where hardly any goes beyond.
const PLATEAU_SHARE = 0.25;
const BEYOND_SHARE = 0.2;

/** Where glyphs overlap, translucent ink is laid on twice: the colour is that of all the rest. */
function plateauBelow(counts: Uint32Array, top: number, total: number): number | undefined {
  let beyond = 0;
  for (let level = top; level > top * 0.5; level--) {
    const here = counts[level]! + (counts[level - 1] ?? 0);
    if (here >= total * PLATEAU_SHARE && level < top) return level;
    beyond += counts[level]!;
    if (beyond > total * BEYOND_SHARE) return undefined;
  }
  return undefined;
}

/** The commonest where one stands out, else their mean. */
function commonColour({ colours }: Area, pixels: Int32Array): Rgb {
  const own = new Int32Array(pixels.length);
  for (let n = 0; n < pixels.length; n++) own[n] = colours[pixels[n]!]!;
  const counts = countColours(own);
  let best = 0;
  let most = 0;
  counts.forEach((count, colour) => {
    if (count <= most) return;
    best = colour;
    most = count;
  });
  if (most >= pixels.length * 0.4) return toRgb(best);
  return meanOf(Array.from(pixels, (i) => toRgb(colours[i]!)));
}

const meanOf = (colours: readonly Rgb[]): Rgb =>
  [0, 1, 2].map((c) => colours.reduce((sum, rgb) => sum + rgb[c]!, 0) / colours.length) as unknown as Rgb;

// Of the runs of ink in rows: shorter ones are tips of strokes, longer ones are bars, bowls and joins. In columns likewise.
const STROKE_PERCENTILE = 0.4;
const LEAST_RUN_PX = 0.35;
// Widths of runs are counted in steps of a hundredth of a pixel, up to forty.
const BINS_PER_PX = 100;
const RUN_BINS = 40 * BINS_PER_PX;

function strokesOf({ widthPx }: Area, pixels: Int32Array, strength: Float32Array, end: number) {
  const inRows = new Runs(end);
  // of each column, the run that has not ended yet
  const lastRow = new Int32Array(widthPx).fill(-2);
  const massBelow = new Float32Array(widthPx);
  const inColumns = new Runs(end);
  let mass = 0;
  for (let n = 0; n < pixels.length; n++) {
    const i = pixels[n]!;
    const row = Math.floor(i / widthPx);
    const column = i - row * widthPx;
    const own = Math.min(end, Math.max(0, strength[n]!));
    if (n > 0 && (column === 0 || pixels[n - 1] !== i - 1)) {
      inRows.add(mass);
      mass = 0;
    }
    mass += own;
    if (lastRow[column] !== row - 1) {
      inColumns.add(massBelow[column]!);
      massBelow[column] = 0;
    }
    massBelow[column]! += own;
    lastRow[column] = row;
  }
  inRows.add(mass);
  for (const left of massBelow) inColumns.add(left);
  return { stemPx: inRows.usual(), barPx: inColumns.usual() };
}

/** Widths of runs of ink. */
class Runs {
  readonly #counts = new Uint32Array(RUN_BINS);
  readonly #end: number;
  #count = 0;

  constructor(end: number) {
    this.#end = end;
  }

  /** @param mass strength of all its pixels together */
  add(mass: number): void {
    const runPx = mass / this.#end;
    if (runPx < LEAST_RUN_PX) return;
    this.#counts[Math.min(RUN_BINS - 1, (runPx * BINS_PER_PX) | 0)]! += 1;
    this.#count += 1;
  }

  usual(): number {
    let left = Math.floor(this.#count * STROKE_PERCENTILE);
    for (let bin = 0; bin < RUN_BINS; bin++) {
      left -= this.#counts[bin]!;
      if (left < 0) return (bin + 0.5) / BINS_PER_PX;
    }
    return 0;
  }
}

// So few pixels may be crossings of strokes, which are darker than the strokes.
const FEW_PIXELS = 10;
// As a share of the em, the thinnest strokes of designs that people read on screens.
const THINNEST_EM = 0.04;

/**
 * How much of its own colour a text's strongest pixels have at least, 0 to 1. A stroke of two pixels covers one wholly
 * wherever it lies. A thinner one does so in some places, as long as glyphs lie on the pixels at random: then few pixels
 * reach the end, and where many do, all may be covered by the same part.
 */
export function leastCoverage({ count, heightPx, reached, stemPx }: InkEnd): number {
  if (stemPx >= 2.05) return 1;
  const atRandom = Math.max(0, (stemPx - 1) / (stemPx + 1));
  if (stemPx >= 1.2 && reached <= atRandom + 0.14) return reached * count < FEW_PIXELS ? 0.88 : 1;
  const thinnest = (THINNEST_EM * heightPx) / Math.max(0.8, stemPx);
  return Math.min(0.97, Math.max(0.45, thinnest));
}

/** Along the line from the background on, as far as 8 bits go. */
export function extrapolate(from: Rgb, through: Rgb, factor: number): Rgb {
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

// Strokes of letters so high are wider than their edges, so that more of their ink than that is of their own colour.
const LARGE_PX = 60;
const LEAST_REACHED = 0.05;
const THINNEST_STEM = 0.03;

/** Half of what strokes as thin as any would have. */
export const leastReached = (linePx: number): number =>
  linePx < LARGE_PX ? 0 : Math.max(LEAST_REACHED, 0.5 * (1 - 2 / (linePx * THINNEST_STEM)));
