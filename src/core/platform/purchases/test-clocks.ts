/** How test stores shorten time. The tables change from year to year: each names its source and the day it was read. */
import { daysOf, parsePeriod } from './period.ts';

export interface TestClock {
  id: string;
  name: string;
  source: string;
  /** Day on which the table was read there. */
  asOf: string;
  /** A subscription's period by its ISO duration, in seconds of real time. */
  periodsS: Readonly<Record<string, number>>;
  /** After so many renewals it ends by itself. */
  renewals: number;
  /** A sale that is not acknowledged for so long is refunded; undefined where it is not. */
  acknowledgeS?: number;
  trialS?: number;
  graceS?: number;
  holdS?: number;
}

const MINUTE_S = 60;

export const testClocks: readonly TestClock[] = [
  {
    id: 'apple-sandbox',
    name: 'Apple sandbox, at its usual renewal rate',
    source: 'Apple, help for developers, Manage Sandbox Apple Account settings',
    asOf: '2026-11-01',
    periodsS: {
      P3D: 2 * MINUTE_S,
      P1W: 3 * MINUTE_S,
      P1M: 5 * MINUTE_S,
      P2M: 10 * MINUTE_S,
      P3M: 15 * MINUTE_S,
      P6M: 30 * MINUTE_S,
      P1Y: 60 * MINUTE_S,
    },
    renewals: 12,
    graceS: 3 * MINUTE_S,
  },
  {
    id: 'play-test',
    name: 'Google Play, license testers',
    source: 'Android Developers, Google Play Billing, Test subscriptions',
    asOf: '2026-11-01',
    periodsS: {
      P1W: 5 * MINUTE_S,
      P1M: 5 * MINUTE_S,
      P2M: 10 * MINUTE_S,
      P3M: 10 * MINUTE_S,
      P6M: 15 * MINUTE_S,
      P1Y: 30 * MINUTE_S,
    },
    renewals: 6,
    acknowledgeS: 3 * MINUTE_S,
    trialS: 3 * MINUTE_S,
    graceS: 5 * MINUTE_S,
    holdS: 10 * MINUTE_S,
  },
];

export const findTestClock = (id: string): TestClock | undefined => testClocks.find((one) => one.id === id);

/** Periods that the table knows, the shortest plan first. */
export const periodsOf = ({ periodsS }: TestClock): string[] =>
  Object.keys(periodsS).sort((a, b) => daysOf(parsePeriod(a)!) - daysOf(parsePeriod(b)!));
