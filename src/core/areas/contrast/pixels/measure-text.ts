/**
 * The two colours of a text, seen in a picture.
 *
 * Antialiasing mixes the text's own colour with what lies behind it, so inked pixels lie on a line in RGB that starts at
 * the background; the text's colour is where that line ends. Strokes of two pixels and more reach the end; thinner ones may
 * not, and then the true ratio lies between what was seen and what so thin a stroke may hide.
 *
 * What is taken for the text has to be as wide and as high as its letters make it (`match-text.ts`): a drawing beside it, a
 * pattern behind it or the darker half of a button is none of it.
 */
import type { Box } from '../../../model/geometry.ts';
import type { Pixels } from '../../../model/ports.ts';
import { contrastRatio, type Rgb } from '../colour.ts';
import { intervalWithLosses, mayBeNoise } from './allow-for-losses.ts';
import { chooseReading, findWriting, onlyLetters, type Writing } from './choose-reading.ts';
import { sizeOfPart } from './faintest-part.ts';
import { CLEAN_TOLERANCE } from './find-background.ts';
import { drawingsOf } from './find-drawings.ts';
import { extrapolate, findEnd, type InkEnd, leastCoverage, leastReached } from './find-end.ts';
import { type FlatInk, inkOf, markHeight, markWidth } from './find-ink.ts';
import { findSpans, type Span } from './find-spans.ts';
import type { Word } from './find-words.ts';
import { CLOSE_MATCH, GOOD_MATCH } from './match-text.ts';
import { heightsOf, isClipped, lettersAtEdge } from './measure-glyphs.ts';
import { measureOnUneven } from './measure-on-uneven.ts';
import {
  type Area,
  countColours,
  distance,
  OFF_LINE,
  offLine,
  regionOf,
  sampleArea,
  toRgb,
} from './sample-area.ts';
import { type SettledPixels, settleColours } from './settle-colours.ts';
import type { TextSeen, TextUnseen } from './text-seen.ts';

/**
 * @param box the element's visible bounds, within the picture
 * @param covers boxes drawn over the element, left out
 * @param text as the tree holds it, by which its letters are told from all else; may be empty
 * @param isCut an edge hides a part of the text, so that its letters are not as high or as many as they would be
 * @param leastSeen share of the box that has to be uncovered; half of it where nothing is said
 */
export function measureText(
  asTaken: Pixels,
  box: Box,
  covers: readonly Box[],
  text = '',
  isCut = false,
  leastSeen?: number,
): TextSeen | TextUnseen {
  const pixels = settleColours(asTaken);
  const seen = measureSettled(pixels, { box, covers, isCut, leastSeen, text });
  if (typeof seen === 'string' || pixels.strayLevels === undefined) return seen;
  const isDoubtful = seen.doubtful || seen.behind !== 'flat' || mayBeNoise(seen) || text.length <= SHORT_TEXT;
  return {
    ...seen,
    interval: intervalWithLosses(seen),
    packed: true,
    ...(isDoubtful && { doubtful: true as const }),
  };
}

// Among what losses leave about edges, so few letters may be found anywhere.
const SHORT_TEXT = 2;

interface Wanted {
  box: Box;
  covers: readonly Box[];
  text: string;
  isCut: boolean;
  leastSeen: number | undefined;
}

function measureSettled(
  pixels: SettledPixels,
  { box, covers, isCut, leastSeen, text }: Wanted,
): TextSeen | TextUnseen {
  const found = inkOf(pixels, box, covers, leastSeen);
  if (found.kind === 'too-small' || found.kind === 'covered' || found.kind === 'no-ink') return found.kind;
  const flat =
    found.kind === 'flat'
      ? measureOnFlat(found, { text, isCut: isCut || covers.length > 0, box: regionOf(pixels, box) })
      : undefined;
  // with others drawn over it, little tells letters from what is left of them but their widths
  const isLeft = covers.length > 0 && text === '';
  // many colours that are nearly one: without losses it is a gradient
  const isGraded =
    found.kind === 'flat' &&
    isNoisyGround(found.background) &&
    pixels.strayLevels === undefined &&
    text !== '';
  if (flat && (isLeft || !(isGraded || (flat.doubtful && flat.looksUneven)))) return flat;
  const area = found.kind === 'uneven' ? found.area : sampleArea(pixels, box, covers);
  const uneven = measureOnUneven(area, text);
  return uneven ?? flat ?? (found.kind === 'uneven' ? 'busy-background' : 'no-ink');
}

// Levels of 255: writing that stands out no more may be the grain of a picture.
const NOISE = 15;
const LEAST_INK = 6;
// Share of the ratio that rounding to 8 bits or lossy packing may hide.
const SPREAD = { clean: 0.008, noisy: 0.25 };

function measureOnFlat(
  { area, background, marked }: FlatInk,
  { box, isCut, text }: { text: string; isCut: boolean; box: Box },
): TextSeen | undefined {
  const isNoisy = isNoisyGround(background);
  const surface = { flat: background.colour };
  const spansOf = (words: readonly Word[]) => findSpans(area, marked, words, surface);
  // where another colour lies in the box as well, some letters may lie on it
  const writingWithin = (limit: number) =>
    findWriting(marked, text, { limit, isPacked: area.strayLevels !== undefined });
  const isOneGround = background.others.length === 0;
  const good = writingWithin(GOOD_MATCH);
  // dots that letters hang together with are ink of another colour
  const isOneInk = isOneGround || spansOf(good.words).length === 1;
  const found = isOneInk ? good : writingWithin(CLOSE_MATCH);
  const isAlone = isOneGround || isInkAlone(background, found, area, spansOf);
  const { isEither, otherSize, spans, writing } = chooseReading(isAlone ? text : '', marked, found, spansOf);
  const lettered = text === '' ? spans : onlyLetters(marked, spans, text, writing.match);
  const seen = lettered.flatMap((span) => {
    const end = findEnd(area, span, surface);
    const spread = isNoisy ? SPREAD.noisy : SPREAD.clean;
    return end && end.count >= LEAST_INK ? [{ end, span, ...ratioOf(end, background.colour, spread) }] : [];
  });
  if (seen.length === 0) return undefined;
  const worst = seen.reduce((a, b) => (b.interval[0] < a.interval[0] ? b : a));
  const { end } = worst;
  // letters that end at the edge of the box, or of a scroller, are not as high or as many as the text has
  const edge = lettersAtEdge(writing.words, area, box);
  const heights = heightsOf(writing.words);
  const { isSure, looksUneven } = doubtsOf(
    { area, background, spans: lettered, text, isEither, isNoisy, writing },
    {
      isPartial: isCut || (isClipped(edge) && background.others.length === 0),
      ends: seen.map((of) => of.end),
      // what is drawn over large letters stands out from them as they do from what lies behind
      isTwofold: end.reached < leastReached(heights.linePx),
    },
  );
  if (isNoisy && distance(end.colour, background.colour) < NOISE) return undefined;
  return {
    foreground: end.colour,
    background: background.colour,
    ratio: worst.ratio,
    interval: worst.interval,
    behind: 'flat',
    meanRatio: worst.ratio,
    reached: end.reached,
    stemPx: end.stemPx,
    barPx: end.barPx,
    spanCount: seen.length,
    runPx: writing.runPx,
    edge,
    drawings: isSure ? drawingsOf(writing.rest, area) : [],
    markCount: writing.words.reduce((sum, { marks }) => sum + marks.length, 0),
    ...heights,
    ...sizeOfPart(worst, seen),
    ...(otherSize && { otherSize }),
    ...(!isSure && { doubtful: true as const }),
    ...(!isSure && looksUneven && { looksUneven: true as const }),
  };
}

const isNoisyGround = ({ tolerance }: FlatInk['background']): boolean => tolerance > CLEAN_TOLERANCE;

/** The other colours are those of its letters, which are heavy, and nothing else is in the box. */
function isInkAlone(
  { colour, others }: FlatInk['background'],
  { match, words }: Writing,
  area: Area,
  spansOf: (words: readonly Word[]) => Span[],
): boolean {
  if (!match || match.rest.length > 0) return false;
  const ends = spansOf(words).flatMap((span) => findEnd(area, span, { flat: colour }) ?? []);
  return others.every((other) => ends.some((end) => distance(end.colour, toRgb(other)) <= SAME_INK));
}
// Levels of 255.
const SAME_INK = 6;

interface Judged {
  area: Area;
  background: FlatInk['background'];
  spans: readonly Span[];
  text: string;
  isEither: boolean;
  isNoisy: boolean;
  writing: Writing;
}

/** Whether the letters themselves were measured, and whether what lies behind them may be of several colours. */
function doubtsOf(
  { area, background, isEither, isNoisy, spans, text, writing }: Judged,
  { ends, isPartial, isTwofold }: { ends: readonly InkEnd[]; isPartial: boolean; isTwofold: boolean },
): { isSure: boolean; looksUneven: boolean } {
  if (text === '') {
    const isSure = (isPartial || writing.isSure) && !isEither && !isLostAmong(area, background, ends, spans);
    return { isSure, looksUneven: writing.isAmong || background.others.length > 0 };
  }
  // a pattern behind letters looks like letters of another colour, or like their dots
  const isMixed = spans.length > 1 && (spans[0]!.isMixed || hasSpecks(spans));
  const colours = ends.map(({ colour }) => colour);
  const isStray =
    !isNoisy &&
    area.strayLevels === undefined &&
    strayShare(area, spans, background.colour, colours) > MOST_STRAY;
  // letters that were not told by their widths: what has another colour may be none of them
  const isOther = !writing.isSure && spans.length > 1;
  // losses may hide a faint word from the others
  const lacksWords = area.strayLevels !== undefined && writing.words.length < text.trim().split(/\s+/).length;
  const isRight = isPartial || (writing.isSure && !isMixed && !isStray);
  return {
    isSure:
      isRight &&
      !isOther &&
      !isTwofold &&
      !isEither &&
      !lacksWords &&
      !isLostAmong(area, background, ends, spans),
    looksUneven:
      !isTwofold && (isOther || isStray || isMixed || writing.isAmong || background.others.length > 0),
  };
}

// Of the line's height: no letter is as small, nor any of a smaller size.
const SPECK = 0.3;

/** A colour that dots alone have. */
const hasSpecks = ([main, ...others]: readonly Span[]): boolean =>
  others.some(({ words }) =>
    words
      .flatMap(({ marks }) => marks)
      .every((mark) => Math.max(markHeight(mark), markWidth(mark)) < main!.heightPx * SPECK),
  );

/** Among several grounds or inks, losses may make the wrong ones look like those of the letters. */
const isLostAmong = (
  area: Area,
  { others }: FlatInk['background'],
  ends: readonly InkEnd[],
  spans: readonly Span[],
): boolean =>
  area.strayLevels !== undefined &&
  (others.length > 0 || ends.length > 1 || spans[0]!.faintest < EVEN_LETTERS);

// Of the strength of the strongest letter: those of one colour come out alike, whatever packing does to them.
const EVEN_LETTERS = 0.8;
// Of the ink, and levels of 255: what is no mixture of the background and a colour of the text lies behind it.
const MOST_STRAY = 0.05;
// Every third pixel tells as much.
const STRAY_STEP = 3;

function strayShare({ colours }: Area, spans: readonly Span[], from: Rgb, ends: readonly Rgb[]): number {
  let [stray, total] = [0, 0];
  for (const { pixels } of spans) {
    const own = new Int32Array(Math.ceil(pixels.length / STRAY_STEP));
    for (let n = 0; n < own.length; n++) own[n] = colours[pixels[n * STRAY_STEP]!]!;
    for (const [colour, count] of countColours(own)) {
      total += count;
      if (ends.every((end) => offLine(toRgb(colour), from, end) > OFF_LINE)) stray += count;
    }
  }
  return total > 0 ? stray / total : 0;
}

/** Against one colour, and what so thin a stroke may hide of it. */
function ratioOf(
  end: InkEnd,
  background: Rgb,
  spread: number,
): { ratio: number; interval: [number, number] } {
  const coverage = leastCoverage(end);
  const seen = contrastRatio(end.colour, background);
  const farthest = contrastRatio(extrapolate(background, end.colour, 1 / coverage), background);
  const rounding = Math.max(seen * spread, 0.015);
  return {
    ratio: coverage >= 1 ? seen : Math.sqrt(seen * farthest),
    interval: [
      Math.max(1, Math.min(seen, farthest) - rounding),
      Math.min(21, Math.max(seen, farthest) + rounding),
    ],
  };
}
