/**
 * Text over a photo. Its colour is the one that comes again and again in narrow strokes, while a photo's pixels all differ;
 * what counts as its background is what surrounds the strokes, stretch by stretch.
 */
import { contrastRatio, type Rgb } from '../colour.ts';
import { markHeight, markInk } from './find-ink.ts';
import { leastMarks } from './find-words.ts';
import type { TextSeen } from './measure-text.ts';
import { type Area, countColours, toRgb } from './sample-area.ts';

const LEAST_SHARE = 0.015;
const MAX_CANDIDATES = 4;
const LEAST_IN_LETTERS = 0.6;
const MAX_FILL = 0.6;
// Where one stretch ends and the next begins is arbitrary.
const UNSURE = 1.12;

/** @param text as the tree holds it; may be empty */
export function measureOnPhoto(area: Area, text: string): TextSeen | undefined {
  const { colours, uncoveredCount } = area;
  const writing = [...countColours(colours)]
    .filter(([, count]) => count >= uncoveredCount * LEAST_SHARE)
    .sort((a, b) => b[1] - a[1])
    .slice(0, MAX_CANDIDATES)
    .flatMap(([colour, count]) => findWriting(area, colour, count, leastMarks(text)) ?? [])
    .sort((a, b) => b.share - a.share)[0];
  if (!writing) return undefined;
  const { foreground, heightsPx, ink } = writing;
  const ratios = patchesAround(area, ink, heightsPx[0]!)
    .map(({ mean, worst }) => ({
      background: mean,
      ratio: contrastRatio(foreground, mean),
      lowest: Math.min(...worst.map((rgb) => contrastRatio(foreground, rgb))),
    }))
    .sort((a, b) => a.ratio - b.ratio);
  const [faintest, next] = ratios;
  if (!faintest) return undefined;
  return {
    foreground,
    background: faintest.background,
    ratio: faintest.ratio,
    interval: [
      Math.max(1, Math.min(...ratios.map(({ lowest }) => lowest))),
      Math.min(21, Math.max(faintest.ratio * UNSURE, next?.ratio ?? 0)),
    ],
    behind: 'picture',
    meanRatio: ratios.reduce((sum, { ratio }) => sum + ratio, 0) / ratios.length,
    reached: 1,
    stemPx: 0,
    spanCount: 1,
    runPx: 0,
    clipped: false,
    glyphHeightsPx: heightsPx,
    linePx: heightsPx[0]!,
  };
}

interface Writing {
  foreground: Rgb;
  ink: Uint8Array;
  /** Tallest first. */
  heightsPx: number[];
  /** Of the colour's pixels, those that lie in marks as tall as letters: a photo's lie about in specks. */
  share: number;
}

function findWriting(
  { colours, heightPx, uncoveredCount, widthPx }: Area,
  colour: number,
  count: number,
  least: number,
): Writing | undefined {
  const ink = new Uint8Array(colours.length);
  for (let i = 0; i < colours.length; i++) if (colours[i] === colour) ink[i] = 1;
  const { marks } = markInk({ widthPx, heightPx, ink });
  const heightsPx = marks.map(markHeight).sort((a, b) => b - a);
  const [tallest = 0] = heightsPx;
  const letters = marks.filter((mark) => markHeight(mark) >= tallest * 0.4);
  const inLetters = letters.reduce((sum, mark) => sum + mark.count, 0);
  const isWriting =
    tallest >= 6 &&
    letters.length >= least &&
    inLetters >= count * LEAST_IN_LETTERS &&
    inLetters <= uncoveredCount * MAX_FILL &&
    strokeWidth(ink, widthPx) <= tallest * 0.35;
  return isWriting ? { foreground: toRgb(colour), ink, heightsPx, share: inLetters / count } : undefined;
}

/** Median length of the runs in rows. */
function strokeWidth(ink: Uint8Array, widthPx: number): number {
  const runs: number[] = [];
  let run = 0;
  for (let i = 0; i < ink.length; i++) {
    if (i % widthPx === 0 && run > 0) {
      runs.push(run);
      run = 0;
    }
    if (ink[i]) run += 1;
    else if (run > 0) {
      runs.push(run);
      run = 0;
    }
  }
  runs.sort((a, b) => a - b);
  return runs[Math.floor(runs.length / 2)] ?? 0;
}

interface Patch {
  mean: Rgb;
  /** Nine tenths of its pixels contrast more, or as much. */
  worst: Rgb[];
}

/** Stretches as long as a line is high: the pixels near strokes, but beyond where antialiasing mixes them. */
function patchesAround({ colours, heightPx, widthPx }: Area, ink: Uint8Array, heightOfLine: number): Patch[] {
  const reach = Math.max(4, Math.round(heightOfLine * 0.25));
  const near = dilate(ink, widthPx, heightPx, reach);
  const mixed = dilate(ink, widthPx, heightPx, 2);
  const size = Math.max(8, Math.round(heightOfLine * 1.4));
  const patches = new Map<number, number[]>();
  for (let y = 0, i = 0; y < heightPx; y++)
    for (let x = 0; x < widthPx; x++, i++) {
      if (!near[i] || mixed[i] || colours[i]! < 0) continue;
      const key = Math.floor(y / size) * 10_000 + Math.floor(x / size);
      const list = patches.get(key);
      if (list) list.push(colours[i]!);
      else patches.set(key, [colours[i]!]);
    }
  return [...patches.values()]
    .filter((list) => list.length >= 12)
    .map((list) => {
      const all = list.map(toRgb);
      const mean = [0, 1, 2].map((c) => all.reduce((sum, rgb) => sum + rgb[c]!, 0) / all.length);
      const byLuma = all.sort((a, b) => luma(a) - luma(b));
      const tenth = Math.floor(byLuma.length / 10);
      return { mean: mean as unknown as Rgb, worst: [byLuma[tenth]!, byLuma[byLuma.length - 1 - tenth]!] };
    });
}

const luma = ([r, g, b]: Rgb): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** Everything within so many pixels of it, in a square. */
function dilate(mask: Uint8Array, widthPx: number, heightPx: number, reach: number): Uint8Array {
  const across = new Uint8Array(mask.length);
  for (let y = 0; y < heightPx; y++) {
    let since = Number.POSITIVE_INFINITY;
    for (let x = 0; x < widthPx; x++) {
      since = mask[y * widthPx + x] ? 0 : since + 1;
      if (since <= reach) across[y * widthPx + x] = 1;
    }
    since = Number.POSITIVE_INFINITY;
    for (let x = widthPx - 1; x >= 0; x--) {
      since = mask[y * widthPx + x] ? 0 : since + 1;
      if (since <= reach) across[y * widthPx + x] = 1;
    }
  }
  const found = new Uint8Array(mask.length);
  for (let x = 0; x < widthPx; x++) {
    let since = Number.POSITIVE_INFINITY;
    for (let y = 0; y < heightPx; y++) {
      since = across[y * widthPx + x] ? 0 : since + 1;
      if (since <= reach) found[y * widthPx + x] = 1;
    }
    since = Number.POSITIVE_INFINITY;
    for (let y = heightPx - 1; y >= 0; y--) {
      since = across[y * widthPx + x] ? 0 : since + 1;
      if (since <= reach) found[y * widthPx + x] = 1;
    }
  }
  return found;
}
