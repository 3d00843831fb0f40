/**
 * A background that changes slowly: each channel as a polynomial of second degree in x and y, fitted by least squares and
 * fitted again without what departs from it, until only the background is left in the fit.
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
  const { colours, heightPx, widthPx } = area;
  const step = Math.max(1, Math.floor(Math.sqrt((widthPx * heightPx) / MAX_SAMPLES)));
  const samples: { terms: number[]; rgb: number[] }[] = [];
  for (let y = 0; y < heightPx; y += step)
    for (let x = 0; x < widthPx; x += step) {
      const colour = colours[y * widthPx + x]!;
      if (colour >= 0)
        samples.push({
          terms: termsOf(x / widthPx, y / heightPx),
          rgb: [colour >> 16, (colour >> 8) & 255, colour & 255],
        });
    }
  if (samples.length < TERMS * 4) return undefined;
  let kept = samples;
  for (let round = 0; round < ROUNDS; round++) {
    const fit = [0, 1, 2].map((c) => solve(kept, c));
    if (fit.some((channel) => !channel)) return undefined;
    const coefficients = fit as number[][];
    const off = (sample: (typeof samples)[number]) =>
      Math.max(...sample.rgb.map((value, c) => Math.abs(value - dot(coefficients[c]!, sample.terms))));
    const sorted = samples.map(off).sort((a, b) => a - b);
    const inside = sorted.filter((value) => value <= TOLERANCE).length / samples.length;
    if (round === ROUNDS - 1 || inside > 0.95) {
      if (inside < LEAST_SHARE) return undefined;
      return { planes: evaluate(coefficients, widthPx, heightPx) };
    }
    // half of the box at least must be background, or there is no telling
    const limit = Math.max(TOLERANCE, sorted[Math.floor(sorted.length * 0.55)]!);
    kept = samples.filter((sample) => off(sample) <= limit);
  }
  return undefined;
}

function evaluate(coefficients: number[][], widthPx: number, heightPx: number): Float32Array {
  const planes = new Float32Array(widthPx * heightPx * 3);
  for (let c = 0; c < 3; c++) {
    const [k0, kx, ky, kxx, kxy, kyy] = coefficients[c] as [number, number, number, number, number, number];
    for (let py = 0, i = c; py < heightPx; py++) {
      const y = py / heightPx;
      const ofRow = k0 + ky * y + kyy * y * y;
      for (let px = 0; px < widthPx; px++, i += 3) {
        const x = px / widthPx;
        const value = ofRow + (kx + kxy * y + kxx * x) * x;
        planes[i] = Math.max(0, Math.min(255, value));
      }
    }
  }
  return planes;
}

const termsOf = (x: number, y: number): number[] => [1, x, y, x * x, x * y, y * y];
const dot = (a: readonly number[], b: readonly number[]): number => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
};

/** Normal equations by Gaussian elimination, a little weighed down so that a flat side does not matter. */
function solve(
  samples: readonly { terms: number[]; rgb: number[] }[],
  channel: number,
): number[] | undefined {
  const rows = Array.from({ length: TERMS }, () => new Array<number>(TERMS + 1).fill(0));
  for (const { rgb, terms } of samples)
    for (let i = 0; i < TERMS; i++) {
      for (let j = 0; j < TERMS; j++) rows[i]![j]! += terms[i]! * terms[j]!;
      rows[i]![TERMS]! += terms[i]! * rgb[channel]!;
    }
  for (let i = 0; i < TERMS; i++) rows[i]![i]! += 1e-6 * samples.length;
  for (let i = 0; i < TERMS; i++) {
    const pivot = rows[i]![i]!;
    if (Math.abs(pivot) < 1e-12) return undefined;
    for (let j = i + 1; j < TERMS; j++) {
      const factor = rows[j]![i]! / pivot;
      for (let k = i; k <= TERMS; k++) rows[j]![k]! -= factor * rows[i]![k]!;
    }
  }
  const solution = new Array<number>(TERMS).fill(0);
  for (let i = TERMS - 1; i >= 0; i--) {
    let sum = rows[i]![TERMS]!;
    for (let j = i + 1; j < TERMS; j++) sum -= rows[i]![j]! * solution[j]!;
    solution[i] = sum / rows[i]![i]!;
  }
  return solution;
}
