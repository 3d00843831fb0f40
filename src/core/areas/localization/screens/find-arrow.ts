/**
 * Arrows and chevrons, told by their shape: thin, alike above and below their middle, with a head that closes on one side.
 *
 *      ╱        ╱
 *     ╱────    ╱     a shaft along the middle, or none; no other icon is drawn so
 *     ╲        ╲
 *      ╲        ╲
 */
import type { Box } from '../../../model/geometry.ts';
import type { Pixels } from '../../../model/ports.ts';
import { inkOf } from '../../contrast/pixels/find-ink.ts';

type Pointing = 'left' | 'right';

interface Column {
  /** Highest and lowest row that is inked, and how many are. */
  top: number;
  bottom: number;
  count: number;
}

const LEAST_PX = 8;
// Of its height: how far its lower half may differ from its upper one.
const UNEVEN = 0.12;

/** Where an arrow points to; undefined for whatever is none. */
export function findArrow(pixels: Pixels, box: Box, covers: readonly Box[]): Pointing | undefined {
  const found = inkOf(pixels, box, covers);
  if (found.kind !== 'flat' || found.marked.marks.length !== 1) return undefined;
  const { ink, widthPx } = found.marked;
  const { bottom, left, right, top } = found.marked.marks[0]!;
  const [width, height] = [right - left + 1, bottom - top + 1];
  if (Math.min(width, height) < LEAST_PX || width > height * 2.2 || height > width * 2.4) return undefined;
  const columns: Column[] = [];
  for (let x = left; x <= right; x++) {
    const column = { top: height, bottom: -1, count: 0 };
    for (let y = top; y <= bottom; y++)
      if (ink[y * widthPx + x]) {
        column.top = Math.min(column.top, y - top);
        column.bottom = y - top;
        column.count += 1;
      }
    columns.push(column);
  }
  return isEven(columns, height) ? pointingOf(columns, height) : undefined;
}

/** The same above and below its middle. */
const isEven = (columns: readonly Column[], height: number): boolean =>
  columns.every(
    ({ bottom, count, top }) =>
      count > 0 && Math.abs(top - (height - 1 - bottom)) <= Math.max(2, height * UNEVEN),
  );

// Of the height: the tip is no wider, the head no narrower, and its two strokes no thicker, with a shaft between them or not.
const TIP = 0.4;
const HEAD = 0.9;
const THIN = 0.62;
const THIN_WITH_SHAFT = 0.8;

function pointingOf(columns: readonly Column[], height: number): Pointing | undefined {
  const toLeft = closesAt(columns, height);
  const toRight = closesAt([...columns].reverse(), height);
  return toLeft === toRight ? undefined : toLeft ? 'left' : 'right';
}

/** The columns begin narrow and open steadily to the whole height, in two strokes that leave room between or a shaft. */
function closesAt(columns: readonly Column[], height: number): boolean {
  const spread = ({ bottom, top }: Column) => bottom - top + 1;
  const widest = columns.findIndex((column) => spread(column) >= height * HEAD);
  const [tip] = columns as [Column];
  if (widest < columns.length * 0.2 || spread(tip) > height * TIP) return false;
  for (let x = 1; x <= widest; x++) if (spread(columns[x]!) < spread(columns[x - 1]!) - 1) return false;
  if (columns[widest]!.count > height * THIN_WITH_SHAFT) return false;
  const behind = columns.slice(widest + Math.ceil(height * 0.12) + 1);
  // a chevron ends with its strokes; an arrow goes on as a shaft along the middle
  const isChevron = behind.every((column) => column.count <= height * THIN && spread(column) >= height * 0.6);
  const isShaft =
    behind.length > 2 &&
    behind.slice(Math.ceil(behind.length * 0.3)).every((column) => spread(column) <= height * TIP);
  return isChevron || isShaft;
}
