/** Text sizes of iOS: the styles as the platform's guidelines list them, and what a text of any size becomes. */
import fc from 'fast-check';
import { leastGrowth } from '../../../src/core/areas/accessibility/pairs/scale-curve.ts';
import {
  bodyScale,
  contentSizeNear,
  contentSizes,
  scaledPoints,
} from '../../../src/core/platform/apple/content-size.ts';

// Human Interface Guidelines, Typography: at the ordinary size, and at some of the others.
test.each([
  [34, { XS: 31, XXXL: 40, AccessibilityXXXL: 60 }],
  [28, { XS: 25, XXXL: 34, AccessibilityXXXL: 58 }],
  [22, { XS: 19, XXXL: 28, AccessibilityXXXL: 56 }],
  [20, { XS: 17, XXXL: 26, AccessibilityXXXL: 55 }],
  [17, { XS: 14, AccessibilityL: 33, AccessibilityXXXL: 53 }],
  [16, { XS: 13, XXXL: 22, AccessibilityXXXL: 51 }],
  [15, { XS: 12, XXXL: 21, AccessibilityXXXL: 49 }],
  [13, { XS: 12, XXXL: 19, AccessibilityXXXL: 44 }],
  [12, { XS: 11, XXXL: 18, AccessibilityXXXL: 43 }],
  [11, { XS: 11, XXXL: 17, AccessibilityXXXL: 40 }],
] as const)('a style of %d points', (points, at) => {
  for (const [size, wanted] of Object.entries(at))
    expect(scaledPoints(points, size as keyof typeof at)).toBeCloseTo(wanted, 6);
});

test('a scale is the size whose body text comes nearest', () => {
  expect([1, 2, 3.2, 0.5, 1.3].map(contentSizeNear)).toEqual([
    'L',
    'AccessibilityL',
    'AccessibilityXXXL',
    'XS',
    'XXXL',
  ]);
  for (const size of contentSizes) expect(contentSizeNear(bodyScale(size))).toBe(size);
});

test('a larger choice makes no text smaller, and no text is held to more growth than its style has', () => {
  fc.assert(
    fc.property(fc.double({ min: 6, max: 80, noNaN: true }), (points) => {
      const grown = contentSizes.map((size) => scaledPoints(points, size));
      for (const [i, size] of grown.entries())
        expect(size).toBeGreaterThanOrEqual((grown[i - 1] ?? 0) - 1e-9);
      for (const size of contentSizes) {
        const scale = bodyScale(size);
        if (scale < 1) continue;
        expect(leastGrowth(points, scale, 'ios')).toBeLessThanOrEqual(
          scaledPoints(points, size) / points + 1e-9,
        );
      }
    }),
  );
});
