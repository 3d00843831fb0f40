/** How high glyphs and lines stand, in pixels. */
import { markHeight, markWidth } from './find-ink.ts';
import type { Word } from './find-words.ts';
import type { GlyphSize } from './text-size.ts';

export function measureGlyphs(words: readonly Word[]): GlyphSize {
  const heights = words
    .flatMap(({ marks }) => marks)
    // a wider mark is letters that touch, which may stand higher and lower than any one of them
    .filter((mark) => markWidth(mark) <= markHeight(mark) * 1.2)
    .map((mark) => markHeight(mark) - EDGES_PX)
    .sort((a, b) => b - a);
  return {
    glyphHeightsPx: heights.slice(0, MAX_HEIGHTS),
    linePx: Math.max(0, Math.max(0, ...words.map(markHeight)) - EDGES_PX),
  };
}

// Antialiasing adds half a pixel to either edge on average, where any of it counts as ink.
const EDGES_PX = 1;
const MAX_HEIGHTS = 12;
