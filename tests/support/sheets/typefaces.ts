/** Typefaces of the sheets: static TrueType files, so that a browser and the stand-in phone's painter draw the same ones. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import * as fontkit from 'fontkit';

export interface Typeface {
  name: string;
  script: 'Latin' | 'Cyrillic' | 'Greek' | 'Hebrew' | 'Arabic' | 'Devanagari' | 'Thai';
  /** Weight to file. */
  files: Record<number, string>;
  texts: readonly string[];
}

const require = createRequire(import.meta.url);
const STYLES: Record<number, string> = {
  300: '300Light',
  400: '400Regular',
  500: '500Medium',
  700: '700Bold',
};

const files = (pack: string, prefix: string, weights: readonly number[]): Record<number, string> =>
  Object.fromEntries(
    weights.map((weight) => [
      weight,
      require.resolve(`@expo-google-fonts/${pack}/${STYLES[weight]}/${prefix}_${STYLES[weight]}.ttf`),
    ]),
  );

const LATIN = [
  'Boat leaves 07:15',
  'From 42 kr',
  'Settings',
  'Choose a seat',
  'Monthly',
  'near me now',
  'SIGN IN',
  'Größe ändern',
  'Edit profile',
  'Total 1.250,00',
];
const CYRILLIC = ['Расписание', 'Причал закрыт', 'ещё два билета'];
const GREEK = ['Δρομολόγια', 'Κράτηση θέσης'];

export const typefaces: readonly Typeface[] = [
  { name: 'Roboto', script: 'Latin', files: files('roboto', 'Roboto', [300, 400, 500, 700]), texts: LATIN },
  { name: 'Inter', script: 'Latin', files: files('inter', 'Inter', [300, 400, 500, 700]), texts: LATIN },
  { name: 'Bitter', script: 'Latin', files: files('bitter', 'Bitter', [400, 700]), texts: LATIN },
  { name: 'Roboto', script: 'Cyrillic', files: files('roboto', 'Roboto', [400, 700]), texts: CYRILLIC },
  { name: 'Inter', script: 'Greek', files: files('inter', 'Inter', [400, 700]), texts: GREEK },
  {
    name: 'Noto Sans Hebrew',
    script: 'Hebrew',
    files: files('noto-sans-hebrew', 'NotoSansHebrew', [400, 700]),
    texts: ['לוח זמנים', 'בחירת מושב'],
  },
  {
    name: 'Cairo',
    script: 'Arabic',
    files: files('cairo', 'Cairo', [400, 700]),
    texts: ['جدول الرحلات', 'اختر مقعدا'],
  },
  {
    name: 'Noto Sans Devanagari',
    script: 'Devanagari',
    files: files('noto-sans-devanagari', 'NotoSansDevanagari', [400, 700]),
    texts: ['समय सारणी', 'सीट चुनें'],
  },
  {
    name: 'Noto Sans Thai',
    script: 'Thai',
    files: files('noto-sans-thai', 'NotoSansThai', [400, 700]),
    texts: ['ตารางเรือ', 'เลือกที่นั่ง'],
  },
];

export const fontFiles = [...new Set(typefaces.flatMap((face) => Object.values(face.files)))];

const opened = new Map<string, fontkit.Font>();
const fontOf = (file: string): fontkit.Font => {
  const font = opened.get(file) ?? (fontkit.openSync(file) as fontkit.Font);
  opened.set(file, font);
  return font;
};

/** Width, and height above and below the baseline of the line box, in the unit of the size. */
export function lineOf(face: Typeface, weight: number, size: number, text: string) {
  const font = fontOf(face.files[weight]!);
  const scale = size / font.unitsPerEm;
  return {
    width: font.layout(text).advanceWidth * scale,
    ascent: font.ascent * scale,
    descent: -font.descent * scale,
  };
}

/** For a page: every file under the name and weight that the sheets use. */
/** @param names all where none are given */
export const fontFaceCss = (...names: readonly string[]): string =>
  typefaces
    .filter(({ name }) => names.length === 0 || names.includes(name))
    .flatMap(({ files: of, name }) =>
      Object.entries(of).map(
        ([weight, file]) =>
          `@font-face{font-family:"${name}";font-weight:${weight};src:url(data:font/ttf;base64,${readFileSync(file).toString('base64')})}`,
      ),
    )
    .filter((css, i, all) => all.indexOf(css) === i)
    .join('');
