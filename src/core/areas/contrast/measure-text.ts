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

// Levels of 255. Below the first, a pixel counts as background; beyond the second, as another colour than the text's.
const BACKGROUND_TOLERANCE = 6;
const OFF_LINE = 24;
const LEAST_BACKGROUND_SHARE = 0.3;
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

interface Area {
  widthPx: number;
  heightPx: number;
  left: number;
  top: number;
  /** 24-bit colours, row by row; -1 where something lies over the element. */
  colours: Int32Array;
  uncoveredCount: number;
}

function samplingArea(pixels: Pixels, box: Box, covers: readonly Box[]): Area {
  const left = Math.max(0, Math.round(box.x));
  const top = Math.max(0, Math.round(box.y));
  const widthPx = Math.max(0, Math.min(pixels.widthPx, Math.round(box.x + box.width)) - left);
  const heightPx = Math.max(0, Math.min(pixels.heightPx, Math.round(box.y + box.height)) - top);
  const colours = new Int32Array(widthPx * heightPx);
  for (let y = 0; y < heightPx; y++)
    for (let x = 0; x < widthPx; x++) colours[y * widthPx + x] = colourAt(pixels, left + x, top + y);
  for (const cover of covers)
    for (let y = Math.max(0, cover.y - top); y < Math.min(heightPx, cover.y + cover.height - top); y++)
      colours.fill(
        -1,
        y * widthPx + clamp(cover.x - left, widthPx),
        y * widthPx + clamp(cover.x + cover.width - left, widthPx),
      );
  let uncoveredCount = 0;
  for (const colour of colours) if (colour >= 0) uncoveredCount += 1;
  return { widthPx, heightPx, left, top, colours, uncoveredCount };
}

const clamp = (value: number, max: number): number => Math.min(max, Math.max(0, value));

function colourAt({ data, widthPx }: Pixels, x: number, y: number): number {
  const at = (y * widthPx + x) * 4;
  return (data[at]! << 16) | (data[at + 1]! << 8) | data[at + 2]!;
}

const toRgb = (colour: number): Rgb => [colour >> 16, (colour >> 8) & 0xff, colour & 0xff];

const distance = (a: Rgb, b: Rgb): number =>
  Math.sqrt((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2 + (a[2] - b[2]) ** 2);

/** How often each colour occurs. Neighbours are mostly alike, so runs are counted before they are looked up. */
function colourCounts({ colours }: Area, mask?: Uint8Array): Map<number, number> {
  const found = new Map<number, number>();
  let run = 0;
  for (let i = 0; i < colours.length; i++) {
    const colour = colours[i]!;
    if (colour >= 0 && (!mask || mask[i])) run += 1;
    if (run > 0 && colours[i + 1] !== colour) {
      found.set(colour, (found.get(colour) ?? 0) + run);
      run = 0;
    }
  }
  return found;
}

/** The commonest colour; where heavy text covers as much, the one that also surrounds the box. */
function findBackground(pixels: Pixels, area: Area): Rgb | undefined {
  const counts = colourCounts(area);
  const total = area.uncoveredCount;
  const common = [...counts].filter(([, count]) => count >= total * 0.15);
  if (common.length === 0) return undefined;
  const ring = ringCounts(pixels, area);
  const ringTotal = Math.max(
    1,
    [...ring.values()].reduce((sum, count) => sum + count, 0),
  );
  const weight = ([colour, count]: [number, number]) => count / total + (ring.get(colour) ?? 0) / ringTotal;
  const [winner] = common.sort((a, b) => weight(b) - weight(a))[0]!;
  const background = toRgb(winner);
  let near = 0;
  for (const [colour, count] of counts)
    if (distance(toRgb(colour), background) <= BACKGROUND_TOLERANCE) near += count;
  return near >= total * LEAST_BACKGROUND_SHARE ? background : undefined;
}

function ringCounts(pixels: Pixels, { left, top, widthPx, heightPx }: Area): Map<number, number> {
  const counts = new Map<number, number>();
  const add = (x: number, y: number) => {
    if (x < 0 || y < 0 || x >= pixels.widthPx || y >= pixels.heightPx) return;
    const colour = colourAt(pixels, x, y);
    counts.set(colour, (counts.get(colour) ?? 0) + 1);
  };
  for (let x = left - 1; x <= left + widthPx; x++) {
    add(x, top - 1);
    add(x, top + heightPx);
  }
  for (let y = top; y < top + heightPx; y++) {
    add(left - 1, y);
    add(left + widthPx, y);
  }
  return counts;
}

function findInk({ colours }: Area, background: Rgb): Uint8Array {
  const ink = new Uint8Array(colours.length);
  let last = -1;
  let lastIsInk = 0;
  for (let i = 0; i < colours.length; i++) {
    const colour = colours[i]!;
    if (colour !== last) {
      last = colour;
      lastIsInk = colour >= 0 && distance(toRgb(colour), background) > BACKGROUND_TOLERANCE ? 1 : 0;
    }
    ink[i] = lastIsInk;
  }
  return ink;
}

/** Takes out what is not writing: an outline around the box, and corners rounded off onto what lies behind. */
function dropFrames(ink: Uint8Array, { widthPx, heightPx }: Area): void {
  const seen = new Uint8Array(ink.length);
  const corners = new Set([0, widthPx - 1, (heightPx - 1) * widthPx, heightPx * widthPx - 1]);
  const border: number[] = [];
  for (let x = 0; x < widthPx; x++) border.push(x, (heightPx - 1) * widthPx + x);
  for (let y = 0; y < heightPx; y++) border.push(y * widthPx, y * widthPx + widthPx - 1);
  for (const start of border) {
    if (!ink[start] || seen[start]) continue;
    const part = connected(ink, seen, start, widthPx, heightPx);
    const spansWidth = spread(part.map((i) => i % widthPx)) >= widthPx * 0.9;
    const spansHeight = spread(part.map((i) => Math.floor(i / widthPx))) >= heightPx * 0.9;
    if ((spansWidth && spansHeight) || part.some((i) => corners.has(i))) for (const i of part) ink[i] = 0;
  }
}

const spread = (values: number[]): number =>
  values.reduce((a, b) => Math.max(a, b), 0) - values.reduce((a, b) => Math.min(a, b), Infinity) + 1;

function connected(
  ink: Uint8Array,
  seen: Uint8Array,
  start: number,
  widthPx: number,
  heightPx: number,
): number[] {
  const part = [start];
  seen[start] = 1;
  for (let next = 0; next < part.length; next++) {
    const i = part[next]!;
    const x = i % widthPx;
    const y = Math.floor(i / widthPx);
    for (let dy = -1; dy <= 1; dy++)
      for (let dx = -1; dx <= 1; dx++) {
        const j = i + dy * widthPx + dx;
        if (x + dx < 0 || x + dx >= widthPx || y + dy < 0 || y + dy >= heightPx || !ink[j] || seen[j])
          continue;
        seen[j] = 1;
        part.push(j);
      }
  }
  return part;
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
