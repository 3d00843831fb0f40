import { formatPeriod, parsePeriod } from '../../../core/platform/purchases/period.ts';
import {
  findTestClock,
  periodsOf,
  type TestClock,
  testClocks,
} from '../../../core/platform/purchases/test-clocks.ts';
import { renewalTimetable, type TimetableRow } from '../../../core/platform/purchases/timetable.ts';
import type { AddCommand } from '../../command-table.ts';
import { type Io, UsageError } from '../../io.ts';
import { styleFor } from '../../style.ts';

interface RenewalsCall {
  store: string;
  from?: string;
  json?: boolean;
}

/** `fenlok try renewals`: when to look, in a test store that shortens time. */
export const renewalsCommand: AddCommand = (command, { io }) => {
  command
    .argument('[periods...]', 'of the plans, ISO 8601: P1W, P1M, P1Y (default: all that the table knows)')
    .option('--store <name>', `whose table: ${testClocks.map(({ id }) => id).join(', ')}`, testClocks[0]!.id)
    .option('--from <time>', 'when it is bought, ISO 8601 (default: now)')
    .option('--json', 'print the timetable as JSON')
    .addHelpText('after', '\nExample:\n  fenlok try renewals P1M P1Y --store play-test')
    .action((periods: string[], call: RenewalsCall) => {
      const clock = findTestClock(call.store);
      if (!clock)
        throw new UsageError(`--store ${call.store}: say ${testClocks.map(({ id }) => id).join(' or ')}`);
      const known = periodsOf(clock);
      const unknown = periods.find((period) => !known.includes(period));
      if (unknown)
        throw new UsageError(
          `${unknown}: ${parsePeriod(unknown) ? `${clock.name} has no such plan` : 'no period such as P1M'}; it has ${known.join(', ')}`,
        );
      const fromMs = call.from === undefined ? Date.now() : Date.parse(call.from);
      if (Number.isNaN(fromMs))
        throw new UsageError(`--from ${call.from}: a time such as 2026-11-27T14:00:00Z`);
      const plans = known
        .filter((period) => periods.length === 0 || periods.includes(period))
        .map((period) => ({ period, rows: renewalTimetable(clock, period, fromMs)! }));
      io.out(
        call.json
          ? `${JSON.stringify({ clock, from: new Date(fromMs).toISOString(), plans }, null, 2)}\n`
          : timetable(clock, plans, io),
      );
    });
};

interface PlanTimes {
  period: string;
  rows: readonly TimetableRow[];
}

function timetable(clock: TestClock, plans: readonly PlanTimes[], io: Io): string {
  const style = styleFor(io);
  const lines = [
    style.strong(clock.name),
    style.faint(`${clock.source}, as of ${clock.asOf}`),
    '',
    style.strong('plan      a period takes   start     first renewal   last renewal   end'),
    ...plans.map(({ period, rows }) => {
      const last = rows.at(-2)!;
      const end = rows.at(-1)!;
      return [
        formatPeriod(parsePeriod(period)!).padEnd(10),
        formatMinutes(rows[1]!.afterMin).padEnd(17),
        clockTime(rows[0]!).padEnd(10),
        clockTime(rows[1]!).padEnd(16),
        `${clockTime(last)} (${last.count}.)`.padEnd(15),
        `${clockTime(end)}, after ${formatMinutes(end.afterMin)}`,
      ].join('');
    }),
    '',
    ...(plans.length > 1
      ? [`Try ${formatPeriod(parsePeriod(plans[0]!.period)!)} first: it is over soonest.`]
      : detail(plans[0]!)),
    ...limitsOf(clock),
    'It must be a test account: look for the mark of the test environment on the store’s sheet before typing a password.',
  ];
  return `${lines.join('\n')}\n`;
}

/** Of one plan alone, every moment. */
const detail = ({ rows }: PlanTimes): string[] => [
  ...rows.map((row) => `${clockTime(row)}  ${row.what}${row.count ? ` ${row.count}` : ''}`),
  '',
];

function limitsOf({ acknowledgeS, graceS, holdS, trialS }: TestClock): string[] {
  const parts = [
    acknowledgeS !== undefined && `acknowledge within ${formatMinutes(acknowledgeS / 60)}, or it is refunded`,
    trialS !== undefined && `a trial takes ${formatMinutes(trialS / 60)}`,
    graceS !== undefined && `grace ${formatMinutes(graceS / 60)}`,
    holdS !== undefined && `account hold ${formatMinutes(holdS / 60)}`,
  ].filter((part) => part !== false);
  const text = parts.join('; ');
  return text ? [`${text.charAt(0).toUpperCase()}${text.slice(1)}.`] : [];
}

const formatMinutes = (minutes: number): string =>
  minutes < 60
    ? `${minutes} min`
    : `${Math.floor(minutes / 60)} h${minutes % 60 ? ` ${minutes % 60} min` : ''}`;

/** On the clock of this machine. */
const clockTime = ({ atMs }: TimetableRow): string => {
  const at = new Date(atMs);
  const two = (n: number) => String(n).padStart(2, '0');
  return `${two(at.getHours())}:${two(at.getMinutes())}`;
};
