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
    .map((mark) => markHeight(mark) - edgesPx)
    .sort((a, b) => b - a);
  return {
    glyphHeightsPx: heights.slice(0, MAX_HEIGHTS),
    linePx: Math.max(0, Math.max(0, ...words.map(markHeight)) - edgesPx),
  };
}

const CLIPPED_SHARE = 0.3;

/** Letters that the box cuts through all end in its first or last row; descenders alone are fewer. */
export function isClipped(words: readonly Word[], area: Area, box: Box): boolean {
  const first = box.y - area.top;
  const last = first + box.height - 1;
  const marks = words.flatMap((word) => word.marks);
  const ending = (at: (mark: Mark) => boolean) => marks.filter(at).length;
  const most = Math.max(
    ending(({ bottom }) => bottom >= last),
    ending(({ top }) => top <= first),
  );
  return most >= 2 && most >= marks.length * CLIPPED_SHARE;
}

// Antialiasing adds half a pixel to either edge on average, where any of it counts as ink.
const EDGES_PX = 1;
const MAX_HEIGHTS = 12;
