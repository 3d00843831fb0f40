/** What packing with losses may have made of a ratio that was measured on settled colours. */
import type { Rgb } from '../colour.ts';

// Of the ratio, and how much more of it where both colours lie a whole channel apart: letters come out stronger by the ripples
// around them, and weaker by the hue of what lies beside them.
const STRONGER = { share: 0.15, byHue: 0.1 };
const WEAKER = { share: 0.08, byHue: 0.12 };

export function intervalWithLosses({
  background,
  foreground,
  interval,
}: {
  foreground: Rgb;
  background: Rgb;
  interval: readonly [number, number];
}): [number, number] {
  const apart = [0, 1, 2].map((c) => foreground[c]! - background[c]!);
  const hue = (Math.max(...apart) - Math.min(...apart)) / 255;
  return [
    Math.max(1, interval[0] * (1 - STRONGER.share - STRONGER.byHue * hue)),
    Math.min(21, interval[1] * (1 + WEAKER.share + WEAKER.byHue * hue)),
  ];
}

// A fainter one may be the noise itself.
const FAINTEST = 1.7;

/** Noise may have been taken for it. */
export const mayBeNoise = ({ ratio }: { ratio: number }): boolean => ratio < FAINTEST;
