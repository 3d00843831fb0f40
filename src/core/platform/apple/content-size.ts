/**
 * Text sizes that a user of iOS chooses from (Apple, *Human Interface Guidelines*, Typography: Dynamic Type sizes; UIKit,
 * `UIContentSizeCategory`). Points by category, in the order of `contentSizes`.
 */

/** As the system writes them in `UIPreferredContentSizeCategoryName`, without `UICTContentSizeCategory`. */
export const contentSizes = [
  'XS',
  'S',
  'M',
  'L',
  'XL',
  'XXL',
  'XXXL',
  'AccessibilityM',
  'AccessibilityL',
  'AccessibilityXL',
  'AccessibilityXXL',
  'AccessibilityXXXL',
] as const;
export type ContentSize = (typeof contentSizes)[number];

/** What a user has who never chose. */
export const ORDINARY: ContentSize = 'L';

const BODY = [14, 15, 16, 17, 19, 21, 23, 28, 33, 40, 47, 53];

/** Points of each text style. */
const STYLES: Readonly<Record<string, readonly number[]>> = {
  'large title': [31, 32, 33, 34, 36, 38, 40, 44, 48, 52, 56, 60],
  'title 1': [25, 26, 27, 28, 30, 32, 34, 38, 43, 48, 53, 58],
  'title 2': [19, 20, 21, 22, 24, 26, 28, 34, 39, 44, 50, 56],
  'title 3': [17, 18, 19, 20, 22, 24, 26, 31, 37, 43, 49, 55],
  body: BODY,
  callout: [13, 14, 15, 16, 18, 20, 22, 26, 32, 38, 44, 51],
  subhead: [12, 13, 14, 15, 17, 19, 21, 25, 30, 36, 42, 49],
  footnote: [12, 12, 12, 13, 15, 17, 19, 23, 27, 33, 38, 44],
  'caption 1': [11, 11, 11, 12, 14, 16, 18, 22, 26, 32, 37, 43],
  'caption 2': [11, 11, 11, 11, 13, 15, 17, 20, 24, 29, 34, 40],
};

const at = (size: ContentSize): number => contentSizes.indexOf(size);

/** How much larger body text is than at the ordinary size: 1 at `L`, 3.12 at the largest. */
export const bodyScale = (size: ContentSize): number => BODY[at(size)]! / BODY[at(ORDINARY)]!;

/** The size whose body text comes nearest to a scale; of two as near, the larger. */
export function contentSizeNear(textScale: number): ContentSize {
  const distance = (size: ContentSize) => Math.abs(bodyScale(size) - textScale);
  return contentSizes.reduce((best, size) => (distance(size) <= distance(best) ? size : best));
}

/**
 * Points of a text that is so large at the ordinary size: as `UIFontMetrics` scales it by the style that comes nearest.
 *
 * @param sizePt at the ordinary size
 */
export function scaledPoints(sizePt: number, size: ContentSize): number {
  const ordinary = at(ORDINARY);
  const style = Object.values(STYLES).reduce((best, points) =>
    Math.abs(points[ordinary]! - sizePt) < Math.abs(best[ordinary]! - sizePt) ? points : best,
  );
  return (sizePt * style[at(size)]!) / style[ordinary]!;
}
