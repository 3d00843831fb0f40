import type { Platform } from '../../../model/candidate.ts';
import { contentSizeNear, scaledPoints } from '../../../platform/apple/content-size.ts';

/**
 * How much larger a text is expected to be at a text scale. Android from version 14 on scales large text less than small
 * (`FontScaleConverterFactory` of the platform: sizes in sp and what they become in dp); in between, both the size and the
 * scale are interpolated. Texts of iOS grow by their styles.
 */
const FROM_SP = [8, 10, 12, 14, 18, 20, 24, 30, 100] as const;
const CURVES: readonly (readonly [number, readonly number[]])[] = [
  [1, FROM_SP],
  [1.15, [9.2, 11.5, 13.8, 16.4, 19.8, 21.8, 25.2, 30, 100]],
  [1.3, [10.4, 13, 15.6, 18.8, 21.6, 23.6, 26.4, 30, 100]],
  [1.5, [12, 15, 18, 22, 24, 26, 28, 30, 100]],
  [1.8, [14.4, 18, 21.6, 24.4, 27.6, 30.8, 32.8, 34.8, 100]],
  [2, [16, 20, 24, 26, 30, 34, 36, 38, 100]],
];

/** The least growth that the platform gives a text of that size, as a factor of its size at 100 %. */
export function leastGrowth(sizeSp: number, scale: number, platform: Platform = 'android'): number {
  if (platform === 'ios') return leastOfStyles(sizeSp, scale);
  const size = Math.min(100, Math.max(FROM_SP[0], sizeSp));
  const above = CURVES.findIndex(([of]) => of >= scale);
  if (above < 0) return at(CURVES.at(-1)![1], size) / size;
  if (above === 0) return 1;
  const [[lowScale, low], [highScale, high]] = [CURVES[above - 1]!, CURVES[above]!];
  const share = (scale - lowScale) / (highScale - lowScale);
  return (at(low, size) * (1 - share) + at(high, size) * share) / size;
}

// Sizes are measured, and a text may be of the style above or below: of them the one that grows least counts.
const STYLE_SLACK = 1.15;

const leastOfStyles = (sizePt: number, scale: number): number => {
  const size = contentSizeNear(scale);
  return Math.min(
    ...[1 / STYLE_SLACK, 1, STYLE_SLACK].map(
      (slack) => scaledPoints(sizePt * slack, size) / (sizePt * slack),
    ),
  );
};

function at(curve: readonly number[], size: number): number {
  const next = Math.max(
    1,
    FROM_SP.findIndex((from) => from >= size),
  );
  const [a, b] = [FROM_SP[next - 1]!, FROM_SP[next]!];
  return curve[next - 1]! + ((curve[next]! - curve[next - 1]!) * (size - a)) / (b - a);
}
