/** What tells the size and the weight of the faintest part of a text that has several colours. */
import type { InkEnd } from './find-end.ts';
import type { Span } from './find-spans.ts';
import { heightsOf } from './measure-glyphs.ts';
import type { TextSeen } from './text-seen.ts';

export interface Part {
  span: Span;
  end: InkEnd;
}

// Strokes of one weight differ by less, whatever the letters; parts of one size, by less than small letters from capitals.
const SAME_STEM = 1.25;
const SAME_HEIGHT = 0.85;

/** Which letters a part has is not known: strokes of another width than those of the rest do not tell its weight. */
export function sizeOfPart(
  { end, span }: Part,
  parts: readonly Part[],
): Pick<TextSeen, 'hasWeights' | 'otherSize'> {
  const areAlike = parts.every(
    (other) => Math.max(other.end.stemPx, end.stemPx) <= Math.min(other.end.stemPx, end.stemPx) * SAME_STEM,
  );
  const isLower = parts.some((other) => span.heightPx < other.span.heightPx * SAME_HEIGHT);
  return { ...(!areAlike && { hasWeights: true }), ...(isLower && { otherSize: heightsOf(span.words) }) };
}
