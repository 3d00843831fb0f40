/**
 * The two colours of a text, seen in a picture.
 *
 * The background is the commonest colour of the element's box. Antialiasing mixes the text's own colour
 * with it, so inked pixels lie on a line in RGB that starts at the background; the text's colour is where
 * that line ends. Where enough pixels reach the end it is known; thin text may never reach it, and then
 * the true ratio lies between what was seen and what a coverage of three quarters would hide.
 */
import type { Box } from '../../model/geometry.ts';
import type { Pixels } from '../../model/ports.ts';
import { contrastRatio, type Rgb } from './colour.ts';
import {
  type Area,
  clamp,
  colourCounts,
  distance,
  dropFrames,
  findBackground,
  findInk,
  samplingArea,
  toRgb,
} from './find-ink.ts';

export interface TextSeen {
  foreground: Rgb;
  background: Rgb;
  ratio: number;
  interval: [number, number];
  /** Share of inked pixels that bear the foreground itself. */
  reached: number;
  /** Heights of the runs of inked rows, top to bottom. */
  lineHeightsPx: number[];
}

export type TextUnseen = 'no-ink' | 'too-small' | 'covered' | 'busy-background';

// Levels of 255. Beyond it, a pixel counts as another colour than the text's.
const OFF_LINE = 24;
const LEAST_COVERAGE = 0.75;

/**
 * @param box the element's visible bounds, within the picture
 * @param covers boxes drawn over the element, left out
 */
export function measureText(pixels: Pixels, box: Box, covers: readonly Box[]): TextSeen | TextUnseen {
  const area = samplingArea(pixels, box, covers);
  if (area.widthPx < 3 || area.heightPx < 3) return 'too-small';
  if (area.uncoveredCount < area.widthPx * area.heightPx * 0.5) return 'covered';
  const background = findBackground(pixels, area);
  if (!background) return 'busy-background';
  const ink = findInk(area, background);
  dropFrames(ink, area);
  const inked = colourCounts(area, ink);
  const foreground = findForeground(inked, background);
  if (!foreground) return 'no-ink';
  return { ...foreground, background, lineHeightsPx: lineHeights(ink, area) };
}

function findForeground(
  inked: Map<number, number>,
  background: Rgb,
): Pick<TextSeen, 'foreground' | 'ratio' | 'interval' | 'reached'> | undefined {
  let total = 0;
  let farthest = 0;
  for (const [colour, count] of inked) {
    total += count;
    farthest = Math.max(farthest, distance(toRgb(colour), background));
  }
  if (total < 6) return undefined;
  const far = [...inked]
    .filter(([colour]) => distance(toRgb(colour), background) >= farthest * 0.75)
    .sort((a, b) => b[1] - a[1]);
  const end = toRgb(far[0]![0]);
  const atEnd = sumNear(inked, end, 3);
  const isEnd = distance(end, background) >= farthest * 0.96 && atEnd >= Math.max(4, total * 0.04);
  const foreground = isEnd ? end : meanOfFarthest(inked, background, farthest);
  const ratio = contrastRatio(foreground, background);
  // one level either way is what rounding to 8 bits may hide
  const hidden = isEnd
    ? Math.max(ratio * 0.01, 0.02)
    : contrastRatio(extrapolate(background, foreground, 1 / LEAST_COVERAGE), background) - ratio;
  const interval: [number, number] = isEnd ? [ratio - hidden, ratio + hidden] : [ratio, ratio + hidden];
  const other = otherColour(inked, background, foreground, total);
  if (other === undefined)
    return {
      foreground,
      ratio,
      interval: [Math.max(1, interval[0]), Math.min(21, interval[1])],
      reached: atEnd / total,
    };
  const otherRatio = contrastRatio(other, background);
  const [worse, worseRatio] = otherRatio < ratio ? [other, otherRatio] : [foreground, ratio];
  return {
    foreground: worse,
    ratio: worseRatio,
    interval: [
      Math.max(1, Math.min(otherRatio, interval[0])),
      Math.min(21, Math.max(otherRatio, interval[1])),
    ],
    reached: atEnd / total,
  };
}

/** A second colour among the ink, off the line from background to foreground: an icon, a link, a coloured word. */
function otherColour(
  inked: Map<number, number>,
  background: Rgb,
  foreground: Rgb,
  total: number,
): Rgb | undefined {
  const axis = [0, 1, 2].map((c) => foreground[c]! - background[c]!) as [number, number, number];
  const length = Math.hypot(...axis);
  let off = 0;
  let commonest: [number, number] | undefined;
  for (const entry of inked) {
    const rgb = toRgb(entry[0]);
    const along = [0, 1, 2].reduce((sum, c) => sum + (rgb[c]! - background[c]!) * axis[c]!, 0) / length ** 2;
    const foot = [0, 1, 2].map((c) => background[c]! + along * axis[c]!) as unknown as Rgb;
    if (distance(rgb, foot) <= OFF_LINE) continue;
    off += entry[1];
    if (!commonest || entry[1] > commonest[1]) commonest = entry;
  }
  return commonest && off > total * 0.12 ? toRgb(commonest[0]) : undefined;
}

function sumNear(counts: Map<number, number>, to: Rgb, tolerance: number): number {
  let sum = 0;
  for (const [colour, count] of counts) if (distance(toRgb(colour), to) <= tolerance) sum += count;
  return sum;
}

function meanOfFarthest(inked: Map<number, number>, background: Rgb, farthest: number): Rgb {
  const sums = [0, 0, 0, 0];
  for (const [colour, count] of inked) {
    const rgb = toRgb(colour);
    if (distance(rgb, background) < farthest * 0.96) continue;
    for (let c = 0; c < 3; c++) sums[c]! += rgb[c]! * count;
    sums[3]! += count;
  }
  return [sums[0]! / sums[3]!, sums[1]! / sums[3]!, sums[2]! / sums[3]!];
}

const extrapolate = (from: Rgb, to: Rgb, factor: number): Rgb =>
  [0, 1, 2].map((c) => clamp(from[c]! + (to[c]! - from[c]!) * factor, 255)) as unknown as Rgb;

/** Runs of rows that hold ink; a gap of less than a quarter of a run is a dot or an accent, not a new line. */
function lineHeights(ink: Uint8Array, { widthPx, heightPx }: Area): number[] {
  const runs: { from: number; to: number }[] = [];
  for (let y = 0; y < heightPx; y++) {
    if (!ink.subarray(y * widthPx, (y + 1) * widthPx).includes(1)) continue;
    const last = runs.at(-1);
    if (last && y - last.to <= Math.max(1, (last.to - last.from + 1) * 0.25)) last.to = y;
    else runs.push({ from: y, to: y });
  }
  return runs.map((run) => run.to - run.from + 1);
}
