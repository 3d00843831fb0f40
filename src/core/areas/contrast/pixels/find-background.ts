/**
 * What lies behind the glyphs: one colour, a gradient, or neither.
 *
 * One colour: the commonest of the box; where heavy text covers as much, the one that also surrounds the box. A panel drawn
 * inside the box (a chip in a larger touch area) is gone into, since its text stands on the panel.
 */
import type { Box } from '../../../model/geometry.ts';
import type { Pixels } from '../../../model/ports.ts';
import type { Rgb } from '../colour.ts';
import { type Area, countColours, distance, partOf, sampleArea, toRgb, wordsOf } from './sample-area.ts';

export interface FlatBackground {
  colour: Rgb;
  /** Levels of 255 within which a pixel still counts as background. */
  tolerance: number;
  /** Other colours that an eighth of the box and more has: a panel, or heavy text. */
  others: readonly number[];
}

const LEAST_SHARE = 0.3;
// A lossy picture strays about its colours; a lossless one does not.
const NOISY_TOLERANCE = 6;
// Colours so near to the background: fewer are a neighbour that is almost alike.
const NOISY_LEVELS = 6;
export const CLEAN_TOLERANCE = 1.8;

/** @param rows colours of the box, or of some of its rows */
export function findFlatBackground(
  pixels: Pixels,
  region: Box,
  rows: Int32Array,
): FlatBackground | undefined {
  const counts = countColours(rows);
  let total = 0;
  for (const count of counts.values()) total += count;
  const common = [...counts].filter(([, count]) => count >= total * 0.12);
  if (common.length === 0) return undefined;
  const ring = common.length > 1 ? ringColours(pixels, region) : new Map<number, number>();
  const weight = ([colour, count]: [number, number]) => count / total + (ring.get(colour) ?? 0);
  for (const [winner, exact] of common.sort((a, b) => weight(b) - weight(a))) {
    const colour = toRgb(winner);
    let near = 0;
    let levels = 0;
    for (const [other, count] of counts)
      if (distance(toRgb(other), colour) <= NOISY_TOLERANCE) {
        near += count;
        levels += 1;
      }
    if (near >= total * LEAST_SHARE)
      return {
        colour,
        tolerance: exact >= near * 0.97 || levels < NOISY_LEVELS ? CLEAN_TOLERANCE : NOISY_TOLERANCE,
        // what counts as the background itself is no other
        others: common
          .map(([other]) => other)
          .filter((other) => distance(toRgb(other), colour) > CLEAN_TOLERANCE),
      };
  }
  return undefined;
}

// Enough to tell the commonest colour by.
const SAMPLED_ROWS = 14;

/** Evenly spread rows of a large area; all of a small one. */
export function sampleRows({ colours, heightPx, widthPx }: Area): Int32Array {
  const step = Math.floor(heightPx / SAMPLED_ROWS);
  if (step <= 1) return colours;
  const count = Math.ceil(heightPx / step);
  const sampled = new Int32Array(count * widthPx);
  for (let row = 0; row < count; row++) {
    const from = row * step * widthPx;
    sampled.set(colours.subarray(from, from + widthPx), row * widthPx);
  }
  return sampled;
}

/** The same straight from a picture. */
export function sampleRowsOf(pixels: Pixels, { height, width, x, y }: Box): Int32Array {
  const step = Math.max(1, Math.floor(height / SAMPLED_ROWS));
  const rows: Int32Array[] = [];
  for (let row = 0; row < height; row += step)
    rows.push(sampleArea(pixels, { x, y: y + row, width, height: 1 }, []).colours);
  const sampled = new Int32Array(rows.length * width);
  rows.forEach((row, i) => {
    sampled.set(row, i * width);
  });
  return sampled;
}

/** Shares of the colours of the pixels just outside of the box. */
function ringColours(
  pixels: Pixels,
  { height: heightPx, width: widthPx, x: left, y: top }: Box,
): Map<number, number> {
  const counts = new Map<number, number>();
  let total = 0;
  const add = (x: number, y: number) => {
    if (x < 0 || y < 0 || x >= pixels.widthPx || y >= pixels.heightPx) return;
    const at = (y * pixels.widthPx + x) * 4;
    const colour = (pixels.data[at]! << 16) | (pixels.data[at + 1]! << 8) | pixels.data[at + 2]!;
    counts.set(colour, (counts.get(colour) ?? 0) + 1);
    total += 1;
  };
  for (let x = left - 1; x <= left + widthPx; x++) {
    add(x, top - 1);
    add(x, top + heightPx);
  }
  for (let y = top; y < top + heightPx; y++) {
    add(left - 1, y);
    add(left + widthPx, y);
  }
  for (const [colour, count] of counts) counts.set(colour, count / total);
  return counts;
}

const MAX_PANELS = 3;
const LEAST_PANEL_SHARE = 0.15;
// Of its bounds: heavy text leaves more than that of the panel it stands on, and fills less than that of its own bounds.
const LEAST_PANEL_FILL = 0.5;
const SOLID_ROWS = 3;

/**
 * The innermost panel of one colour that holds the rest of the ink, and its background; the area itself where there is none.
 *
 * @param count of the pixels of the box, of which the area may be the part that holds anything but the background
 */
export function innermostPanel(
  area: Area,
  background: FlatBackground,
  count: number,
): { area: Area; background: FlatBackground } {
  let [inner, behind, total] = [area, background, count];
  for (let depth = 0; depth < MAX_PANELS; depth++) {
    const panel = findPanel(inner, behind, total);
    if (!panel) break;
    inner = partOf(inner, panel.box);
    total = inner.uncoveredCount;
    behind = { ...behind, colour: panel.colour, others: commonColours(inner) };
  }
  return { area: inner, background: behind };
}

function findPanel(
  { colours, heightPx, widthPx }: Area,
  { colour: behind, others, tolerance }: FlatBackground,
  total: number,
): { box: Box; colour: Rgb } | undefined {
  for (const colour of others) {
    if (distance(toRgb(colour), behind) <= tolerance) continue;
    let count = 0;
    let [left, right, top, bottom] = [widthPx, -1, heightPx, -1];
    let solidRows = 0;
    for (let y = 0; y < heightPx; y++) {
      let first = -1;
      let last = -1;
      let run = 0;
      let longest = 0;
      for (let x = 0, i = y * widthPx; x < widthPx; x++, i++) {
        if (colours[i] !== colour) {
          run = 0;
          continue;
        }
        if (first < 0) first = x;
        last = x;
        count += 1;
        run += 1;
        if (run > longest) longest = run;
      }
      if (first < 0) continue;
      left = Math.min(left, first);
      right = Math.max(right, last);
      top = Math.min(top, y);
      bottom = y;
      if (longest >= (right - left + 1) * 0.7) solidRows += 1;
    }
    const box = { x: left, y: top, width: right - left + 1, height: bottom - top + 1 };
    const isInside = box.width * box.height < Math.max(total, widthPx * heightPx) * 0.97;
    // a panel with nothing in it is a shape of its own, not what a text stands on
    const holds = count < box.width * box.height * 0.985;
    if (
      isInside &&
      count >= total * LEAST_PANEL_SHARE &&
      holds &&
      solidRows >= SOLID_ROWS &&
      box.width >= 8 &&
      box.height >= 8 &&
      count >= box.width * box.height * LEAST_PANEL_FILL
    )
      return { box, colour: toRgb(colour) };
  }
  return undefined;
}

const commonColours = (area: Area): number[] => {
  const rows = sampleRows(area);
  return [...countColours(rows)].filter(([, count]) => count >= rows.length * 0.12).map(([colour]) => colour);
};

/** The part of an area that holds anything but the background, with a pixel of room; undefined where nothing does. */
export function cropToInk(area: Area, { colour, tolerance }: FlatBackground): Area | undefined {
  const { colours, heightPx, widthPx } = area;
  const [red, green, blue] = colour;
  const limit = tolerance * tolerance;
  const exact = (Math.round(red) << 16) | (Math.round(green) << 8) | Math.round(blue);
  const isInk = (value: number): boolean => {
    if (value === exact || value < 0) return false;
    const dr = (value >> 16) - red;
    const dg = ((value >> 8) & 255) - green;
    const db = (value & 255) - blue;
    return dr * dr + dg * dg + db * db > limit;
  };
  let [left, right, top, bottom] = [widthPx, -1, -1, -1];
  for (let y = 0; y < heightPx; y++) {
    const from = y * widthPx;
    let first = 0;
    while (first < widthPx && !isInk(colours[from + first]!)) first += 1;
    if (first === widthPx) continue;
    let last = widthPx - 1;
    while (!isInk(colours[from + last]!)) last -= 1;
    if (top < 0) top = y;
    bottom = y;
    if (first < left) left = first;
    if (last > right) right = last;
  }
  if (top < 0) return undefined;
  const x = Math.max(0, left - 1);
  const y = Math.max(0, top - 1);
  return partOf(area, {
    x,
    y,
    width: Math.min(widthPx, right + 2) - x,
    height: Math.min(heightPx, bottom + 2) - y,
  });
}

/** The same straight from a picture; undefined where there is only background. */
export function cropRegion(pixels: Pixels, region: Box, background: FlatBackground): Box | undefined {
  const words = wordsOf(pixels.data);
  if (!words) return region;
  const [red, green, blue] = background.colour;
  const limit = background.tolerance ** 2;
  const exact = (0xff << 24) | (Math.round(blue) << 16) | (Math.round(green) << 8) | Math.round(red);
  const isInk = (word: number): boolean => {
    if (word === exact) return false;
    const dr = (word & 255) - red;
    const dg = ((word >> 8) & 255) - green;
    const db = ((word >> 16) & 255) - blue;
    return dr * dr + dg * dg + db * db > limit;
  };
  const { height, width, x, y } = region;
  let [left, right, top, bottom] = [width, -1, -1, -1];
  for (let row = 0; row < height; row++) {
    const from = (y + row) * pixels.widthPx + x;
    let first = 0;
    while (first < width && !isInk(words[from + first]!)) first += 1;
    if (first === width) continue;
    let end = width - 1;
    while (end > right && !isInk(words[from + end]!)) end -= 1;
    if (top < 0) top = row;
    bottom = row;
    if (first < left) left = first;
    if (end > right) right = end;
  }
  if (top < 0) return undefined;
  const [fromX, fromY] = [Math.max(0, left - 1), Math.max(0, top - 1)];
  return {
    x: x + fromX,
    y: y + fromY,
    width: Math.min(width, right + 2) - fromX,
    height: Math.min(height, bottom + 2) - fromY,
  };
}
