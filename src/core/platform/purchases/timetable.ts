/** When to look: start, renewals and end of a subscription in a test store. */
import type { TestClock } from './test-clocks.ts';

export interface TimetableRow {
  what: 'start' | 'renewal' | 'end';
  /** From 1; for renewals alone. */
  count?: number;
  atMs: number;
  /** Minutes since the start. */
  afterMin: number;
}

/**
 * @param period ISO 8601, such as `P1M`
 * @returns undefined where the table has no such period
 */
export function renewalTimetable(
  clock: TestClock,
  period: string,
  startMs: number,
): TimetableRow[] | undefined {
  const seconds = clock.periodsS[period];
  if (seconds === undefined) return undefined;
  const at = (periods: number) => ({
    atMs: startMs + periods * seconds * 1000,
    afterMin: (periods * seconds) / 60,
  });
  return [
    { what: 'start', ...at(0) },
    ...Array.from({ length: clock.renewals }, (_, i) => ({
      what: 'renewal' as const,
      count: i + 1,
      ...at(i + 1),
    })),
    { what: 'end', ...at(clock.renewals + 1) },
  ];
}
