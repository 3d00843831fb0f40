/**
 * Three dots at the end of the last line, seen in a picture: the tree of a screen holds the whole text, even where it is
 * cut.
 *
 *     ▌▌ ▐█▌ █▌▐█        three marks that are small, alike, evenly spaced, on one foot,
 *     ▌▌▐▌ ▐▌█ ▐█ ▪ ▪ ▪  with nothing behind them and nothing under them
 */
import type { Box } from '../../../model/geometry.ts';
import type { Pixels } from '../../../model/ports.ts';
import { type Mark as InkMark, inkOf } from '../../contrast/pixels/find-ink.ts';

type Mark = Pick<InkMark, 'left' | 'right' | 'top' | 'bottom'>;

// Antialiasing moves an edge by a pixel on either side.
const EDGE_PX = 2;

/** @param rtl the line ends on its left */
export function endsInEllipsis(pixels: Pixels, box: Box, covers: readonly Box[], rtl: boolean): boolean {
  const found = inkOf(pixels, box, covers);
  if (found.kind !== 'flat') return false;
  const { marks: seen, widthPx } = found.marked;
  const marks = seen.map((mark) => (rtl ? mirrored(mark, widthPx) : mark));
  const tallest = Math.max(0, ...marks.map(height));
  const dots = marks.filter((mark) => isDot(mark, tallest)).sort((a, b) => b.right - a.right);
  return dots.some((last) => isEnd(last, marks) && hasTwoBefore(last, dots, marks));
}

const mirrored = ({ bottom, left, right, top }: Mark, widthPx: number): Mark => ({
  left: widthPx - 1 - right,
  right: widthPx - 1 - left,
  top,
  bottom,
});

const width = ({ left, right }: Mark): number => right - left + 1;
const height = ({ bottom, top }: Mark): number => bottom - top + 1;

const isDot = (mark: Mark, tallest: number): boolean =>
  Math.abs(width(mark) - height(mark)) <= EDGE_PX && height(mark) <= tallest * 0.4;

/** Nothing of the same line stands behind it, and no line below it. */
function isEnd(last: Mark, marks: readonly Mark[]): boolean {
  const size = height(last);
  return !marks.some(
    (other) =>
      other !== last &&
      ((other.left > last.right && other.bottom >= last.top - 3 * size) ||
        other.top > last.bottom + 4 * size ||
        // the stem of an i
        (other.top > last.bottom && other.left <= last.right && other.right >= last.left)),
  );
}

/** Dots that belong to a letter lie under it, or over it. */
const belongsToLetter = (dot: Mark, marks: readonly Mark[]): boolean =>
  marks.some(
    (other) =>
      other.left <= dot.right &&
      other.right >= dot.left &&
      height(other) > height(dot) * 1.5 &&
      Math.max(dot.top - other.bottom, other.top - dot.bottom) < height(dot) * 4,
  );

function hasTwoBefore(last: Mark, dots: readonly Mark[], marks: readonly Mark[]): boolean {
  const alike = dots.filter(
    (dot) =>
      dot.right < last.left &&
      Math.abs(dot.bottom - last.bottom) <= 1 &&
      Math.abs(width(dot) - width(last)) <= EDGE_PX &&
      Math.abs(height(dot) - height(last)) <= EDGE_PX,
  );
  const [middle, first] = alike;
  if (!middle || !first) return false;
  // the tail of the last letter may reach over one of them
  if ([last, middle, first].filter((dot) => belongsToLetter(dot, marks)).length > 1) return false;
  const [near, far] = [last.left - middle.right, middle.left - first.right];
  return Math.abs(near - far) <= EDGE_PX && near >= 2 && near <= 4 * width(last);
}
