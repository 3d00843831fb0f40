/**
 * A text on what is not of one colour: a gradient, a pattern, the two halves of a button, a photo. Its marks are looked for
 * in two ways, as what differs from a gradient, and as all that has one colour; those count that are as wide and as high as
 * the text's letters would be. What lies behind is judged a stretch of an em at a time, wherever it contrasts least.
 */
import { contrastRatio, type Rgb } from '../colour.ts';
import { sizeOfPart } from './faintest-part.ts';
import { backgroundUnder, faintestStretch, planesOf, underInk } from './faintest-stretch.ts';
import { extrapolate, findEnd, leastCoverage } from './find-end.ts';
import { findInkOn, keepMarks, type MarkedInk, markHeight, markInk, withoutFrames } from './find-ink.ts';
import { findPlains } from './find-plains.ts';
import { findSpans } from './find-spans.ts';
import { findSurface } from './find-surface.ts';
import { countMarks, findWords, leastMarks, mostMarks, type Word } from './find-words.ts';
import { CLOSE_MATCH, GOOD_MATCH, isLoose, matchText } from './match-text.ts';
import { heightsOf } from './measure-glyphs.ts';
import { type Area, countColours, distance, OFF_LINE, offLine, toRgb } from './sample-area.ts';
import type { TextSeen } from './text-seen.ts';
import { widthInEm } from './text-widths.ts';

// Levels of 255: what dithering, rounding and the fit of a gradient may stray by.
const SURFACE_TOLERANCE = 9;
// What a faint pattern on it may stray by, where the text is known to stand out from it.
const PATTERN_TOLERANCE = 27;
// Of the tallest letter: an em is about 1.37 of it.
const STRETCHES = [1.2, 1.37, 1.55];
const UNSURE = { gradient: 1.04, picture: 1.06 };

interface Found {
  behind: 'gradient' | 'picture';
  marked: MarkedInk;
  words: Word[];
  planes?: Float32Array;
  cost: number;
}

/** @param text as the tree holds it; may be empty */
export function measureOnUneven(area: Area, text: string): TextSeen | undefined {
  const onGradient = onSurface(area, text);
  // all that stands off the gradient is as wide as the text: what lies between its letters may happen to be so, too
  const sure = onGradient.find(({ behind, cost }) => behind === 'gradient' && cost <= CLOSE_MATCH);
  if (sure) return measure(area, sure);
  const found = [...onGradient, offPlains(area, text), ...ofOneColour(area, text)]
    .flatMap((one) => one ?? [])
    .sort((a, b) => a.cost - b.cost)[0];
  return found && measure(area, found);
}

function onSurface(area: Area, text: string): Found[] {
  const surface = findSurface(area);
  if (!surface) return [];
  const tolerances = text === '' ? [SURFACE_TOLERANCE] : [SURFACE_TOLERANCE, PATTERN_TOLERANCE];
  return tolerances.flatMap((tolerance) => {
    const marked = withoutFrames(markInk(findInkOn(area, surface.planes, tolerance)));
    const writing = writingIn(marked, text, area);
    if (!writing || inkIn(writing.words) < inkOf(marked) * LEAST_IN_WORDS) return [];
    // what is strewn over the gradient lies under the letters, too
    const isStrewn = tolerance > SURFACE_TOLERANCE || inkIn(writing.words) < inkOf(marked) * MOST_BESIDE;
    return isStrewn
      ? { behind: 'picture' as const, marked, ...writing }
      : { behind: 'gradient' as const, marked, planes: surface.planes, ...writing };
  });
}

// Of the ink: a rim or an accent is less than the rest of it.
const MOST_BESIDE = 0.97;

// Of the box: a smaller plain is the inside of a stroke.
const LEAST_PLAIN = 0.05;

/** What lies on no plain: a button whose colour changes, with its rounded corners and what is around them. */
function offPlains(area: Area, text: string): Found | undefined {
  // of a text that is not known, nothing tells its letters from the edges of a picture
  if (text === '') return undefined;
  const { colours, heightPx, widthPx } = area;
  const { labels, plains } = findPlains(area);
  const grounds = plains.filter(({ count }) => count >= colours.length * LEAST_PLAIN);
  if (grounds.length === 0) return undefined;
  const isGround = new Uint8Array(plains.length + 1);
  for (const { label } of grounds) isGround[label] = 1;
  const ink = Uint8Array.from(colours, (colour, i) => (colour >= 0 && !isGround[labels[i]!] ? 1 : 0));
  const marked = withoutFrames(markInk({ widthPx, heightPx, ink }));
  const writing = writingIn(marked, text, area, grounds.length > 1);
  if (!writing || inkIn(writing.words) < inkOf(marked) * LEAST_IN_WORDS) return undefined;
  return { behind: 'gradient', marked, ...writing };
}

// Of the ink: a few specks of a pattern may happen to be as wide as the text.
const LEAST_IN_WORDS = 0.3;

const inkOf = ({ marks }: Pick<MarkedInk, 'marks'>): number =>
  marks.reduce((sum, mark) => sum + mark.count, 0);
const inkIn = (words: readonly Word[]): number => words.reduce((sum, word) => sum + inkOf(word), 0);

/**
 * As the text's letters make it; of a text that is not known, all words.
 *
 * @param areSeveral grounds, on one of which some letters may not be seen: the rest must not pass for all of them
 */
function writingIn(
  marked: MarkedInk,
  text: string,
  { strayLevels }: Area,
  areSeveral = false,
): { words: Word[]; cost: number } | undefined {
  if (marked.marks.length === 0) return undefined;
  if (text === '' || widthInEm(text) === undefined)
    return marked.marks.length >= leastMarks(text)
      ? { words: findWords(marked, text).words, cost: GOOD_MATCH }
      : undefined;
  const match = matchText(marked, text);
  const limit = isLoose(text) || areSeveral ? CLOSE_MATCH : GOOD_MATCH;
  if (!match || match.cost > limit || reachesAcross(match.words, marked)) return undefined;
  return countMarks(match.words, strayLevels !== undefined) <= mostMarks(text) ? match : undefined;
}

/** From edge to edge of the box: what lies behind does, a text does not. */
const reachesAcross = (words: readonly Word[], { heightPx, widthPx }: MarkedInk): boolean =>
  (words.some(({ left }) => left <= 0) && words.some(({ right }) => right >= widthPx - 1)) ||
  (words.some(({ top }) => top <= 0) && words.some(({ bottom }) => bottom >= heightPx - 1));

const LEAST_SHARE = 0.012;
const MAX_COLOURS = 6;
// Of the box: colours that lie behind, as long as they are clear of the text's.
const LEAST_GROUND = 0.06;
const CLEAR = 12;
const PHOTO_REACH = 27;
const LEAST_IN_LETTERS = 0.6;
const MAX_FILL = 0.6;

function ofOneColour(area: Area, text: string): Found[] {
  const { colours, heightPx, uncoveredCount, widthPx } = area;
  const common = [...countColours(colours)]
    .filter(([, count]) => count >= uncoveredCount * LEAST_SHARE)
    .sort((a, b) => b[1] - a[1])
    .slice(0, MAX_COLOURS)
    .map(([colour, count]) => ({ colour: toRgb(colour), isGround: count >= uncoveredCount * LEAST_GROUND }));
  return common.flatMap(({ colour }) => {
    const main = common.find((other) => other.isGround && distance(other.colour, colour) > CLEAR);
    // what is no mixture of the two lies behind as well, however little there is of it
    const grounds = common.filter(
      (other) =>
        distance(other.colour, colour) > CLEAR &&
        (other.isGround || (main && offLine(other.colour, colour, main.colour) > OFF_LINE)),
    );
    // on a photo, where no colour comes often, only what is near to it is its own
    const reach = grounds.length > 0 ? Number.POSITIVE_INFINITY : PHOTO_REACH;
    const ink = nearest(
      colours,
      colour,
      grounds.map((ground) => ground.colour),
      reach,
    );
    if (shareOfEdge(area, ink) > MOST_OF_EDGE) return [];
    const marked = withoutFrames(markInk({ widthPx, heightPx, ink }));
    const count = inkOf(marked);
    if (count > uncoveredCount * MAX_FILL) return [];
    const writing = writingIn(marked, text, area, grounds.length > 1);
    if (!writing || inkIn(writing.words) < count * LEAST_IN_LETTERS) return [];
    return [{ behind: 'picture' as const, marked, ...writing }];
  });
}

// Of the box's edge: what lies along so much of it is behind, and the gaps in a text are no text.
const MOST_OF_EDGE = 0.2;
// How far inside it is looked at: where an edge falls between two pixels, they are mixed with what lies beside the box.
const RIM_PX = 2;

function shareOfEdge({ heightPx, widthPx }: Area, ink: Uint8Array): number {
  const [left, top] = [Math.min(RIM_PX, (widthPx - 1) >> 1), Math.min(RIM_PX, (heightPx - 1) >> 1)];
  const [right, bottom] = [widthPx - 1 - left, heightPx - 1 - top];
  let count = 0;
  for (let x = left; x <= right; x++) count += ink[top * widthPx + x]! + ink[bottom * widthPx + x]!;
  for (let y = top; y <= bottom; y++) count += ink[y * widthPx + left]! + ink[y * widthPx + right]!;
  return count / (2 * (right - left + 1 + bottom - top + 1));
}

/** Pixels that have more of the colour than of any ground. */
function nearest(colours: Int32Array, own: Rgb, grounds: readonly Rgb[], reach: number): Uint8Array {
  const ink = new Uint8Array(colours.length);
  let [last, lastIsInk] = [-1, 0];
  for (let i = 0; i < colours.length; i++) {
    const colour = colours[i]!;
    if (colour !== last) {
      last = colour;
      const off = distance(toRgb(colour), own);
      lastIsInk =
        colour >= 0 && off <= reach && grounds.every((ground) => distance(toRgb(colour), ground) > off)
          ? 1
          : 0;
    }
    ink[i] = lastIsInk;
  }
  return ink;
}

/** The colour of half of the box and more: letters have less. */
function mostOf({ colours, uncoveredCount }: Area): Rgb | undefined {
  for (const [colour, count] of countColours(colours)) if (count > uncoveredCount / 2) return toRgb(colour);
  return undefined;
}

function measure(area: Area, { behind, marked, planes, words }: Found): TextSeen | undefined {
  const own = keepMarks(
    marked,
    words.flatMap(({ marks }) => marks),
  );
  const tallest = Math.max(...own.marks.map(markHeight));
  const under = planes ? underInk(own, planes) : backgroundUnder(area, own.ink, tallest);
  const surface = { planes: planes ?? planesOf(under, area) };
  const spans = findSpans(area, own, words, surface);
  // specks of what lies behind look like letters of another colour
  const written = spans[0]?.isMixed ? spans.slice(0, 1) : spans;
  const ground = mostOf(area);
  const parts = written.flatMap((span) => {
    const end = findEnd(area, span, surface);
    // gaps within the letters, seen through what is mixed at their edges
    return end && !(ground && distance(end.colour, ground) <= CLEAR) ? [{ span, end }] : [];
  });
  const seen = parts.flatMap(({ end, span }) => {
    const stretches = STRETCHES.flatMap((share) => faintestStretch(under, end.colour, tallest * share) ?? []);
    if (stretches.length === 0) return [];
    stretches.sort((a, b) => a.ratio - b.ratio);
    const faintest = stretches[0]!;
    const far = extrapolate(faintest.background, end.colour, 1 / leastCoverage(end));
    const lowest = Math.min(faintest.ratio, ...stretches.map(({ lowest: of }) => of));
    const highest = Math.max(
      ...stretches.map(({ highest: of }) => of),
      contrastRatio(far, faintest.background),
    );
    const unsure = UNSURE[behind];
    const interval: [number, number] = [Math.max(1, lowest / unsure), Math.min(21, highest * unsure)];
    return [{ end, span, ...faintest, interval }];
  });
  const [worst] = seen.sort((a, b) => a.interval[0] - b.interval[0]);
  if (!worst) return undefined;
  return {
    foreground: worst.end.colour,
    background: worst.background,
    ratio: worst.ratio,
    interval: worst.interval,
    behind,
    meanRatio: worst.meanRatio,
    reached: worst.end.reached,
    stemPx: worst.end.stemPx,
    barPx: worst.end.barPx,
    spanCount: seen.length,
    runPx: words.reduce((sum, { left, right }) => sum + right - left + 1, 0),
    drawings: [],
    markCount: own.marks.length,
    ...heightsOf(words, behind === 'picture' ? 0 : undefined),
    ...sizeOfPart(worst, seen),
  };
}
