/**
 * Which of the marks in a box are a given text: runs of words, in lines, as wide as the text's letters make them at the size
 * that their height tells. What else is there is a drawing beside the text, or a pattern behind it.
 */
import { type Mark, type MarkedInk, markHeight, markWidth } from './find-ink.ts';
import {
  findLines,
  isRightToLeft,
  isRule,
  splitLine,
  typicalHeight,
  type Word,
  wordGap,
} from './find-words.ts';
import { heightsOf } from './measure-glyphs.ts';
import { usualTextSize } from './text-size.ts';
import { widthInEm } from './text-widths.ts';

export interface TextMatch {
  /** Of the text, line by line. */
  words: Word[];
  /** Marks that are no part of it. */
  rest: Mark[];
  /** How well widths and heights agree: 0 is perfect, beyond `GOOD_MATCH` it is chance. */
  cost: number;
}

/** What a match is without its first or last word, which may be a drawing beside the text. */
interface OtherReading extends TextMatch {
  /** It fits the text better than the whole. */
  isBetter: boolean;
}

export const GOOD_MATCH = 0.42;
/** Where a part of the letters may not be seen, the rest must not pass for all of them. */
export const CLOSE_MATCH = 0.25;

// How far widths may stray before it counts, as a factor's logarithm.
const FREE_STRAY = 0.16;
// Of a few letters, each may be much wider or narrower than usual.
const SHORT_EM = 1.8;
const FREE_STRAY_SHORT = 0.4;
// Small letters touch, and stand as high as what they hang together with.
const SMALL_PX = 18;
const FREE_STRAY_SMALL = 0.3;
const MAX_LINES = 40;
// Letters may stand apart, and where thin strokes are lost they do.
const WORD_GAPS = [1, 1.7];
const MAX_DROPPED = 2;

/** @param text not empty */
export function matchText({ marks }: MarkedInk, text: string): TextMatch | undefined {
  const width = widthInEm(text);
  if (width === undefined || width === 0) return undefined;
  const height = typicalHeight(marks);
  const glyphs = marks.filter((mark) => !isRule(mark, height));
  const all = matchMarks(glyphs, height, text);
  const beside = all && all.cost <= PERFECT_MATCH ? [] : besideLines(glyphs, height, text);
  const others = beside
    .flatMap((of) => matchMarks(of, height, text) ?? [])
    .map(({ cost, words }) => ({ words, cost: cost + SET_ASIDE }));
  const [found] = [...(all ? [all] : []), ...others].sort((a, b) => a.cost - b.cost);
  if (!found) return undefined;
  const own = new Set(found.words.flatMap(({ marks: of }) => of));
  return { ...found, rest: marks.filter((mark) => !own.has(mark)) };
}

// Beyond the cost of the whole: what fits worse is no other reading.
const NEARLY_AS_GOOD = 0.06;
// Of one colour only the size is in doubt.
const JUST_AS_GOOD = 0.02;
// A drawing falls into few marks.
const DRAWING_MARKS = 4;

// Of the others' height: an icon stands higher than letters.
const HIGHER_THAN_LETTERS = 1.15;

/**
 * The same text without the word at either end, where it fits nearly as well: its width alone does not tell an icon from a word.
 *
 * @param isOneColour then a word is left out only where it stands higher than the others
 */
export function otherReadings(
  marked: MarkedInk,
  text: string,
  { cost, rest, words }: TextMatch,
  isOneColour: boolean,
): OtherReading[] {
  if (words.length < 2) return [];
  const byColumn = words.toSorted((a, b) => a.left - b.left);
  // as many words as are written are those words
  const areAll = words.length === text.trim().split(/\s+/).length;
  return [byColumn[0]!, byColumn.at(-1)!].flatMap((end) => {
    const highest = Math.max(...words.filter((word) => word !== end).map(markHeight));
    const isHigher = markHeight(end) >= highest * HIGHER_THAN_LETTERS;
    const mayBeIcon = isHigher || (markHeight(end) >= highest && !areAll && !isOneColour);
    if (!mayBeIcon || !isSquare(end) || end.marks.length > DRAWING_MARKS) return [];
    const marks = words.filter((word) => word !== end).flatMap((word) => word.marks);
    const found = matchText({ ...marked, marks }, text);
    const isIcon = !isOneColour && isHigher;
    const most = cost + (isIcon ? ICON_AS_GOOD : isOneColour ? JUST_AS_GOOD : NEARLY_AS_GOOD);
    if (!found || found.cost > most) return [];
    const isBetter = found.cost < cost || isIcon;
    return [{ ...found, rest: [...rest, ...found.rest, ...end.marks], isBetter }];
  });
}

// What has the shape and the colour of an icon may make the text fit a little worse.
const ICON_AS_GOOD = 0.15;
const isSquare = (word: Word): boolean => {
  const ratio = markWidth(word) / markHeight(word);
  return ratio > 0.6 && ratio < 1.6;
};

// What a drawing that is set aside must make better.
const SET_ASIDE = 0.04;

/** The marks without the outermost on either side, where these lie beside several lines: a box, say, to be ticked. */
function besideLines(glyphs: readonly Mark[], height: number, text: string): Mark[][] {
  if (text.trim().split(/\s+/).length < 2) return [];
  const columns = splitLine(glyphs, height * STANDS_OFF);
  if (columns.length < 2) return [];
  return [columns[0]!, columns.at(-1)!]
    .filter(({ left, marks, right }) => marks.length <= 4 && right - left + 1 <= height * 2.5)
    .map(({ marks: aside }) => glyphs.filter((mark) => !aside.includes(mark)))
    .filter((left) => findLines(left, text).length > 1);
}

/** The best run of words among marks that may be letters. */
function matchMarks(
  glyphs: readonly Mark[],
  height: number,
  text: string,
): { words: Word[]; cost: number } | undefined {
  const rows = findLines(glyphs, text);
  if (rows.length === 0 || rows.length > MAX_LINES) return undefined;
  let found: { words: Word[]; cost: number } | undefined;
  for (const wider of WORD_GAPS) {
    const lines = rows.map((row) => splitLine(row, height * wordGap(text) * wider));
    for (const words of candidates(lines, text)) {
      const cost = costOf(words, lines, text);
      if (!found || cost < found.cost) found = { words, cost };
      if (cost <= PERFECT_MATCH && words.length === lines.flat().length) break;
    }
    if (found && found.cost <= PERFECT_MATCH) break;
  }
  if (!found) return undefined;
  return found.cost > GOOD_MATCH ? (shortened(rows, height, text) ?? found) : found;
}

/** As much of the text as there is room for, where dots stand at the end of its last line. */
function shortened(
  rows: readonly Mark[][],
  height: number,
  text: string,
): { words: Word[]; cost: number } | undefined {
  const last = rows.at(-1)!.toSorted((a, b) => a.left - b.left);
  const ending = isRightToLeft(text) ? last.slice(0, 3) : last.slice(-3);
  const isDots =
    ending.length === 3 &&
    ending.every((mark) => markHeight(mark) <= height * 0.35 && markWidth(mark) <= markHeight(mark) * 1.6);
  if (!isDots) return undefined;
  const lines = rows.map((row) => splitLine(row, height * wordGap(text)));
  const words = lines.flat();
  const covered = lines.reduce((sum, line) => sum + line.at(-1)!.right - line[0]!.left + 1, 0);
  const letters = [...text];
  let best: { words: Word[]; cost: number } | undefined;
  for (let count = 2; count < letters.length; count++) {
    const shown = `${letters.slice(0, count).join('').trimEnd()}…`;
    const size = sizeByHeight(words, shown);
    // only where the width is about right is it worth a closer look
    if (Math.abs(Math.log(covered / (widthInEm(shown)! * size))) > FREE_STRAY) continue;
    const cost = costOf(words, lines, shown);
    if (!best || cost < best.cost) best = { words, cost };
  }
  return best;
}

// Looking further finds nothing better.
const PERFECT_MATCH = 0.06;

/** Every run of words in one line; neighbouring lines together, whole or without what stands off at either end. */
function* candidates(lines: readonly Word[][], text: string): Generator<Word[]> {
  for (const line of lines)
    for (let from = 0; from <= Math.min(MAX_DROPPED, line.length - 1); from++)
      for (let to = line.length; to >= Math.max(from + 1, line.length - MAX_DROPPED); to--)
        yield line.slice(from, to);
  const words = text.trim().split(/\s+/).length;
  if (lines.length === 1 || words === 1) return;
  for (let first = 0; first < lines.length; first++)
    for (let last = first + 1; last < Math.min(lines.length, first + words); last++) {
      const block = lines.slice(first, last + 1);
      yield block.flat();
      yield block.flatMap((line) => (line.length > 1 ? line.slice(1) : line));
      yield block.flatMap((line) => (line.length > 1 ? line.slice(0, -1) : line));
      const without = withoutTall(block);
      if (without.length > 0) yield without;
    }
}

/** A drawing beside several lines is higher than any of them. */
function withoutTall(block: readonly Word[][]): Word[] {
  const heights = block
    .flat()
    .map(markHeight)
    .sort((a, b) => a - b);
  const usual = heights[heights.length >> 1]!;
  return block.flat().filter((word) => markHeight(word) <= usual * 1.6);
}

function costOf(words: readonly Word[], lines: readonly Word[][], text: string): number {
  const size = sizeByHeight(words, text);
  if (size <= 0) return Number.POSITIVE_INFINITY;
  const written = text.trim().split(/\s+/);
  const widths = written.map((word) => widthInEm(word)!);
  const lineCount = new Set(words.map((word) => lines.findIndex((line) => line.includes(word)))).size;
  const spaces = written.length - lineCount;
  const expected = widths.reduce((sum, of) => sum + of, 0) + Math.max(0, spaces) * SPACE;
  const covered = linesOf(words, lines).reduce(
    (sum, line) => sum + line.at(-1)!.right - line[0]!.left + 1,
    0,
  );
  const stray = Math.abs(Math.log(covered / (expected * size)));
  return (
    Math.max(0, stray - freeStray(expected, size)) +
    stray * 0.3 +
    proportions(words, widths, text) +
    countCost(words.length, written.length, text) +
    unevenness(words) +
    gaps(linesOf(words, lines), spaces, size) +
    raggedness(linesOf(words, lines)) +
    crowding(words, lines) +
    LEFT_OVER * (1 - inkOf(words) / inkOf(lines.flat()))
  );
}
const SPACE = 0.26;

const freeStray = (widthEm: number, sizePx: number): number =>
  widthEm < SHORT_EM ? FREE_STRAY_SHORT : sizePx < SMALL_PX ? FREE_STRAY_SMALL : FREE_STRAY;

/** Words may touch; that one falls apart is rare, but for scripts whose letters stand far from one another. */
function countCost(seen: number, written: number, text: string): number {
  if (seen > written && !SPACED.test(text)) return 0;
  const each = seen > written ? 0.12 : 0.05;
  return each * Math.min(4, Math.abs(seen - written));
}
/** Its letters stand apart or change with their neighbours, so that little tells them from other marks. */
export const isLoose = (text: string): boolean => !SPACED.test(text);
const SPACED = /^[^\p{Script=Thai}\p{Script=Arabic}\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}]*$/u;

const linesOf = (words: readonly Word[], lines: readonly Word[][]): Word[][] =>
  lines.map((line) => line.filter((word) => words.includes(word))).filter((line) => line.length > 0);

const sizeByHeight = (words: readonly Word[], text: string): number => usualTextSize(text, heightsOf(words));

/** How far the widths of single words stray from one another, where there are as many as there should be. */
function proportions(words: readonly Word[], widths: readonly number[], text: string): number {
  if (words.length !== widths.length || words.length < 2) return 0;
  const shown = isRightToLeft(text) ? byLine(words) : words;
  const strays = shown.map((word, i) => Math.log((markWidth(word) + 1) / widths[i]!));
  const mean = strays.reduce((sum, of) => sum + of, 0) / strays.length;
  const spread = Math.sqrt(strays.reduce((sum, of) => sum + (of - mean) ** 2, 0) / strays.length);
  return Math.max(0, spread - 0.12);
}

// Of the em: a space is about a quarter.
const WIDE_GAP = 0.45;

/** A text has no more wide gaps than spaces. */
function gaps(lines: readonly Word[][], spaces: number, sizePx: number): number {
  let wide = 0;
  for (const line of lines)
    for (let i = 1; i < line.length; i++)
      if (line[i]!.left - line[i - 1]!.right - 1 > sizePx * WIDE_GAP) wide += 1;
  return 0.4 * Math.max(0, wide - spaces);
}

/** A line of a text ends where the next word has no room; a drawing above a text leaves plenty. */
function raggedness(lines: readonly Word[][]): number {
  const widest = Math.max(...lines.map((line) => line.at(-1)!.right - line[0]!.left + 1));
  let cost = 0;
  for (let i = 0; i + 1 < lines.length; i++) {
    const [line, next] = [lines[i]!, lines[i + 1]!];
    const width = line.at(-1)!.right - line[0]!.left + 1;
    const narrowest = Math.min(markWidth(next[0]!), markWidth(next.at(-1)!));
    if (width + narrowest < widest * 0.85) cost += 0.3;
  }
  return cost;
}

/** Right to left within each line. */
function byLine(words: readonly Word[]): Word[] {
  const lines: Word[][] = [];
  for (const word of words) {
    const line = lines.at(-1);
    if (line && word.left > line.at(-1)!.left) line.push(word);
    else lines.push([word]);
  }
  return lines.flatMap((line) => line.reverse());
}

/** A word much higher than the others is none. */
function unevenness(words: readonly Word[]): number {
  const heights = words.map(markHeight).sort((a, b) => a - b);
  const usual = heights[Math.floor(heights.length / 2)]!;
  return heights.at(-1)! > usual * 1.9 ? 0.2 : 0;
}

// What is left over is more likely to be a drawing than writing where it is little.
const LEFT_OVER = 0.12;
const inkOf = (words: readonly Word[]): number =>
  words.reduce((sum, word) => sum + word.marks.reduce((own, mark) => own + mark.count, 0), 0);

// Of the text's height: a drawing stands off by more than words do.
const STANDS_OFF = 0.3;
// A drawing falls into few marks; more are letters.
const LETTERS_LEFT = 0.04;

/** What is left out of a line stands off from what is taken. */
function crowding(words: readonly Word[], lines: readonly Word[][]): number {
  let cost = 0;
  for (const line of lines) {
    const taken = line.filter((word) => words.includes(word));
    if (taken.length === 0 || taken.length === line.length) continue;
    const height = Math.max(...taken.map(markHeight));
    for (const other of line) {
      if (words.includes(other)) continue;
      const gap = Math.max(taken[0]!.left - other.right, other.left - taken.at(-1)!.right) - 1;
      cost += (gap < height * STANDS_OFF ? 0.15 : 0.03) + LETTERS_LEFT * Math.max(0, other.marks.length - 3);
    }
  }
  return cost;
}

/** The same for a text that is turned by a quarter, as in the head of a narrow column. */
export function matchTurned(marked: MarkedInk, text: string): TextMatch | undefined {
  const upwards = ({ bottom, left, right, top, ...mark }: Mark): Mark => ({
    ...mark,
    left: marked.heightPx - 1 - bottom,
    right: marked.heightPx - 1 - top,
    top: left,
    bottom: right,
  });
  const downwards = ({ bottom, left, right, top, ...mark }: Mark): Mark => ({
    ...mark,
    left: top,
    right: bottom,
    top: marked.widthPx - 1 - right,
    bottom: marked.widthPx - 1 - left,
  });
  return [upwards, downwards]
    .flatMap((turn) => matchText({ ...marked, marks: marked.marks.map(turn) }, text) ?? [])
    .sort((a, b) => a.cost - b.cost)[0];
}

/** Nothing else lies among its words, but for lines under or through them: what does is a pattern, and its ground not flat. */
export function isApart({ rest, words }: Pick<TextMatch, 'rest' | 'words'>): boolean {
  const height = Math.max(...words.map(markHeight));
  const among = rest.filter(
    (mark) =>
      !isRule(mark, height) && !isSpeck(mark) && words.some((word) => overlaps(mark, word, height * 0.1)),
  );
  return among.length === 0;
}

/** Drawings beside a text fall into few marks; more are a pattern. */
export const isPattern = ({ rest }: Pick<TextMatch, 'rest'>, mostRest = MAX_REST): boolean =>
  rest.filter((mark) => !isSpeck(mark)).length > mostRest;
const MAX_REST = 8;
const isSpeck = (mark: Mark): boolean => mark.count <= 4;

const overlaps = (a: Pick<Mark, 'left' | 'right' | 'top' | 'bottom'>, b: typeof a, by: number): boolean =>
  a.left < b.right - by && b.left < a.right - by && a.top < b.bottom - by && b.top < a.bottom - by;
