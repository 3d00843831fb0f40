/**
 * Text size and weight from glyphs.
 *
 * How much of the em a glyph spans differs little between the type designs that screens use: letters with an ascender
 * 0.71 to 0.815, capitals and digits 0.655 to 0.77, letters with a descender 0.655 to 0.79 from top to bottom, other small
 * letters 0.485 to 0.605. A bracket, or a capital whose accent touches it, may stand higher than all of them.
 */
const SPANS_LATIN: readonly (readonly [RegExp, EmRange])[] = [
  [/[bdfhklþðßбфђћβδθλ]/u, [0.71, 0.815]],
  [/[\p{Lu}\p{N}€£%&?!]/u, [0.655, 0.77]],
  [/[gpqyþруўγημρχψφ]/u, [0.655, 0.79]],
  [/[дцщ]/u, [0.54, 0.74]],
];
const SMALL: EmRange = [0.485, 0.605];
const HIGHER = /[()[\]{}|/\\@§Qj$,;]|\p{Lu}\p{M}/gu;
const HIGH: EmRange = [0.66, 1.04];

type Reach = readonly [RegExp, EmRange];

/** How far a line of writing reaches above and below its baseline; the first that its letters match counts. */
interface ScriptReach {
  script: RegExp;
  above: readonly Reach[];
  below: readonly Reach[];
}

const ANY = /(?:)/;
const IDEOGRAPHS = /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Hangul}]/u;

// Seen in three to ten type designs of each script, for screens and for print.
const OTHER_SCRIPTS: readonly ScriptReach[] = [
  {
    script: /\p{Script=Hebrew}/u,
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

/** How much of the em a line of such a text spans. */
function lineSpan(text: string): EmRange {
  const of = OTHER_SCRIPTS.find(({ script }) => script.test(text));
  if (!of) return ANY_SCRIPT;
  const reach = (list: readonly Reach[]) => list.find(([letters]) => letters.test(text))![1];
  const [above, below] = [reach(of.above), reach(of.below)];
  return [above[0] + below[0], above[1] + below[1]];
}

/** Least and most, as shares of the em. */
type EmRange = readonly [number, number];

const LATIN_LIKE = /^[\p{Script=Latin}\p{Script=Greek}\p{Script=Cyrillic}\p{N}\p{P}\p{S}\p{Z}\p{Cc}\p{M}]*$/u;
// How far an antialiased edge may lie off, in pixels.
const EDGE_PX = 0.6;

export interface GlyphSize {
  /** Heights of single glyphs, the tallest first, with their antialiased edges taken off. */
  glyphHeightsPx: number[];
  /** Height of the tallest line, for scripts whose letters hang together, or fall into several marks. */
  linePx: number;
  /** Of each line, from its highest letter to its lowest. */
  lineHeightsPx: number[];
}

/** @returns lowest and highest text size in pixels (the em) */
export function estimateTextSize(
  text: string,
  { glyphHeightsPx, linePx }: Pick<GlyphSize, 'glyphHeightsPx' | 'linePx'>,
): [number, number] {
  const written = text.normalize('NFD');
  if (!LATIN_LIKE.test(written) || !/[\p{L}\p{N}]/u.test(written)) {
    return sizeOf(linePx, lineSpan(text));
  }
  const higher = written.match(HIGHER)?.length ?? 0;
  const ordinary = written.replace(HIGHER, '').replace(/\p{M}/gu, '');
  const spans = SPANS_LATIN.filter(([letters]) => letters.test(ordinary));
  // of the tallest glyph, whichever kind of letter it is
  const range = spans.reduce<EmRange>(
    ([least, most], [, span]) => [Math.max(least, span[0]), Math.max(most, span[1])],
    SMALL,
  );
  const [tallest = 0] = glyphHeightsPx;
  // what is left may be dots and accents alone, where all letters touch
  if (tallest < linePx * 0.4) return sizeOf(linePx, [Math.min(HIGH[0], range[0]), HIGH[1]]);
  if (higher === 0) return sizeOf(tallest, range);
  // where enough others are as tall, those that may be higher are passed over
  const next = glyphHeightsPx[higher] ?? 0;
  const tall = spans.filter(([, [least]]) => least === range[0]);
  const tallCount = [...ordinary].filter((letter) => tall.some(([letters]) => letters.test(letter))).length;
  if (tallCount >= 2 && next >= tallest * 0.6) return sizeOf(next, range);
  return sizeOf(tallest, [Math.min(HIGH[0], range[0]), HIGH[1]]);
}

const sizeOf = (heightPx: number, [least, most]: EmRange): [number, number] => [
  (heightPx - EDGE_PX) / most,
  (heightPx + EDGE_PX) / least,
];

// Stem as a share of the em. Regular designs have 0.06 to 0.1, semi-bold 0.11 to 0.137, bold 0.125 to 0.19.
const BOLD_FROM = 0.155;
const NOT_BOLD_TO = 0.11;
// Of scripts whose size is known less well.
const OTHER_BOLD_FROM = 0.145;
const OTHER_NOT_BOLD_TO = 0.1;

/**
 * Whether the text is bold as "large scale" of WCAG 2.2 means it: weight 700 or more.
 *
 * @param stemPx width of its stems
 */
export function estimateBold(
  text: string,
  stemPx: number,
  [lowest, highest]: readonly [number, number],
): boolean | 'unknown' {
  if (stemPx <= 0) return 'unknown';
  if (!LATIN_LIKE.test(text)) {
    const isKnown = OTHER_SCRIPTS.some(({ script }) => script.test(text)) && !IDEOGRAPHS.test(text);
    if (!isKnown) return 'unknown';
    if (stemPx / highest > OTHER_BOLD_FROM) return true;
    return stemPx / lowest < OTHER_NOT_BOLD_TO ? false : 'unknown';
  }
  const share = stemPx / ((lowest + highest) / 2);
  // a pixel of rounding matters most on small text
  const doubt = 0.12 / Math.max(1, stemPx);
  if (share > BOLD_FROM * (1 + doubt)) return true;
  return share < NOT_BOLD_TO * (1 - doubt) ? false : 'unknown';
}
