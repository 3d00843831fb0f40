/**
 * Switch scanning with two switches, one that moves on and one that selects.
 *
 * Linear: the highlight goes from element to element. Row by row: it goes from row to row, a press of *select* goes into
 * the row, to its first element, and there it goes from element to element.
 */
import type { Stop } from './walk-stops.ts';

export type ScanPattern = 'linear' | 'rows';

/** What scanning asks of a stop. */
type Scannable = Pick<Stop, 'actionable' | 'enabled' | 'boundsPx'>;

export interface ScannedStop<S extends Scannable = Stop> {
  stop: S;
  /** Presses of *next* and of *select* until it is activated, from the start of the screen. */
  presses: number;
  /** The same in time, at the given pace. */
  seconds: number;
  /** From 1; linear scanning has one row. */
  row: number;
}

/** @param secondsEach time that one press takes, or one step where the highlight moves by itself */
export function scanStops<S extends Scannable>(
  stops: readonly S[],
  pattern: ScanPattern,
  secondsEach: number,
): ScannedStop<S>[] {
  const entry = (stop: S, presses: number, row: number): ScannedStop<S> => ({
    stop,
    presses,
    seconds: presses * secondsEach,
    row,
  });
  // the first press of "next" puts the highlight on the first element
  const rows = scannedRows(stops, pattern);
  if (pattern === 'linear') return rows.flat().map((stop, i) => entry(stop, i + 2, 1));
  return rows.flatMap((row, r) =>
    // a row of one is activated straight away
    row.map((stop, i) => entry(stop, row.length === 1 ? r + 2 : r + 2 + i + 1, r + 1)),
  );
}

/** What the highlight goes through; in linear scanning each element is a row of its own. */
export function scannedRows<S extends Scannable>(stops: readonly S[], pattern: ScanPattern): S[][] {
  const actionable = stops.filter((stop) => stop.actionable && stop.enabled);
  return pattern === 'linear' ? actionable.map((stop) => [stop]) : rowsOf(actionable);
}

/** Neighbours in reading order that overlap in height by half. */
function rowsOf<S extends Scannable>(stops: readonly S[]): S[][] {
  const rows: S[][] = [];
  for (const stop of stops) {
    const row = rows.at(-1);
    if (row && isBeside(row[0]!, stop)) row.push(stop);
    else rows.push([stop]);
  }
  return rows;
}

function isBeside({ boundsPx: a }: Scannable, { boundsPx: b }: Scannable): boolean {
  const shared = Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y);
  return shared > Math.min(a.height, b.height) * 0.5;
}
