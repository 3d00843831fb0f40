/** "Large scale" in the definitions of WCAG 2.2: 18 point, or 14 point bold. One point is 4/3 CSS px, counted as dp. */
export const LARGE_TEXT = { dp: { any: 18, bold: 14 }, pt: { any: 24, bold: 56 / 3 } } as const;
