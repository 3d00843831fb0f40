import { type Box, intersect } from '../../../model/geometry.ts';
import type { Pixels } from '../../../model/ports.ts';
import type { Rgb } from '../colour.ts';
import { regionOf } from './sample-area.ts';

interface FlatColour {
  rgb: Rgb;
  /** Of the points that were looked at, 0 to 1. */
  share: number;
  points: number;
}

/** The colour of most points of a box, without those in the boxes that are left out; undefined where none is left. */
export function flatColour(
  pixels: Pixels,
  box: Box,
  leftOut: readonly Box[] = [],
  stepPx = 1,
): FlatColour | undefined {
  const region = regionOf(pixels, box);
  const without = leftOut
    .map((other) => intersect(other, region))
    .filter(({ height, width }) => height * width > 0);
  const counts = new Map<number, number>();
  let points = 0;
  for (let y = region.y; y < region.y + region.height; y += stepPx)
    for (let x = region.x; x < region.x + region.width; x += stepPx) {
      if (without.some((one) => holds(one, x, y))) continue;
      const at = (y * pixels.widthPx + x) * 4;
      const colour = (pixels.data[at]! << 16) | (pixels.data[at + 1]! << 8) | pixels.data[at + 2]!;
      counts.set(colour, (counts.get(colour) ?? 0) + 1);
      points += 1;
    }
  const most = [...counts].reduce<[number, number] | undefined>(
    (best, one) => (best && best[1] >= one[1] ? best : one),
    undefined,
  );
  return (
    most && { rgb: [most[0] >> 16, (most[0] >> 8) & 255, most[0] & 255], share: most[1] / points, points }
  );
}

const holds = ({ height, width, x, y }: Box, px: number, py: number): boolean =>
  px >= x && px < x + width && py >= y && py < y + height;
