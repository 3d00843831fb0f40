/** When devices were without something, as pairs of lines tell in whatever order they come: an app left, a store out of reach. */
import type { LedgerLine } from '../../model/ledger.ts';

const LINES = {
  /** Its user had left the app. */
  app: ['app.left', 'app.opened'],
  /** The device could not reach the store; a line without a device holds for all. */
  store: ['store.away', 'store.back'],
} as const satisfies Record<string, readonly [begins: LedgerLine['kind'], ends: LedgerLine['kind']]>;

interface Times {
  beganMs: number[];
  endedMs: number[];
}

export class Absence {
  readonly #begins: string;
  readonly #ends: string;
  readonly #devices = new Map<string, Times>();

  constructor(of: keyof typeof LINES) {
    [this.#begins, this.#ends] = LINES[of];
  }

  /** @returns whether the line tells of it */
  take(line: LedgerLine, atMs: number): boolean {
    if (line.kind !== this.#begins && line.kind !== this.#ends) return false;
    const device = line.device ?? '';
    const times = this.#devices.get(device) ?? { beganMs: [], endedMs: [] };
    this.#devices.set(device, times);
    (line.kind === this.#begins ? times.beganMs : times.endedMs).push(atMs);
    return true;
  }

  /** From before `fromMs` until `toMs`, without a break. */
  holds(device: string | undefined, fromMs: number, toMs: number): boolean {
    if (this.#devices.size === 0) return false;
    return (
      holdsIn(this.#devices.get(device ?? ''), fromMs, toMs) || holdsIn(this.#devices.get(''), fromMs, toMs)
    );
  }

  /** Moments after `fromMs` and up to `toMs` at which it ended. */
  ends(device: string | undefined, fromMs: number, toMs: number): number[] {
    const own = [device ?? '', ''].flatMap((one) => this.#devices.get(one)?.endedMs ?? []);
    return own.filter((ms) => fromMs < ms && ms <= toMs);
  }

  /** Of what was before, only how it stood then is kept. */
  forgetBefore(ms: number): void {
    for (const times of this.#devices.values()) {
      times.beganMs = since(times.beganMs, ms);
      times.endedMs = since(times.endedMs, ms);
    }
  }

  forget(device: string): void {
    this.#devices.delete(device);
  }
}

/** One or another held at every moment from `fromMs` to `toMs`: whoever needs both, the app and the store, could learn nothing. */
export function isCutOff(
  absences: readonly Absence[],
  device: string | undefined,
  fromMs: number,
  toMs: number,
): boolean {
  const moments = [fromMs, ...absences.flatMap((absence) => absence.ends(device, fromMs, toMs))];
  return moments.every((ms) => absences.some((absence) => absence.holds(device, ms, ms)));
}

function holdsIn(times: Times | undefined, fromMs: number, toMs: number): boolean {
  if (!times) return false;
  const isBegun = latest(times.beganMs, fromMs) > latest(times.endedMs, fromMs);
  return isBegun && !times.endedMs.some((ms) => ms > fromMs && ms <= toMs);
}

const latest = (times: readonly number[], untilMs: number): number =>
  Math.max(Number.NEGATIVE_INFINITY, ...times.filter((ms) => ms <= untilMs));

function since(times: readonly number[], ms: number): number[] {
  const before = latest(times, ms);
  return times.filter((one) => one > ms || one === before);
}
