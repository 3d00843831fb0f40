/** The phone's system typeface: files for the painter, and widths for the layout. */
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { type Font, openSync } from 'fontkit';
import type { Platform } from '../../../core/model/candidate.ts';

export type FontWeight = 400 | 500 | 600 | 700;

export interface Typeface {
  family: string;
  files: string[];
  /** Advance width of a line in the unit of `size`. */
  width(text: string, size: number, weight: FontWeight): number;
  /** Ascent and descent as shares of the size, both positive. */
  ascent: number;
  descent: number;
}

const require = createRequire(import.meta.url);
const STYLE_NAME: Record<FontWeight, string> = {
  400: 'Regular',
  500: 'Medium',
  600: 'SemiBold',
  700: 'Bold',
};

/** @param features of OpenType by name: what one shaper draws closer another one may not, and a box is never too narrow */
function load(
  packageName: string,
  family: string,
  filePrefix: string,
  features?: Record<string, boolean>,
): Typeface {
  const folder = dirname(require.resolve(`${packageName}/package.json`));
  const fileOf = (weight: FontWeight) =>
    join(folder, `${weight}${STYLE_NAME[weight]}`, `${filePrefix}_${weight}${STYLE_NAME[weight]}.ttf`);
  const weights = [400, 500, 600, 700] as const;
  const fonts = new Map<FontWeight, Font>(
    weights.map((weight) => [weight, openSync(fileOf(weight)) as Font]),
  );
  const widths = new Map<string, number>();
  const regular = fonts.get(400)!;
  return {
    family,
    files: weights.map(fileOf),
    ascent: regular.ascent / regular.unitsPerEm,
    descent: -regular.descent / regular.unitsPerEm,
    width: (text, size, weight) => {
      const key = `${weight}|${text}`;
      let perEm = widths.get(key);
      if (perEm === undefined) {
        const font = fonts.get(weight)!;
        perEm = font.layout(text, features).advanceWidth / font.unitsPerEm;
        widths.set(key, perEm);
      }
      return perEm * size;
    },
  };
}

const loaded = new Map<string, Typeface>();
const once = (key: string, make: () => Typeface): Typeface => {
  const known = loaded.get(key) ?? make();
  loaded.set(key, known);
  return known;
};

/** Arabic script has a family of its own, which holds Latin glyphs too; the letters of iOS are wider than those of Android. */
export function typefaceFor(locale: string, platform: Platform = 'android'): Typeface {
  if (new Intl.Locale(locale).maximize().script === 'Arab')
    return once('arab', () =>
      load('@expo-google-fonts/ibm-plex-sans-arabic', 'IBM Plex Sans Arabic', 'IBMPlexSansArabic'),
    );
  return platform === 'ios'
    ? once('latin ios', () => load('@expo-google-fonts/inter', 'Inter', 'Inter', { kern: false }))
    : once('latin', () => load('@expo-google-fonts/ibm-plex-sans', 'IBM Plex Sans', 'IBMPlexSans'));
}
