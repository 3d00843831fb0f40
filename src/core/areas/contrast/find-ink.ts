/** What is written in a box of a picture: the commonest colour is the background, what departs from it is ink. */
import type { Box } from '../../model/geometry.ts';
import type { Pixels } from '../../model/ports.ts';
import type { Rgb } from './colour.ts';

// Levels of 255. Below it, a pixel counts as background.
const BACKGROUND_TOLERANCE = 6;
const LEAST_BACKGROUND_SHARE = 0.3;

/** Where a box holds ink, row by row; undefined where there is no telling. */
export function inkOf(
  pixels: Pixels,
  box: Box,
  covers: readonly Box[],
): { ink: Uint8Array; widthPx: number; heightPx: number } | undefined {
  const area = samplingArea(pixels, box, covers);
  if (area.widthPx < 3 || area.heightPx < 3 || area.uncoveredCount < area.colours.length / 2)
    return undefined;
  const background = findBackground(pixels, area);
  if (!background) return undefined;
  const ink = findInk(area, background);
  dropFrames(ink, area);
  return { ink, widthPx: area.widthPx, heightPx: area.heightPx };
}

export interface Area {
  widthPx: number;
  heightPx: number;
  left: number;
  top: number;
  /** 24-bit colours, row by row; -1 where something lies over the element. */
  colours: Int32Array;
  uncoveredCount: number;
}

/** Bounds of ink that hangs together, in pixels of the box. */
export interface Mark {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

export function inkMarks({
  heightPx,
  ink,
  widthPx,
}: {
  ink: Uint8Array;
  widthPx: number;
  heightPx: number;
}): Mark[] {
  const seen = new Uint8Array(ink.length);
  const marks: Mark[] = [];
  for (let start = 0; start < ink.length; start++) {
    if (!ink[start] || seen[start]) continue;
    const mark: Mark = { left: widthPx, right: 0, top: heightPx, bottom: 0 };
    for (const i of connected(ink, seen, start, widthPx, heightPx)) {
      const x = i % widthPx;
      const y = Math.floor(i / widthPx);
      mark.left = Math.min(mark.left, x);
      mark.right = Math.max(mark.right, x);
      mark.top = Math.min(mark.top, y);
      mark.bottom = Math.max(mark.bottom, y);
    }
    marks.push(mark);
  }
  return marks;
}

export function samplingArea(pixels: Pixels, box: Box, covers: readonly Box[]): Area {
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

export const clamp = (value: number, max: number): number => Math.min(max, Math.max(0, value));

function colourAt({ data, widthPx }: Pixels, x: number, y: number): number {
  const at = (y * widthPx + x) * 4;
  return (data[at]! << 16) | (data[at + 1]! << 8) | data[at + 2]!;
}

export const toRgb = (colour: number): Rgb => [colour >> 16, (colour >> 8) & 0xff, colour & 0xff];

export const distance = (a: Rgb, b: Rgb): number =>
  Math.sqrt((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2 + (a[2] - b[2]) ** 2);

/** How often each colour occurs. Neighbours are mostly alike, so runs are counted before they are looked up. */
export function colourCounts({ colours }: Area, mask?: Uint8Array): Map<number, number> {
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
export function findBackground(pixels: Pixels, area: Area): Rgb | undefined {
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

export function findInk({ colours }: Area, background: Rgb): Uint8Array {
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
export function dropFrames(ink: Uint8Array, { widthPx, heightPx }: Area): void {
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
