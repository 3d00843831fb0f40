/**
 * Text size and weight from glyphs.
 *
 * How much of the em a letter spans was read off some fifty type designs for screens, from that with the smallest letters for
 * its em to that with the largest: above the baseline, letters with an ascender 0.67 to 0.82, capitals 0.63 to 0.77, other
 * small letters 0.45 to 0.605; letters with a descender 0.655 to 0.85 from top to bottom. Condensed designs for headlines, and
 * digits that have descenders, are not among them. A bracket, or a capital whose accent touches it, may stand higher.
 */
const RISES_LATIN: readonly (readonly [RegExp, EmRange])[] = [
  [/[bdfhklþðßбфђћβδθλ]/u, [0.67, 0.82]],
  [/[\p{Lu}€£%&?!]/u, [0.63, 0.77]],
  [/\p{N}/u, [0.64, 0.77]],
  [/t/u, [0.61, 0.72]],
  [/(?:)/, [0.45, 0.605]],
];
const SPANS_LATIN: readonly (readonly [RegExp, EmRange])[] = [
  ...RISES_LATIN,
  [/[gpqyþруўγημρχψφ]/u, [0.655, 0.85]],
  [/[дцщ]/u, [0.54, 0.74]],
];
// Of the same, what most designs have.
const USUAL_LATIN: readonly (readonly [RegExp, EmRange])[] = [
  [SPANS_LATIN[0]![0], [0.71, 0.815]],
  [/[\p{Lu}\p{N}€£%&?!]/u, [0.655, 0.77]],
  [/[gpqyþруўγημρχψφ]/u, [0.655, 0.79]],
  [/[дцщ]/u, [0.54, 0.74]],
  [/(?:)/, [0.485, 0.605]],
];
const HIGHER = /[()[\]{}|/\\@§Qj$,;]|\p{Lu}\p{M}/gu;
const HIGH: EmRange = [0.66, 1.04];
// What may stand higher above the baseline than a letter with an ascender.
const RISES_HIGHER = /[()[\]{}|/\\@§$]|\p{Lu}\p{M}/gu;
const HIGH_RISE: EmRange = [0.65, 1];

type Reach = readonly [RegExp, EmRange];

/** How far a line of writing reaches above and below its baseline; the first that its letters match counts. */
interface ScriptReach {
  script: RegExp;
  above: readonly Reach[];
  below: readonly Reach[];
  /** How far the rarest designs go beyond, as factors of both together. */
  rare?: EmRange;
  /** The thickest strokes that are not bold and the thinnest that are, as shares of the em; what lies between may be either. */
  strokes?: EmRange;
}

const ANY = /(?:)/;
const IDEOGRAPHS = /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Hangul}]/u;

// Seen in three to ten type designs of each script, for screens and for print.
const OTHER_SCRIPTS: readonly ScriptReach[] = [
  {
    script: /\p{Script=Hebrew}/u,
    rare: [0.92, 1],
    strokes: [0.13, 0.178],
    above: [
      [/ל/u, [0.65, 0.88]],
      [ANY, [0.55, 0.66]],
    ],
    below: [
      [/[קןץףך]/u, [0.17, 0.26]],
      [ANY, [0.02, 0.1]],
    ],
  },
  {
    script: /\p{Script=Arabic}/u,
    rare: [0.9, 1],
    strokes: [0.09, 0.158],
    above: [
      [/[اأإآلكطظگ]/u, [0.65, 0.85]],
      // dots above
      [/[تثنقفذزضشخغةژ]/u, [0.42, 0.94]],
      [ANY, [0.29, 0.62]],
    ],
    below: [
      // bowls, which only the last letter of a word has
      [/[جحخعغيىنقسشصضچی](?!\p{L})/u, [0.19, 0.55]],
      [/[رزوژ]|[لم](?!\p{L})/u, [0.18, 0.3]],
      [/[بيجپچیإ]/u, [0.04, 0.3]],
      [ANY, [0, 0.1]],
    ],
  },
  {
    script: /\p{Script=Devanagari}/u,
    rare: [1, 1.05],
    strokes: [0.092, 0.124],
    above: [
      [/[\u0900-\u0902\u0908\u0910\u0913\u0914\u093f\u0940\u0945-\u094c]/u, [0.74, 1]],
      [ANY, [0.56, 0.7]],
    ],
    below: [
      [/[\u0909\u090a\u0941-\u0944\u093c\u094d]/u, [0.1, 0.34]],
      [ANY, [0, 0.02]],
    ],
  },
  {
    script: /\p{Script=Bengali}/u,
    strokes: [0.07, 0.135],
    above: [
      [/[\u0981\u0987-\u098a\u0990\u0994\u099f\u09a0\u09bf\u09c0\u09c8\u09cc]/u, [0.75, 1.06]],
      [ANY, [0.59, 0.77]],
    ],
    below: [
      [/[\u09c1-\u09c4]/u, [0.12, 0.37]],
      [ANY, [0, 0.17]],
    ],
  },
  {
    script: /\p{Script=Thai}/u,
    rare: [0.92, 1.09],
    strokes: [0.092, 0.24],
    above: [
      // a tone mark above a vowel
      [/[\u0e31\u0e34-\u0e37][\u0e48-\u0e4b]/u, [0.92, 1.1]],
      [/[\u0e1b\u0e1d\u0e1f\u0e31\u0e34-\u0e37\u0e42-\u0e44\u0e47-\u0e4e]/u, [0.67, 1.04]],
      [ANY, [0.54, 0.62]],
    ],
    below: [
      [/[\u0e38\u0e39]/u, [0.23, 0.31]],
      [/[\u0e0d-\u0e10\u0e24]/u, [0.04, 0.29]],
      [ANY, [0, 0.02]],
    ],
  },
  {
    script: /\p{Script=Tamil}/u,
    strokes: [0.1, 0.13],
    above: [
      [/[\u0bbf\u0bc0\u0bcd]/u, [0.72, 0.94]],
      [ANY, [0.55, 0.64]],
    ],
    below: [
      [/[\u0b9e\u0ba4\u0bb0\u0bb1\u0bb4\u0bc1\u0bc2]/u, [0, 0.45]],
      [ANY, [0, 0.05]],
    ],
  },
  { script: IDEOGRAPHS, above: [[ANY, [0.7, 0.85]]], below: [[ANY, [0.1, 0.13]]] },
];
const ANY_SCRIPT: EmRange = [0.55, 1.35];

/** How much of the em a line of such a text spans: in most designs, or in any. */
function lineSpan(text: string, designs: 'most' | 'any'): EmRange {
  const of = OTHER_SCRIPTS.find(({ script }) => script.test(text));
  if (!of) return ANY_SCRIPT;
  const reach = (list: readonly Reach[]) => list.find(([letters]) => letters.test(text))![1];
  const [above, below] = [reach(of.above), reach(of.below)];
  const [least, most] = designs === 'any' ? (of.rare ?? [1, 1]) : [1, 1];
  return [(above[0] + below[0]) * least, (above[1] + below[1]) * most];
}

/** Least and most, as shares of the em. */
type EmRange = readonly [number, number];

const LATIN_LIKE = /^[\p{Script=Latin}\p{Script=Greek}\p{Script=Cyrillic}\p{N}\p{P}\p{S}\p{Z}\p{Cc}\p{M}]*$/u;
// How far an antialiased edge may lie off, in pixels.
const EDGE_PX = 0.6;

export interface GlyphSize {
  /** Heights of single glyphs, the tallest first, with their antialiased edges taken off. */
  glyphHeightsPx: number[];
  /** Of those letters whose line has a baseline, how high they stand above it, the highest first. */
  risesPx: number[];
  /** Height of the tallest line, for scripts whose letters hang together, or fall into several marks. */
  linePx: number;
  /** Of each line, from its highest letter to its lowest. */
  lineHeightsPx: number[];
}

type Heights = Pick<GlyphSize, 'glyphHeightsPx' | 'linePx' | 'risesPx'>;

/** @returns lowest and highest text size in pixels (the em) */
export function estimateTextSize(text: string, heights: Heights): [number, number] {
  const written = text.normalize('NFD');
  if (!isLatinLike(written)) return sizeOf(heights.linePx, lineSpan(text, 'any'));
  return heights.risesPx.length > 0
    ? sizeOfTallest(written, heights.risesPx, { spans: RISES_LATIN, higher: RISES_HIGHER, high: HIGH_RISE })
    : sizeOfSpans(written, heights, SPANS_LATIN);
}

/** By whole letters, as most designs have them: in pixels (the em). */
export function usualTextSize(text: string, heights: Omit<Heights, 'risesPx'>): number {
  const written = text.normalize('NFD');
  const [least, most] = isLatinLike(written)
    ? sizeOfSpans(written, heights, USUAL_LATIN)
    : sizeOf(heights.linePx, lineSpan(text, 'most'));
  return (least + most) / 2;
}

const isLatinLike = (written: string): boolean => LATIN_LIKE.test(written) && /[\p{L}\p{N}]/u.test(written);

function sizeOfSpans(
  written: string,
  { glyphHeightsPx, linePx }: Omit<Heights, 'risesPx'>,
  spans: readonly Reach[],
): [number, number] {
  // what is left may be dots and accents alone, where all letters touch
  if ((glyphHeightsPx[0] ?? 0) < linePx * 0.4) {
    const { range } = tallestOf(written, spans, HIGHER);
    return sizeOf(linePx, [Math.min(HIGH[0], range[0]), HIGH[1]]);
  }
  return sizeOfTallest(written, glyphHeightsPx, { spans, higher: HIGHER, high: HIGH });
}

interface Tallness {
  spans: readonly Reach[];
  /** Letters that may stand higher, and what they span. */
  higher: RegExp;
  high: EmRange;
}

function sizeOfTallest(
  written: string,
  heightsPx: readonly number[],
  { high, higher, spans }: Tallness,
): [number, number] {
  const [tallest = 0] = heightsPx;
  const { range, higherCount, tallCount } = tallestOf(written, spans, higher);
  if (higherCount === 0) return sizeOf(tallest, range);
  // where enough others are as tall, those that may be higher are passed over
  const next = heightsPx[higherCount] ?? 0;
  if (tallCount >= 2 && next >= tallest * 0.6) return sizeOf(next, range);
  return sizeOf(tallest, [Math.min(high[0], range[0]), high[1]]);
}

/** Of the tallest letters of a text, whichever kind they are: what they span, and how many there are. */
function tallestOf(written: string, spans: readonly Reach[], higher: RegExp) {
  const higherCount = written.match(higher)?.length ?? 0;
  const ordinary = written.replace(higher, '').replace(/\p{M}/gu, '');
  const found = spans.filter(([letters]) => letters.test(ordinary));
  const range = found.reduce<EmRange>(
    ([least, most], [, span]) => [Math.max(least, span[0]), Math.max(most, span[1])],
    [0, 0],
  );
  const tall = found.filter(([, [least]]) => least === range[0]);
  const tallCount = [...ordinary].filter((letter) => tall.some(([letters]) => letters.test(letter))).length;
  return { range, higherCount, tallCount };
}

const sizeOf = (heightPx: number, [least, most]: EmRange): [number, number] => [
  (heightPx - EDGE_PX) / most,
  (heightPx + EDGE_PX) / least,
];

// Stem as a share of the em: that of regular weights is 0.06 to 0.11, of semi-bold 0.1 to 0.165, of bold 0.115 to 0.19.
const BOLD_FROM = 0.17;
const NOT_BOLD_TO = 0.105;
// On a picture the edges of strokes are lost in what lies behind.
const THINNED = 0.85;

/**
 * Whether the text is bold as "large scale" of WCAG 2.2 means it: weight 700 or more.
 *
 * @param strokes width of its upright strokes and height of its level ones, in pixels
 */
export function estimateBold(
  text: string,
  { barPx, isOnPicture, stemPx }: { stemPx: number; barPx: number; isOnPicture: boolean },
  [lowest, highest]: readonly [number, number],
): boolean | 'unknown' {
  if (stemPx <= 0) return 'unknown';
  const sizePx = (lowest + highest) / 2;
  const thinned = isOnPicture ? THINNED : 1;
  if (!LATIN_LIKE.test(text)) {
    const { strokes } = OTHER_SCRIPTS.find(({ script }) => script.test(text)) ?? {};
    if (!strokes) return 'unknown';
    // of some scripts, book types have thin uprights
    const share = Math.max(stemPx, barPx) / sizePx;
    return share > strokes[1] ? true : share < strokes[0] * thinned ? false : 'unknown';
  }
  const share = stemPx / sizePx;
  // a pixel of rounding matters most on small text
  const doubt = 0.12 / Math.max(1, stemPx);
  if (share > BOLD_FROM * (1 + doubt)) return true;
  return share < NOT_BOLD_TO * thinned * (1 - doubt) ? false : 'unknown';
}
