/**
 * Marks sorted into words, and what is no writing set aside: underlines, and icons that share the box with a text.
 *
 *      ▄▄▄                    an icon stands off by more than a word does, and is
 *      ███   ▌▌▐█▌ █▌▐█       as high as it is wide; the text's own first word has
 *      ▀▀▀   ▌▌▐▌ ▐▌█ ▐█      more marks than it
 */
import { type Mark, type MarkedInk, markHeight, markWidth } from './find-ink.ts';
import type { Area } from './sample-area.ts';

export interface Word {
  marks: Mark[];
  left: number;
  right: number;
  top: number;
  bottom: number;
}

// Of the height of a tall glyph: blanks between words are about 0.35, those between letters about 0.1.
const WORD_GAP = 0.25;
const JOINED_WORD_GAP = 0.14;
const HEADLINED_WORD_GAP = 0.08;
const ICON_GAP = 0.4;

/**
 * @param text as the tree holds it; empty where it is not known
 * @returns `runPx`: the widths of the words together; where letters hang together, nothing that might be an icon is left out
 */
export function findWords({ marks }: MarkedInk, text: string): { words: Word[]; runPx: number } {
  const height = typicalHeight(marks);
  const glyphs = marks.filter((mark) => !isRule(mark, height));
  const lines = findLines(glyphs.length > 0 ? glyphs : marks, text).map((line) =>
    splitLine(line, height * wordGap(text)),
  );
  const groupCount = lines.reduce((sum, line) => sum + line.length, 0);
  const writing = lines.flatMap((line) => withoutIcons(line, text, height, groupCount));
  const words = writing.length > 0 ? writing : lines.flat();
  const counted = JOINED.test(text) ? lines.flat() : words;
  return { words, runPx: counted.reduce((sum, { left, right }) => sum + right - left + 1, 0) };
}

/** That of the taller marks, among those that are no specks. */
export function typicalHeight(marks: readonly Mark[]): number {
  const heights = marks
    .filter((mark) => markWidth(mark) < markHeight(mark) * 4)
    .map(markHeight)
    .sort((a, b) => a - b);
  return heights[Math.floor(heights.length * 0.7)] ?? 1;
}

export const isRule = (mark: Mark, height: number): boolean =>
  markHeight(mark) <= Math.max(3, height * 0.3) &&
  markWidth(mark) >= Math.max(height * 1.6, markHeight(mark) * 5);

// Of a line's height: how far above or below it accents lie, and how high they are; tone marks stand above vowels that stand above letters.
const ACCENT_REACH = 0.3;
const ACCENTS = { above: ACCENT_REACH, tall: 0.5 };
const TONES = { above: 0.65, tall: 0.85 };

/** Rows of marks that overlap one another in height by half. */
export function findLines(marks: readonly Mark[], text: string): Mark[][] {
  const { above, tall } = /\p{Script=Thai}/u.test(text) ? TONES : ACCENTS;
  const lines: { top: number; bottom: number; marks: Mark[] }[] = [];
  for (const mark of [...marks].sort((a, b) => markHeight(b) - markHeight(a))) {
    const own = lines.find(
      ({ bottom, top }) =>
        Math.min(bottom, mark.bottom) - Math.max(top, mark.top) + 1 >= markHeight(mark) * 0.5,
    );
    const line = own ?? nearestLine(mark, lines, above, tall);
    if (line) line.marks.push(mark);
    else lines.push({ top: mark.top, bottom: mark.bottom, marks: [mark] });
  }
  return lines.sort((a, b) => a.top - b.top).map((line) => line.marks);
}

/** Of those that a dot or an accent may belong to. */
function nearestLine<L extends { top: number; bottom: number }>(
  mark: Mark,
  lines: readonly L[],
  above: number,
  tall: number,
): L | undefined {
  return lines
    .flatMap((line) => {
      const height = line.bottom - line.top;
      const [over, under] = [line.top - mark.bottom, mark.top - line.bottom];
      const isNear = over <= height * above && under <= height * ACCENT_REACH;
      return markHeight(mark) < height * tall && isNear
        ? [{ line, away: Math.max(over, under) / height }]
        : [];
    })
    .sort((a, b) => a.away - b.away)[0]?.line;
}

export function splitLine(marks: readonly Mark[], gapPx: number): Word[] {
  const words: Word[] = [];
  for (const mark of [...marks].sort((a, b) => a.left - b.left)) {
    const word = words.at(-1);
    if (word && mark.left - word.right - 1 <= gapPx) {
      word.marks.push(mark);
      word.right = Math.max(word.right, mark.right);
      word.top = Math.min(word.top, mark.top);
      word.bottom = Math.max(word.bottom, mark.bottom);
    } else
      words.push({ marks: [mark], left: mark.left, right: mark.right, top: mark.top, bottom: mark.bottom });
  }
  return words;
}

// Letters of these hang together, so that marks say nothing of how many there are.
const JOINED =
  /[\p{Script=Arabic}\p{Script=Syriac}\p{Script=Mongolian}\p{Script=Devanagari}\p{Script=Bengali}\p{Script=Gurmukhi}]/u;
// In these a line along their heads joins all letters of a word.
const HEADLINED = /[\p{Script=Devanagari}\p{Script=Bengali}\p{Script=Gurmukhi}]/u;

export const isJoined = (text: string): boolean => JOINED.test(text);

export const wordGap = (text: string): number =>
  HEADLINED.test(text) ? HEADLINED_WORD_GAP : JOINED.test(text) ? JOINED_WORD_GAP : WORD_GAP;

export const isRightToLeft = (text: string): boolean => RIGHT_TO_LEFT.test(text);
const RIGHT_TO_LEFT = /[\p{Script=Arabic}\p{Script=Hebrew}\p{Script=Syriac}\p{Script=Thaana}]/u;

/**
 * The fewest marks that such a text is made of: a letter each, or a word each where letters hang together.
 *
 * @param share of the letters; the others touch
 */
export function leastMarks(text: string, share = 0.4): number {
  const words = text.trim().split(/\s+/).filter(Boolean);
  const letters = [...text].filter((char) => /[\p{L}\p{N}]/u.test(char)).length;
  return JOINED.test(text) ? words.length : Math.ceil(letters * share);
}

// Letters that stand apart are seldom broken in two, by a pattern or by losses.
const BROKEN = 1.35;
const FEW_MORE = 2;
// Of other scripts, a letter with two dots above it is three.
const MARKS_EACH = 3;
const ALL_APART =
  /^[\p{Script=Latin}\p{Script=Greek}\p{Script=Cyrillic}\p{Script=Hebrew}\p{N}\p{P}\p{S}\p{Z}\p{M}]*$/u;

// Of the height of the tallest mark: losses leave smaller ones about letters.
const SPECK = 0.2;

/** @param isPacked with losses */
export function countMarks(words: readonly Word[], isPacked: boolean): number {
  const marks = words.flatMap((word) => word.marks);
  const leastPx = isPacked ? SPECK * Math.max(...marks.map(markHeight)) : 0;
  return marks.filter((mark) => Math.max(markHeight(mark), markWidth(mark)) >= leastPx).length;
}

/** Into how many marks a text may fall: more are those of a pattern, which hang together with its letters or pass for them. */
export function mostMarks(text: string): number {
  const letters = text.normalize('NFD').replace(/[\s\p{M}]/gu, '');
  if (!ALL_APART.test(text)) return letters.length * MARKS_EACH;
  const dots = text.match(/[ij:;!?"“”„«»%‰=÷…]/giu)?.length ?? 0;
  const accents = text.normalize('NFD').match(/\p{M}/gu)?.length ?? 0;
  return (letters.length + 2 * (dots + accents)) * BROKEN + FEW_MORE;
}

function withoutIcons(line: Word[], text: string, height: number, groupCount: number): Word[] {
  const written = text.trim().split(/\s+/);
  const isJoined = JOINED.test(text);
  const isIcon = (word: Word, beside: Word | undefined, isLeft: boolean): boolean => {
    if (!beside) return false;
    const [wide, high] = [markWidth(word), markHeight(word)];
    const isSquare = wide >= high * 0.5 && wide <= high * 2 && high >= height * 0.8;
    const gap = Math.max(beside.left - word.right, word.left - beside.right) - 1;
    if (!isSquare || gap < height * ICON_GAP) return false;
    const isTall = high >= height * 1.35;
    if (text === '') return isTall && word.marks.length <= 6;
    if (isJoined) {
      const isAlone = word.marks.length === 1 && groupCount > written.length;
      return isAlone && wide <= high * 1.2 && wide >= high * 0.7;
    }
    const letters = [...((isLeft === isRightToLeft(text) ? written.at(-1) : written[0]) ?? '')].length;
    // one more group than there are words
    const isOneMore = groupCount > written.length && word.marks.length <= 2;
    return word.marks.length < letters * 0.6 && (isTall || letters >= 4 || isOneMore);
  };
  return line.filter(
    (word, i) =>
      !(i === 0 && isIcon(word, line[1], true)) &&
      !(i === line.length - 1 && isIcon(word, line[i - 1], false)),
  );
}

// Of the writing's height: the next letter would lie as near.
const NEXT_LETTER = 0.6;
const LEAST_OF_STRIP = 0.05;

/** Another ground begins right beside the writing, so that letters may lie on it as well, unseen here. */
export function mayRunOnto(
  { colours, heightPx, widthPx }: Area,
  words: readonly Word[],
  others: readonly number[],
): boolean {
  if (others.length === 0 || words.length === 0) return false;
  const top = Math.min(...words.map((word) => word.top));
  const bottom = Math.min(heightPx - 1, Math.max(...words.map((word) => word.bottom)));
  const left = Math.min(...words.map((word) => word.left));
  const right = Math.max(...words.map((word) => word.right));
  const reach = Math.ceil((bottom - top + 1) * NEXT_LETTER);
  const isOn = (from: number, to: number): boolean => {
    let [on, all] = [0, 0];
    for (let y = top; y <= bottom; y++)
      for (let x = Math.max(0, from); x <= Math.min(widthPx - 1, to); x++) {
        all += 1;
        if (others.includes(colours[y * widthPx + x]!)) on += 1;
      }
    return all > 0 && on >= all * LEAST_OF_STRIP;
  };
  return isOn(left - reach, left - 1) || isOn(right + 1, right + reach);
}
