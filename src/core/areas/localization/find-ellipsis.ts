/**
 * Three dots at the end of a line, seen in a picture: the tree of a screen holds the whole text, even where it is cut.
 *
 *     ▌▌ ▐█▌ █▌▐█        the last three runs of inked columns are small, alike, evenly spaced,
 *     ▌▌▐▌ ▐▌█ ▐█ ▪ ▪ ▪  and stand at the foot of the line
 */

import type { Box } from '../../model/geometry.ts';
import type { Pixels } from '../../model/ports.ts';
import { inkOf } from '../contrast/find-ink.ts';

interface Run {
  from: number;
  to: number;
}

/** @param rtl the line ends on its left */
export function endsInEllipsis(pixels: Pixels, box: Box, covers: readonly Box[], rtl: boolean): boolean {
  const found = inkOf(pixels, box, covers);
  if (!found) return false;
  const { heightPx, ink, widthPx } = found;
  const rows = runs(heightPx, (y) => ink.subarray(y * widthPx, (y + 1) * widthPx).includes(1));
  const line = lastLine(rows);
  if (!line) return false;
  const isInked = (x: number) => {
    for (let y = line.from; y <= line.to; y++) if (ink[y * widthPx + x]) return true;
    return false;
  };
  const columns = runs(widthPx, isInked);
  const dots = rtl ? columns.slice(0, 3) : columns.slice(-3);
  if (dots.length < 3 || columns.length < 5) return false;
  return areDots(dots, line, (x, y) => ink[y * widthPx + x] === 1);
}

function runs(length: number, isIn: (at: number) => boolean): Run[] {
  const found: Run[] = [];
  for (let at = 0; at < length; at++) {
    if (!isIn(at)) continue;
    const last = found.at(-1);
    if (last && last.to === at - 1) last.to = at;
    else found.push({ from: at, to: at });
  }
  return found;
}

/** A gap of less than a quarter of a run is an accent or a dot, not a new line. */
function lastLine(rows: readonly Run[]): Run | undefined {
  const lines: Run[] = [];
  for (const row of rows) {
    const last = lines.at(-1);
    if (last && row.from - last.to <= Math.max(1, (last.to - last.from + 1) * 0.25)) last.to = row.to;
    else lines.push({ ...row });
  }
  return lines.at(-1);
}

const size = ({ from, to }: Run): number => to - from + 1;

function areDots(dots: readonly Run[], line: Run, isInk: (x: number, y: number) => boolean): boolean {
  const widths = dots.map(size);
  const [first, second] = [dots[1]!.from - dots[0]!.to, dots[2]!.from - dots[1]!.to];
  const largest = Math.max(...widths);
  // antialiasing moves an edge by a pixel
  if (largest - Math.min(...widths) > 2 || Math.abs(first - second) > 2 || first < 2) return false;
  if (largest > size(line) * 0.3) return false;
  const heights = dots.map((dot) => inkedRows(dot, line, isInk));
  return (
    heights.every(
      (rows) =>
        rows &&
        size(rows) <= largest + 2 &&
        size(rows) >= Math.min(...widths) - 2 &&
        rows.from > line.from + size(line) * 0.4,
    ) && Math.max(...heights.map((rows) => rows!.from)) - Math.min(...heights.map((rows) => rows!.from)) <= 1
  );
}

function inkedRows(dot: Run, line: Run, isInk: (x: number, y: number) => boolean): Run | undefined {
  let found: Run | undefined;
  for (let y = line.from; y <= line.to; y++)
    for (let x = dot.from; x <= dot.to; x++)
      if (isInk(x, y)) {
        found ??= { from: y, to: y };
        found.to = y;
      }
  return found;
}
