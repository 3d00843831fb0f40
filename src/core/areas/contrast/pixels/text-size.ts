/**
 * Text size and weight from glyphs.
 *
 * How much of the em a glyph spans differs little between the type designs that screens use: letters with an ascender
 * 0.71 to 0.815, capitals and digits 0.655 to 0.77, letters with a descender 0.66 to 0.79 from top to bottom, other small
 * letters 0.485 to 0.605. A bracket, or a capital whose accent touches it, may stand higher than all of them.
 */
const SPANS_LATIN: readonly (readonly [RegExp, EmRange])[] = [
  [/[bdfhklþðßбфђћβδθλ]/u, [0.71, 0.815]],
  [/^(?=.*[\p{Lu}\p{N}])(?=.*[gpqy])/u, [0.655, 0.79]],
  [/[\p{Lu}\p{N}€£%&?!]/u, [0.655, 0.77]],
  [/[gpqyþруўγημρχψφ]/u, [0.66, 0.79]],
  [/[дцщ]/u, [0.54, 0.74]],
];
const SMALL: EmRange = [0.485, 0.605];
const HIGHER = /[()[\]{}|/\\@§Qj$,;]|\p{Lu}\p{M}/gu;
const HIGH: EmRange = [0.66, 1.04];

interface ScriptSpan {
  script: RegExp;
  /** Of a line without any of the following. */
  body: EmRange;
  /** What letters that reach higher, and lower, add to it. */
  above?: [RegExp, EmRange];
  below?: [RegExp, EmRange];
}

const IDEOGRAPH: EmRange = [0.8, 0.98];

// Of other scripts: how much of the em a line of writing spans.
const SPANS_OTHER: readonly ScriptSpan[] = [
  {
    script: /\p{Script=Hebrew}/u,
    body: [0.5, 0.7],
    above: [/ל/u, [0.12, 0.24]],
    below: [/[קןץףך]/u, [0.12, 0.26]],
  },
  {
    script: /\p{Script=Arabic}/u,
    body: [0.4, 0.62],
    above: [/[اأإآلكطظ]/u, [0.18, 0.26]],
    below: [/[رزوجحخعغمينىقسشصضچژی]/u, [0.16, 0.36]],
  },
  {
    script: /\p{Script=Devanagari}/u,
    body: [0.56, 0.72],
    above: [/[\u0900-\u0902\u0908\u0910\u0913\u0914\u093f\u0940\u0945-\u094c]/u, [0.18, 0.3]],
    below: [/[\u0909\u090a\u0941-\u0944\u093c\u094d]/u, [0.1, 0.32]],
  },
  {
    script: /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Hangul}]/u,
    body: IDEOGRAPH,
  },
];
const ANY_SCRIPT: EmRange = [0.55, 1.35];

function lineSpan(text: string): EmRange {
  const of = SPANS_OTHER.find(({ script }) => script.test(text));
  if (!of) return ANY_SCRIPT;
  const parts = [of.above, of.below].flatMap((part) => (part?.[0].test(text) ? [part[1]] : []));
  return parts.reduce<EmRange>((sum, part) => [sum[0] + part[0], sum[1] + part[1]], of.body);
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
}

/** @returns lowest and highest text size in pixels (the em) */
export function estimateTextSize(text: string, { glyphHeightsPx, linePx }: GlyphSize): [number, number] {
  const written = text.normalize('NFD');
  if (!LATIN_LIKE.test(written) || !/[\p{L}\p{N}]/u.test(written)) {
    return sizeOf(linePx, lineSpan(text));
  }
  const higher = written.match(HIGHER)?.length ?? 0;
  const ordinary = written.replace(HIGHER, '').replace(/\p{M}/gu, '');
  const found = SPANS_LATIN.find(([letters]) => letters.test(ordinary));
  const range = found?.[1] ?? SMALL;
  const [tallest = 0] = glyphHeightsPx;
  // what is left may be dots and accents alone, where all letters touch
  if (tallest < linePx * 0.4) return sizeOf(linePx, [Math.min(HIGH[0], range[0]), HIGH[1]]);
  if (higher === 0) return sizeOf(tallest, range);
  // where enough others are as tall, those that may be higher are passed over
  const next = glyphHeightsPx[higher] ?? 0;
  const tallCount = found ? [...ordinary].filter((letter) => found[0].test(letter)).length : 0;
  if (tallCount >= 2 && next >= tallest * 0.6) return sizeOf(next, range);
  return sizeOf(tallest, [Math.min(HIGH[0], range[0]), HIGH[1]]);
}

const sizeOf = (heightPx: number, [least, most]: EmRange): [number, number] => [
  (heightPx - EDGE_PX) / most,
  (heightPx + EDGE_PX) / least,
];

// Stem as a share of the em. Regular designs have 0.07 to 0.1, semi-bold 0.12 to 0.135, bold 0.135 to 0.19.
const BOLD_FROM = 0.14;
const NOT_BOLD_TO = 0.1;
// Of scripts whose size is known less well, between the two.
const BOLD_BORDER = 0.122;

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
    if (!SPANS_OTHER.some(({ body, script }) => body !== IDEOGRAPH && script.test(text))) return 'unknown';
    return stemPx / highest > BOLD_BORDER ? true : stemPx / lowest < BOLD_BORDER ? false : 'unknown';
  }
  const share = stemPx / ((lowest + highest) / 2);
  // a pixel of rounding matters most on small text
  const doubt = 0.12 / Math.max(1, stemPx);
  if (share > BOLD_FROM * (1 + doubt)) return true;
  return share < NOT_BOLD_TO * (1 - doubt) ? false : 'unknown';
}
