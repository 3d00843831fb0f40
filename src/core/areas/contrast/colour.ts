/** Colours in 8-bit sRGB and their contrast (WCAG 2.2, definitions of *relative luminance* and *contrast ratio*). */

/** Red, green and blue, each 0 to 255. */
export type Rgb = readonly [number, number, number];

export function parseHex(text: string): Rgb | undefined {
  const match = /^#?([0-9a-f]{3}|[0-9a-f]{6})$/i.exec(text.trim());
  if (!match) return undefined;
  const digits = match[1]!.length === 3 ? [...match[1]!].map((digit) => digit + digit).join('') : match[1]!;
  const value = Number.parseInt(digits, 16);
  return [value >> 16, (value >> 8) & 0xff, value & 0xff];
}

export const toHex = (rgb: Rgb): string =>
  `#${rgb.map((channel) => Math.round(channel).toString(16).padStart(2, '0')).join('')}`;

// The standard's 0.03928 is the older draft's; both give the same for 8-bit values.
const linear = Float64Array.from({ length: 256 }, (_, i) =>
  i / 255 <= 0.04045 ? i / 255 / 12.92 : ((i / 255 + 0.055) / 1.055) ** 2.4,
);

/** 0 for black to 1 for white. Channels are rounded to 8 bits first. */
export const relativeLuminance = ([red, green, blue]: Rgb): number =>
  0.2126 * linear[Math.round(red)]! +
  0.7152 * linear[Math.round(green)]! +
  0.0722 * linear[Math.round(blue)]!;

/** 1 to 21. */
export function contrastRatio(a: Rgb, b: Rgb): number {
  const [of, on] = [relativeLuminance(a), relativeLuminance(b)];
  return of > on ? (of + 0.05) / (on + 0.05) : (on + 0.05) / (of + 0.05);
}

/** Two decimals, cut and never rounded up: 4.499 reads 4.49. */
export const formatRatio = (ratio: number): string => (Math.floor(ratio * 100 + 1e-9) / 100).toFixed(2);
