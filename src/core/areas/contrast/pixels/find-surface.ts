/**
 * A background that changes slowly: each channel as a polynomial of second degree in x and y, fitted by least squares and
 * fitted again without what differs from it, until only the background is left in the fit.
 */
import type { Rgb } from '../colour.ts';
import type { Area } from './sample-area.ts';

/** The background at each pixel of an area: one colour, or red, green and blue of each, 0 to 255 and not rounded. */
export type Surface = { flat: Rgb; planes?: undefined } | { flat?: undefined; planes: Float32Array };

/** At the pixel of that index. Loops over all ink read `flat` and `planes` themselves: a list for each pixel is slow. */
export function colourAt(surface: Surface, i: number): Rgb {
  if (surface.flat) return surface.flat;
  const { planes } = surface;
  return [planes[i * 3]!, planes[i * 3 + 1]!, planes[i * 3 + 2]!];
}

const TERMS = 6;
const MAX_SAMPLES = 3000;
const ROUNDS = 6;
// Levels of 255: how far dithering and rounding stray from a gradient.
const TOLERANCE = 4;
const LEAST_SHARE = 0.58;

export function findSurface(area: Area): { planes: Float32Array } | undefined {
  const samples = samplesOf(area);
  const { count } = samples;
  if (count < TERMS * 4) return undefined;
  const off = new Float64Array(count);
  const isKept = new Uint8Array(count).fill(1);
  for (let round = 0; round < ROUNDS; round++) {
    const fit = solve(samples, isKept);
    if (!fit) return undefined;
    measureOff(samples, fit, off);
    const sorted = off.slice().sort();
    const inside = sorted.filter((value) => value <= TOLERANCE).length / count;
    if (round === ROUNDS - 1 || inside > 0.95) {
      if (inside < LEAST_SHARE) return undefined;
      return { planes: evaluate(fit, area.widthPx, area.heightPx) };
    }
    // half of the box at least must be background, or there is no telling
    const limit = Math.max(TOLERANCE, sorted[Math.floor(count * 0.55)]!);
    for (let i = 0; i < count; i++) isKept[i] = off[i]! <= limit ? 1 : 0;
  }
  return undefined;
}

interface Samples {
  count: number;
  /** 1, x, y, x², xy and y² of each, in shares of the area's width and height. */
  terms: Float64Array;
  /** Red, green and blue of each, 0 to 255. */
  levels: Float64Array;
}

function samplesOf({ colours, heightPx, widthPx }: Area): Samples {
  const step = Math.max(1, Math.floor(Math.sqrt((widthPx * heightPx) / MAX_SAMPLES)));
  const room = Math.ceil(widthPx / step) * Math.ceil(heightPx / step);
  const terms = new Float64Array(room * TERMS);
  const levels = new Float64Array(room * 3);
  let count = 0;
  for (let py = 0; py < heightPx; py += step)
    for (let px = 0; px < widthPx; px += step) {
      const colour = colours[py * widthPx + px]!;
      if (colour < 0) continue;
      const [x, y, at] = [px / widthPx, py / heightPx, count * TERMS];
      terms[at] = 1;
      terms[at + 1] = x;
      terms[at + 2] = y;
      terms[at + 3] = x * x;
      terms[at + 4] = x * y;
      terms[at + 5] = y * y;
      levels[count * 3] = colour >> 16;
      levels[count * 3 + 1] = (colour >> 8) & 255;
      levels[count * 3 + 2] = colour & 255;
      count += 1;
    }
  return { count, terms, levels };
}

/** How far each sample lies from the fit in the channel where it lies farthest, in levels of 255. */
function measureOff({ count, levels, terms }: Samples, fit: Fit, off: Float64Array): void {
  off.fill(0);
  for (let c = 0; c < 3; c++) {
    const [k0, kx, ky, kxx, kxy, kyy] = fit[c]!;
    for (let i = 0, at = 0; i < count; i++, at += TERMS) {
      const fitted =
        k0 +
        kx * terms[at + 1]! +
        ky * terms[at + 2]! +
        kxx * terms[at + 3]! +
        kxy * terms[at + 4]! +
        kyy * terms[at + 5]!;
      const by = levels[i * 3 + c]! - fitted;
      const size = by < 0 ? -by : by;
      if (size > off[i]!) off[i] = size;
    }
  }
}

function evaluate(fit: Fit, widthPx: number, heightPx: number): Float32Array {
  const planes = new Float32Array(widthPx * heightPx * 3);
  for (let c = 0; c < 3; c++) {
    const [k0, kx, ky, kxx, kxy, kyy] = fit[c]!;
    for (let py = 0, i = c; py < heightPx; py++) {
      const y = py / heightPx;
      const ofRow = k0 + ky * y + kyy * y * y;
      const slope = kx + kxy * y;
      for (let px = 0; px < widthPx; px++, i += 3) {
        const x = px / widthPx;
        const value = ofRow + (slope + kxx * x) * x;
        // biome-ignore lint/complexity/useMathMinMax: called for every pixel, and this is faster
        planes[i] = value < 0 ? 0 : value > 255 ? 255 : value;
      }
    }
  }
  return planes;
}

/** Of red, green and blue: what each of the terms is multiplied with. */
type Fit = [number, number, number, number, number, number][];

/**
 * Normal equations by Gaussian elimination for the three channels at once, a little weighed down so that a flat side does not
 * matter.
 */
function solve(samples: Samples, isKept: Uint8Array): Fit | undefined {
  const rows = normalEquations(samples, isKept);
  for (let i = 0; i < TERMS; i++) {
    const row = rows[i]!;
    const pivot = row[i]!;
    if (Math.abs(pivot) < 1e-12) return undefined;
    for (let j = i + 1; j < TERMS; j++) {
      const factor = rows[j]![i]! / pivot;
      for (let k = i; k < COLUMNS; k++) rows[j]![k]! -= factor * row[k]!;
    }
  }
  return [0, 1, 2].map((c) => {
    const solution = new Array<number>(TERMS).fill(0);
    for (let i = TERMS - 1; i >= 0; i--) {
      let sum = rows[i]![TERMS + c]!;
      for (let j = i + 1; j < TERMS; j++) sum -= rows[i]![j]! * solution[j]!;
      solution[i] = sum / rows[i]![i]!;
    }
    return solution as Fit[number];
  });
}

const COLUMNS = TERMS + 3;

/** A row a term: the sums of its products with each term, then with each channel. */
function normalEquations({ count, levels, terms }: Samples, isKept: Uint8Array): Float64Array[] {
  const rows = Array.from({ length: TERMS }, () => new Float64Array(COLUMNS));
  let keptCount = 0;
  for (let sample = 0; sample < count; sample++) {
    if (!isKept[sample]) continue;
    keptCount += 1;
    const at = sample * TERMS;
    for (let i = 0; i < TERMS; i++) {
      const row = rows[i]!;
      const term = terms[at + i]!;
      for (let j = i; j < TERMS; j++) row[j]! += term * terms[at + j]!;
      for (let c = 0; c < 3; c++) row[TERMS + c]! += term * levels[sample * 3 + c]!;
    }
  }
  for (let i = 0; i < TERMS; i++) {
    for (let j = 0; j < i; j++) rows[i]![j] = rows[j]![i]!;
    rows[i]![i]! += 1e-6 * keptCount;
  }
  return rows;
}
