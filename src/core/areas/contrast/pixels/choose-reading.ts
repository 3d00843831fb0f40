/** Which marks of a box of one ground are its text, and which of their colours are those of letters. */
import { type MarkedInk, markHeight } from './find-ink.ts';
import type { Span } from './find-spans.ts';
import { countMarks, findWords, mostMarks, type Word } from './find-words.ts';
import {
  CLOSE_MATCH,
  isApart,
  isPattern,
  matchText,
  matchTurned,
  otherReadings,
  type TextMatch,
} from './match-text.ts';
import { heightsOf } from './measure-glyphs.ts';
import type { GlyphSize } from './text-size.ts';
import { widthInEm } from './text-widths.ts';

// Of the height of the letters.
const LETTER_LIKE = { least: 0.35, most: 1.3 };

export interface Reading {
  writing: Writing;
  spans: Span[];
  /** Another one is nearly as good, and its colours are others. */
  isEither: boolean;
  /** Of the letters, by another reading that is nearly as good. */
  otherSize?: GlyphSize;
}

/**
 * What may be an icon beside the text, and passes for a word of it, is left out where the text fits better without.
 *
 * @param text empty where there is no telling
 */
export function chooseReading(
  text: string,
  marked: MarkedInk,
  writing: Writing,
  spansOf: (words: readonly Word[]) => Span[],
): Reading {
  const spans = spansOf(writing.words);
  const { match } = writing;
  const others = match && text !== '' ? otherReadings(marked, text, match, spans.length === 1) : [];
  // where there are several colours, it is the odd one that is left out
  const [best] = others
    .filter(({ words }) => spans.length === 1 || spansOf(words).length < spans.length)
    .sort((a, b) => a.cost - b.cost);
  if (!best) return { writing, spans, isEither: false };
  if (!best.isBetter) return { writing, spans, isEither: spans.length > 1, otherSize: heightsOf(best.words) };
  return { writing: { ...writingOf(best), isAmong: false }, spans: spansOf(best.words), isEither: false };
}

export interface Writing {
  /** Where the letters were told by their widths. */
  match?: TextMatch;
  words: Word[];
  runPx: number;
  rest: MarkedInk['marks'];
  isSure: boolean;
  /** Marks that are no letters lie among them. */
  isAmong: boolean;
}

// Of its width: a text that stands higher is turned by a quarter.
const TURNED = 1.3;

export function findWriting(
  marked: MarkedInk,
  text: string,
  { isPacked, limit }: { limit: number; isPacked: boolean },
): Writing {
  const turned =
    text !== '' && marked.heightPx > marked.widthPx * TURNED ? matchTurned(marked, text) : undefined;
  if (turned && turned.cost <= limit && turned.rest.length === 0)
    return { ...findWords(marked, text), rest: [], isSure: true, isAmong: false };
  const match = text === '' ? undefined : matchText(marked, text);
  const isAmong =
    match !== undefined &&
    (!isApart(match) || isPattern(match) || countMarks(match.words, isPacked) > mostMarks(text));
  if (match && match.cost <= limit && !isAmong) return { ...writingOf(match), isAmong };
  const isSure = text === '' || widthInEm(text) === undefined;
  return { ...findWords(marked, text), rest: [], isSure, isAmong };
}

const writingOf = (match: TextMatch): Omit<Writing, 'isAmong'> => ({
  match,
  words: match.words,
  rest: match.rest,
  runPx: match.words.reduce((sum, { left, right }) => sum + right - left + 1, 0),
  isSure: true,
});

// What the letters of one colour alone must fit better by.
const BETTER_ALONE = 0.05;

/** What is drawn in the largest colour alone, where that has the shape of the text and all colours together have not. */
export function onlyLetters(
  marked: MarkedInk,
  spans: readonly Span[],
  text: string,
  whole: TextMatch | undefined,
): readonly Span[] {
  const [main, ...others] = spans;
  if (!main || others.length === 0 || others.some((other) => standsWith(other, main))) return spans;
  const together = whole?.cost ?? matchOf(marked, spans, text);
  const alone = matchOf(marked, spans.slice(0, 1), text);
  return alone <= CLOSE_MATCH && alone + BETTER_ALONE < together ? spans.slice(0, 1) : spans;
}

/** A word in another colour stands on a line of the text, about as high as its letters. */
const standsWith = (span: Span, main: Span): boolean =>
  span.words.some(
    (word) =>
      markHeight(word) >= main.heightPx * LETTER_LIKE.least &&
      markHeight(word) <= main.heightPx * LETTER_LIKE.most &&
      main.words.some((of) => word.top <= of.bottom && word.bottom >= of.top),
  );

const matchOf = (marked: MarkedInk, spans: readonly Span[], text: string): number =>
  matchText({ ...marked, marks: spans.flatMap(({ words }) => words.flatMap(({ marks }) => marks)) }, text)
    ?.cost ?? Number.POSITIVE_INFINITY;
