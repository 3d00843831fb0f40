/** How high glyphs and lines stand, in pixels. */
import type { Box } from '../../../model/geometry.ts';
import { type Mark, markHeight, markWidth } from './find-ink.ts';
import type { Word } from './find-words.ts';
import type { Area } from './sample-area.ts';
import type { GlyphSize } from './text-size.ts';

/** @param edgesPx what antialiasing adds to both edges of a mark together; none where less than half covered pixels are left out */
export function heightsOf(words: readonly Word[], edgesPx = EDGES_PX): GlyphSize {
  const heights = words
    .flatMap(({ marks }) => marks)
    // a wider mark is letters that touch, which may stand higher and lower than any one of them
    .filter((mark) => markWidth(mark) <= markHeight(mark) * 1.2)
    .map((mark) => markHeight(mark) - edgesPx);
  const lines = linesOf(words);
  return {
    glyphHeightsPx: tallest(heights),
    risesPx: tallest(lines.flatMap(risesOf).map((rise) => rise - edgesPx)),
    lineHeightsPx: lines.map((line) => markHeight(line) - edgesPx),
    linePx: Math.max(0, Math.max(0, ...words.map(markHeight)) - edgesPx),
  };
}

const tallest = (heights: readonly number[]): number[] =>
  heights.toSorted((a, b) => b - a).slice(0, MAX_HEIGHTS);

interface Line {
  top: number;
  bottom: number;
  marks: Mark[];
}

/** Words that overlap in height by half are of one line. */
function linesOf(words: readonly Word[]): Line[] {
  const lines: Line[] = [];
  for (const word of words) {
    const line = lines.find(
      (of) =>
        Math.min(of.bottom, word.bottom) - Math.max(of.top, word.top) >
        Math.min(markHeight(of), markHeight(word)) / 2,
    );
    if (!line) lines.push({ top: word.top, bottom: word.bottom, marks: [...word.marks] });
    else {
      line.top = Math.min(line.top, word.top);
      line.bottom = Math.max(line.bottom, word.bottom);
      line.marks.push(...word.marks);
    }
  }
  return lines;
}

// Of a line's height: how far round letters reach below the baseline, and what is lower than a letter.
const OVERSHOOT = 0.04;
const LOW = 0.35;

/** How high the letters of a line stand above its baseline, where most end at one. */
function risesOf({ bottom, marks, top }: Line): number[] {
  const linePx = bottom - top + 1;
  const letters = marks.filter((mark) => markHeight(mark) >= linePx * LOW);
  const slackPx = Math.max(1, linePx * OVERSHOOT);
  const onIt = (at: number) => letters.filter((mark) => Math.abs(mark.bottom - at) <= slackPx);
  const [most = []] = letters.map((mark) => onIt(mark.bottom)).sort((a, b) => b.length - a.length);
  if (most.length < 2 || most.length * 2 <= letters.length) return [];
  const baseline = Math.min(...most.map((mark) => mark.bottom));
  return letters
    .filter((mark) => mark.bottom >= baseline - slackPx)
    .map((mark) => Math.min(mark.bottom, baseline + slackPx) - mark.top + 1);
}

/** Letters that end in the first or the last row of their box. */
export interface EdgeLetters {
  at: 'top' | 'bottom';
  count: number;
  /** Of all letters, 0 to 1. */
  share: number;
}

const CLIPPED_SHARE = 0.3;

/** What a box cuts through all ends at its edge; descenders alone are fewer. */
export const isClipped = (edge: EdgeLetters | undefined): boolean =>
  edge !== undefined && edge.count >= 2 && edge.share >= CLIPPED_SHARE;

export function lettersAtEdge(words: readonly Word[], area: Area, box: Box): EdgeLetters | undefined {
  const first = box.y - area.top;
  const last = first + box.height - 1;
  const marks = words.flatMap((word) => word.marks);
  const ending = (at: (mark: Mark) => boolean) => marks.filter(at).length;
  const below = ending(({ bottom }) => bottom >= last);
  const above = ending(({ top }) => top <= first);
  const count = Math.max(below, above);
  if (count === 0) return undefined;
  return { at: below === count ? 'bottom' : 'top', count, share: count / marks.length };
}

// Antialiasing adds half a pixel to either edge on average, where any of it counts as ink.
const EDGES_PX = 1;
const MAX_HEIGHTS = 12;
