/** Switch scanning as it is played: where the highlight is, and what the two switches do. */

export interface ScanState {
  /** -1 before the first step. */
  row: number;
  /** Inside of the row; undefined while whole rows are gone through. */
  item?: number;
  /** Presses so far; what moves by itself is counted as well, so that it can be told as time. */
  presses: number;
  /** What was selected last. */
  activated?: { row: number; item: number };
}

export const scanStart: ScanState = { row: -1, presses: 0 };

/** One step on. After the last row comes the first; after the last element of a row, the next row. */
export function scanNext(
  rows: readonly (readonly unknown[])[],
  { item, presses, row }: ScanState,
): ScanState {
  const count = presses + 1;
  if (rows.length === 0) return { row: -1, presses: count };
  if (item !== undefined && item + 1 < rows[row]!.length) return { row, item: item + 1, presses: count };
  return { row: (row + 1) % rows.length, presses: count };
}

/** Activates what is highlighted, or goes into the row. */
export function scanSelect(
  rows: readonly (readonly unknown[])[],
  { item, presses, row }: ScanState,
): ScanState {
  const count = presses + 1;
  if (row < 0) return { row, presses: count };
  if (item === undefined && rows[row]!.length > 1) return { row, item: 0, presses: count };
  return { row: -1, presses: count, activated: { row, item: item ?? 0 } };
}
