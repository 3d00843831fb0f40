/** The colours of a box of a picture, as all measuring of pixels reads them. */
import { area as areaOf, type Box, intersect } from '../../../model/geometry.ts';
import type { Rgb } from '../colour.ts';
import type { SettledPixels } from './settle-colours.ts';

export interface Area {
  widthPx: number;
  heightPx: number;
  left: number;
  top: number;
  /** 24-bit colours, row by row; -1 where something lies over the element. */
  colours: Int32Array;
  uncoveredCount: number;
  /** Of a picture that was packed with losses (`settle-colours.ts`). */
  strayLevels?: number;
}

/** The part of a box that lies in the picture, in whole pixels. */
export function regionOf(pixels: Pick<SettledPixels, 'widthPx' | 'heightPx'>, box: Box): Box {
  const x = Math.max(0, Math.round(box.x));
  const y = Math.max(0, Math.round(box.y));
  return {
    x,
    y,
    width: Math.max(0, Math.min(pixels.widthPx, Math.round(box.x + box.width)) - x),
    height: Math.max(0, Math.min(pixels.heightPx, Math.round(box.y + box.height)) - y),
  };
}

/** @param covers boxes drawn over the element, in picture pixels */
export function sampleArea(pixels: SettledPixels, box: Box, covers: readonly Box[]): Area {
  const { height: heightPx, width: widthPx, x: left, y: top } = regionOf(pixels, box);
  const colours = new Int32Array(widthPx * heightPx);
  const { data } = pixels;
  const words = wordsOf(data);
  for (let y = 0, i = 0; y < heightPx; y++) {
    const from = (top + y) * pixels.widthPx + left;
    if (words)
      for (let at = from, end = from + widthPx; at < end; at++, i++) colours[i] = colourOfWord(words[at]!);
    else
      for (let at = from * 4, end = i + widthPx; i < end; i++, at += 4)
        colours[i] = (data[at]! << 16) | (data[at + 1]! << 8) | data[at + 2]!;
  }
  let coveredCount = 0;
  const own = { x: left, y: top, width: widthPx, height: heightPx };
  for (const cover of covers) {
    const part = intersect(own, roundOut(cover));
    if (areaOf(part) === 0) continue;
    for (let y = part.y - top; y < part.y - top + part.height; y++)
      for (let i = y * widthPx + part.x - left, end = i + part.width; i < end; i++) {
        if (colours[i] !== -1) coveredCount += 1;
        colours[i] = -1;
      }
  }
  return {
    widthPx,
    heightPx,
    left,
    top,
    colours,
    uncoveredCount: colours.length - coveredCount,
    ...straysOf(pixels),
  };
}

const isLittleEndian = new Uint8Array(new Uint32Array([1]).buffer)[0] === 1;

/** The same bytes four at a time, where they lie so that this can be had. */
export const wordsOf = (data: SettledPixels['data']): Int32Array | undefined =>
  isLittleEndian && data.byteOffset % 4 === 0
    ? new Int32Array(data.buffer as ArrayBuffer, data.byteOffset, data.length >> 2)
    : undefined;

/** Four bytes as they lie in memory, the lowest first, to a 24-bit colour. */
const colourOfWord = (word: number): number => ((word & 255) << 16) | (word & 0xff00) | ((word >> 16) & 255);

/** A pixel wider on each side, since an edge that lies between pixels colours both. */
const roundOut = ({ height, width, x, y }: Box): Box => ({
  x: Math.floor(x) - 1,
  y: Math.floor(y) - 1,
  width: Math.ceil(x + width) - Math.floor(x) + 2,
  height: Math.ceil(y + height) - Math.floor(y) + 2,
});

/** A part of it, given in its own pixels. */
export function partOf(area: Area, { height, width, x, y }: Box): Area {
  const colours = new Int32Array(width * height);
  let uncoveredCount = 0;
  for (let row = 0; row < height; row++) {
    const from = (y + row) * area.widthPx + x;
    colours.set(area.colours.subarray(from, from + width), row * width);
  }
  for (const colour of colours) if (colour >= 0) uncoveredCount += 1;
  return {
    widthPx: width,
    heightPx: height,
    left: area.left + x,
    top: area.top + y,
    colours,
    uncoveredCount,
    ...straysOf(area),
  };
}

const straysOf = ({ strayLevels }: { strayLevels?: number }): { strayLevels?: number } =>
  strayLevels === undefined ? {} : { strayLevels };

export const toRgb = (colour: number): Rgb => [colour >> 16, (colour >> 8) & 0xff, colour & 0xff];

// much faster than Math.hypot, whose care for very large numbers is not needed here
const { sqrt } = Math;

/** In levels of 255, straight through sRGB. */
export const distance = (a: Rgb, b: Rgb): number => {
  const [red, green, blue] = [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
  return sqrt(red * red + green * green + blue * blue);
};

/** Levels of 255: a colour that lies farther off is no mixture of two. */
export const OFF_LINE = 24;

/** How far a colour lies from all mixtures of two others, in levels of 255. */
export function offLine(rgb: Rgb, from: Rgb, to: Rgb): number {
  const line = [to[0] - from[0], to[1] - from[1], to[2] - from[2]] as const;
  const length = line[0] ** 2 + line[1] ** 2 + line[2] ** 2 || 1;
  const along =
    ((rgb[0] - from[0]) * line[0] + (rgb[1] - from[1]) * line[1] + (rgb[2] - from[2]) * line[2]) / length;
  const share = Math.max(0, Math.min(1, along));
  return distance(rgb, [from[0] + line[0] * share, from[1] + line[1] * share, from[2] + line[2] * share]);
}

/** How often each colour occurs. Neighbours are mostly alike, so runs are counted before they are looked up. */
export function countColours(colours: Int32Array, mask?: Uint8Array): Map<number, number> {
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
