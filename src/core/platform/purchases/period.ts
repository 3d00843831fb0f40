/** Durations of subscriptions, as stores write them: ISO 8601 (section 4.4.3.2), one unit each: `P1W`, `P3M`, `P1Y`. */

export interface Period {
  count: number;
  unit: 'day' | 'week' | 'month' | 'year';
}

const UNITS = { D: 'day', W: 'week', M: 'month', Y: 'year' } as const;
const LONGEST = 366;

/** @returns undefined where it is no duration of whole days, weeks, months or years */
export function parsePeriod(text: string): Period | undefined {
  const [, digits, letter] = /^P(\d{1,3})([DWMY])$/.exec(text) ?? [];
  const count = Number(digits);
  if (!letter || count < 1 || count > LONGEST) return undefined;
  return { count, unit: UNITS[letter as keyof typeof UNITS] };
}

/** A month after January 31 is the last day of February: months and years keep the day where there is one. */
export function addPeriod(fromMs: number, { count, unit }: Period): number {
  if (unit === 'day' || unit === 'week') return fromMs + count * (unit === 'day' ? 1 : 7) * DAY_MS;
  const from = new Date(fromMs);
  const months = from.getUTCMonth() + count * (unit === 'month' ? 1 : 12);
  const last = new Date(Date.UTC(from.getUTCFullYear(), months + 1, 0)).getUTCDate();
  const to = new Date(fromMs);
  to.setUTCFullYear(from.getUTCFullYear(), months, Math.min(from.getUTCDate(), last));
  return to.getTime();
}

export const DAY_MS = 24 * 3600_000;

/** Roughly, to put the shortest first. */
export const daysOf = ({ count, unit }: Period): number =>
  count * { day: 1, week: 7, month: 30.4, year: 365 }[unit];

export const formatPeriod = ({ count, unit }: Period): string =>
  count === 1 ? `1 ${unit}` : `${count} ${unit}s`;
