/**
 * A picture that was packed with losses, as JPEG and WebP do, strays about its colours near every edge. Here the ground takes its
 * own colour again, so that what is drawn on it can be told from the noise; what was blurred of the drawing itself stays so.
 */
import type { Pixels } from '../../../model/ports.ts';

export interface SettledPixels extends Pixels {
  /** Levels of 255 by which colours of the ground strayed about edges; none where the picture was packed without losses. */
  strayLevels?: number;
}

// Losses are made in blocks of so many pixels each way (ITU-T T.81, section A.1.1).
const BLOCK_PX = 8;
// Levels of 255 within a block of one colour.
const FLAT_RANGE = 3;
// Levels from the darkest to the lightest of a block that holds an edge.
const EDGE_RANGE = 60;
// Levels of 255 from the ground: farther off is what is drawn on it.
const NEAR_LEVELS = 28;
// The hue strays much farther than the light, and tells less of a ratio.
const MOST_HUE_LEVELS = 60;
// Every so many blocks each way tell whether there are losses.
const SAMPLED_EACH = 3;
// Blocks with an edge: so many of a sample tell, and so few of a whole picture.
const LEAST_BLOCKS = 12;
const FEWEST_BLOCKS = 4;
// Of the pixels about the ground's colour in a block with an edge: so many are a little off it.
const PACKED_SHARE = 0.3;

const known = new WeakMap<Pixels, SettledPixels>();

/** The picture itself where nothing in it looks packed. */
export function settleColours(pixels: SettledPixels): SettledPixels {
  if (pixels.strayLevels !== undefined) return pixels;
  const found = known.get(pixels) ?? settle(pixels);
  known.set(pixels, found);
  return found;
}

function settle(pixels: Pixels): SettledPixels {
  const strayLevels = strayLevelsOf(pixels);
  if (strayLevels === undefined) return pixels;
  const grounds = groundsOf(pixels);
  const data = pixels.data.slice();
  const settled = { ...pixels, data };
  for (let row = 0; row < grounds.down; row++)
    for (let column = 0; column < grounds.across; column++) {
      const own = grounds.colours[row * grounds.across + column]!;
      if (own >= 0) fillBlock(settled, column, row, own);
      else settleBlock(settled, column, row, groundsAround(grounds, column, row), strayLevels);
    }
  return { ...pixels, data, strayLevels };
}

interface Grounds {
  across: number;
  down: number;
  /** 24-bit colours of blocks that have one; -1 for others. */
  colours: Int32Array;
}

// A colour that so many more blocks have, and that lies so near, is the same one.
const RARER = 4;
const SAME_LEVELS = 2;
// Of a screen's grounds.
const MOST_COMMON = 40;

function groundsOf(pixels: Pixels): Grounds {
  const across = Math.ceil(pixels.widthPx / BLOCK_PX);
  const down = Math.ceil(pixels.heightPx / BLOCK_PX);
  const colours = new Int32Array(across * down);
  const counts = new Map<number, number>();
  for (let row = 0; row < down; row++)
    for (let column = 0; column < across; column++) {
      const colour = flatColour(pixels, column, row);
      colours[row * across + column] = colour;
      if (colour >= 0) counts.set(colour, (counts.get(colour) ?? 0) + 1);
    }
  const ranked = [...counts].sort((a, b) => b[1] - a[1]);
  const common = ranked.slice(0, MOST_COMMON);
  const commoner = new Map<number, number>();
  for (const [colour, count] of ranked) {
    const [other] =
      common.find(([other, most]) => most >= count * RARER && levelsBetween(other, colour) <= SAME_LEVELS) ??
      [];
    if (other !== undefined) commoner.set(colour, commoner.get(other) ?? other);
  }
  for (let i = 0; i < colours.length; i++) colours[i] = commoner.get(colours[i]!) ?? colours[i]!;
  return { across, down, colours };
}

const levelsBetween = (a: number, b: number): number =>
  Math.max(
    Math.abs((a >> 16) - (b >> 16)),
    Math.abs(((a >> 8) & 255) - ((b >> 8) & 255)),
    Math.abs((a & 255) - (b & 255)),
  );

// Blocks each way: the lines of a heading lie within.
const REACH_BLOCKS = 4;
const MOST_GROUNDS = 6;

/** Colours of the grounds that lie nearest to a block that has none of its own. */
function groundsAround({ across, colours, down }: Grounds, column: number, row: number): number[] {
  const found = new Set<number>();
  for (let reach = 1; reach <= REACH_BLOCKS && found.size < MOST_GROUNDS; reach++)
    for (let y = Math.max(0, row - reach); y <= Math.min(down - 1, row + reach); y++) {
      const isEdge = Math.abs(y - row) === reach;
      for (let x = column - reach; x <= column + reach; x += isEdge ? 1 : 2 * reach) {
        const colour = x >= 0 && x < across ? colours[y * across + x]! : -1;
        if (colour >= 0) found.add(colour);
      }
    }
  return [...found];
}

/** A block that has a ground strays from it by less than any picture that was packed. */
function fillBlock({ data, widthPx }: Pixels, column: number, row: number, ground: number): void {
  for (let y = row * BLOCK_PX; y < (row + 1) * BLOCK_PX; y++)
    for (let at = (y * widthPx + column * BLOCK_PX) * 4, end = at + BLOCK_PX * 4; at < end; at += 4)
      paint(data, at, ground);
}

const paint = (data: Pixels['data'], at: number, colour: number): void => {
  data[at] = colour >> 16;
  data[at + 1] = (colour >> 8) & 255;
  data[at + 2] = colour & 255;
};

function settleBlock(
  { data, heightPx, widthPx }: Pixels,
  column: number,
  row: number,
  grounds: readonly number[],
  strayLevels: number,
): void {
  const right = Math.min(widthPx, (column + 1) * BLOCK_PX);
  for (let y = row * BLOCK_PX; y < Math.min(heightPx, (row + 1) * BLOCK_PX); y++)
    for (let at = (y * widthPx + column * BLOCK_PX) * 4, end = (y * widthPx + right) * 4; at < end; at += 4) {
      let nearest = -1;
      let least = Number.POSITIVE_INFINITY;
      for (const ground of grounds) {
        const light = lightOff(data, at, ground);
        if (light > strayLevels) continue;
        const hue = hueOff(data, at, ground);
        const off = light + hue / 4;
        if (hue <= MOST_HUE_LEVELS && off < least) {
          nearest = ground;
          least = off;
        }
      }
      if (nearest >= 0) paint(data, at, nearest);
    }
}

/** How far a ground's pixels stray about edges; undefined where they do not, or where nothing tells. */
function strayLevelsOf(pixels: Pixels): number | undefined {
  // a screen with little on it is looked at whole
  for (const each of [SAMPLED_EACH, 1]) {
    const { shares, strays } = straysAbout(pixels, each);
    if (shares.length < (each === 1 ? FEWEST_BLOCKS : LEAST_BLOCKS)) continue;
    const median = shares.sort((a, b) => a - b)[shares.length >> 1]!;
    return median < PACKED_SHARE ? undefined : mostStray(strays);
  }
  return undefined;
}

/** @param each of the blocks, every so many each way */
function straysAbout(pixels: Pixels, each: number): { shares: number[]; strays: Uint32Array } {
  const across = Math.floor(pixels.widthPx / BLOCK_PX);
  const down = Math.floor(pixels.heightPx / BLOCK_PX);
  const shares: number[] = [];
  const strays = new Uint32Array(NEAR_LEVELS + 1);
  for (let row = 1; row < down - 1; row += each)
    for (let column = 1; column < across - 1; column += each) {
      if (rangeOf(pixels, column, row) < EDGE_RANGE) continue;
      const ground = groundBeside(pixels, column, row);
      if (ground === undefined) continue;
      const [exact, near] = countNear(pixels, column, row, ground, strays);
      if (exact + near >= BLOCK_PX) shares.push(near / (exact + near));
    }
  return { shares, strays };
}

// A level more or less is rounding.
const LEAST_STRAY = 2;
// Of the strays, the upper end of so many; hardly any strays more than twice as far. The rest are edges.
const STRAY_SHARE = 0.8;
const FARTHEST_STRAY = 2;
const STRAYS: readonly [least: number, most: number] = [8, 20];

function mostStray(counts: Uint32Array): number {
  let left = counts.subarray(LEAST_STRAY).reduce((sum, count) => sum + count, 0) * STRAY_SHARE;
  let level = LEAST_STRAY;
  while (level < counts.length - 1 && left > counts[level]!) {
    left -= counts[level]!;
    level += 1;
  }
  return Math.min(STRAYS[1], Math.max(STRAYS[0], level * FARTHEST_STRAY));
}

function rangeOf({ data, widthPx }: Pixels, column: number, row: number): number {
  let [darkest, lightest] = [255, 0];
  for (let y = row * BLOCK_PX; y < (row + 1) * BLOCK_PX; y++)
    for (let at = (y * widthPx + column * BLOCK_PX) * 4, end = at + BLOCK_PX * 4; at < end; at += 4) {
      const level = (2 * data[at]! + 5 * data[at + 1]! + data[at + 2]!) >> 3;
      if (level < darkest) darkest = level;
      if (level > lightest) lightest = level;
    }
  return lightest - darkest;
}

/** The mean of a neighbour that is of one colour. */
function groundBeside(pixels: Pixels, column: number, row: number): number | undefined {
  for (const [dx, dy] of [
    [-1, 0],
    [1, 0],
    [0, -1],
    [0, 1],
  ] as const) {
    const found = flatColour(pixels, column + dx, row + dy);
    if (found >= 0) return found;
  }
  return undefined;
}

/** The mean colour of a block that hardly strays from it; -1 where it does. */
function flatColour({ data, heightPx, widthPx }: Pixels, column: number, row: number): number {
  if ((column + 1) * BLOCK_PX > widthPx || (row + 1) * BLOCK_PX > heightPx) return -1;
  const first = (row * BLOCK_PX * widthPx + column * BLOCK_PX) * 4;
  const [red, green, blue] = [data[first]!, data[first + 1]!, data[first + 2]!];
  let [sumRed, sumGreen, sumBlue] = [0, 0, 0];
  for (let y = 0; y < BLOCK_PX; y++)
    for (let at = first + y * widthPx * 4, end = at + BLOCK_PX * 4; at < end; at += 4) {
      const [dr, dg, db] = [data[at]! - red, data[at + 1]! - green, data[at + 2]! - blue];
      if (
        dr > FLAT_RANGE ||
        dr < -FLAT_RANGE ||
        dg > FLAT_RANGE ||
        dg < -FLAT_RANGE ||
        db > FLAT_RANGE ||
        db < -FLAT_RANGE
      )
        return -1;
      sumRed += dr;
      sumGreen += dg;
      sumBlue += db;
    }
  const count = BLOCK_PX * BLOCK_PX;
  return (
    ((red + Math.round(sumRed / count)) << 16) |
    ((green + Math.round(sumGreen / count)) << 8) |
    (blue + Math.round(sumBlue / count))
  );
}

/** Pixels about the ground's colour, those that are a little off it counted by how far. */
function countNear(
  { data, widthPx }: Pixels,
  column: number,
  row: number,
  ground: number,
  strays: Uint32Array,
): [exact: number, near: number] {
  let [exact, near] = [0, 0];
  for (let y = row * BLOCK_PX; y < (row + 1) * BLOCK_PX; y++)
    for (let at = (y * widthPx + column * BLOCK_PX) * 4, end = at + BLOCK_PX * 4; at < end; at += 4) {
      const light = lightOff(data, at, ground);
      if (light > NEAR_LEVELS) continue;
      const hue = hueOff(data, at, ground);
      if (hue > MOST_HUE_LEVELS) continue;
      strays[Math.round(light)]! += 1;
      if (light <= 1 && hue <= 2) exact += 1;
      else near += 1;
    }
  return [exact, near];
}

// How far a pixel lies from a colour in light and in hue, which are packed apart, the hue at half the resolution (ITU-T T.871,
// section 7). In levels of 255.

function lightOff(data: Pixels['data'], at: number, colour: number): number {
  return Math.abs(lightBetween(data, at, colour));
}

function hueOff(data: Pixels['data'], at: number, colour: number): number {
  const light = lightBetween(data, at, colour);
  const toBlue = Math.abs(data[at + 2]! - (colour & 255) - light) * 0.564;
  const toRed = Math.abs(data[at]! - (colour >> 16) - light) * 0.713;
  return Math.max(toBlue, toRed);
}

const lightBetween = (data: Pixels['data'], at: number, colour: number): number =>
  0.299 * (data[at]! - (colour >> 16)) +
  0.587 * (data[at + 1]! - ((colour >> 8) & 255)) +
  0.114 * (data[at + 2]! - (colour & 255));
