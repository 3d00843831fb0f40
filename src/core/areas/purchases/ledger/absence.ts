/** When devices were without something, as pairs of lines tell in whatever order they come: an app left, a store out of reach. */
import type { LedgerLine } from '../../../model/ledger.ts';

const LINES = {
  /** Its user had left the app. */
  app: ['app.left', 'app.opened'],
  /** The device could not reach the store; a line without a device holds for all. */
  store: ['store.away', 'store.back'],
} as const satisfies Record<string, readonly [begins: LedgerLine['kind'], ends: LedgerLine['kind']]>;

/** What an app says only with its user before it. */
const IN_FRONT: ReadonlySet<string | undefined> = new Set(['fresh', 'launched', 'resumed']);

/** In order when they are asked for. */
interface Times {
  beganMs: number[];
  endedMs: number[];
  isSorted: boolean;
}

export class Absence {
  readonly #begins: string;
  readonly #ends: string;
  readonly #devices = new Map<string, Times>();

  constructor(of: keyof typeof LINES) {
    [this.#begins, this.#ends] = LINES[of];
  }

  take(line: LedgerLine, atMs: number): void {
    const isBegin = line.kind === this.#begins;
    if (!isBegin && !this.#isEnd(line)) return;
    const device = line.device ?? '';
    const times = this.#devices.get(device) ?? { beganMs: [], endedMs: [], isSorted: true };
    this.#devices.set(device, times);
    const own = isBegin ? times.beganMs : times.endedMs;
    if (atMs < (own.at(-1) ?? atMs)) times.isSorted = false;
    own.push(atMs);
  }

  /** Whoever reports an app that is left may not tell that it is opened again; the app itself does. */
  #isEnd = (line: LedgerLine): boolean =>
    line.kind === this.#ends ||
    (this.#ends === 'app.opened' && line.kind === 'access.now' && IN_FRONT.has(line.when));

  /** Of the absence that holds at a moment, infinite where it goes on; undefined where none holds. */
  endOf(device: string | undefined, atMs: number): number | undefined {
    if (this.#devices.size === 0) return undefined;
    const own = device === undefined ? undefined : this.#endIn(device, atMs);
    const all = this.#endIn('', atMs);
    return own === undefined || all === undefined ? (own ?? all) : Math.max(own, all);
  }

  #endIn(device: string, atMs: number): number | undefined {
    const times = this.#devices.get(device);
    if (!times) return undefined;
    sort(times);
    const began = times.beganMs[countUntil(times.beganMs, atMs) - 1];
    const ended = countUntil(times.endedMs, atMs);
    if (began === undefined || began <= (times.endedMs[ended - 1] ?? Number.NEGATIVE_INFINITY))
      return undefined;
    return times.endedMs[ended] ?? Number.POSITIVE_INFINITY;
  }

  /** Of what was before, only how it stood then is kept. */
  forgetBefore(ms: number): void {
    for (const times of this.#devices.values()) {
      sort(times);
      for (const own of [times.beganMs, times.endedMs]) own.splice(0, Math.max(0, countUntil(own, ms) - 1));
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
  let atMs = fromMs;
  while (atMs <= toMs && atMs !== Number.POSITIVE_INFINITY) {
    const endsMs = absences.map((absence) => absence.endOf(device, atMs)).filter((ms) => ms !== undefined);
    if (endsMs.length === 0) return false;
    atMs = Math.max(...endsMs);
  }
  return true;
}

function sort(times: Times): void {
  if (times.isSorted) return;
  times.beganMs.sort((a, b) => a - b);
  times.endedMs.sort((a, b) => a - b);
  times.isSorted = true;
}

/** Of times in order, so many up to a moment. */
function countUntil(times: readonly number[], ms: number): number {
  let [from, to] = [0, times.length];
  while (from < to) {
    const middle = (from + to) >> 1;
    if (times[middle]! <= ms) from = middle + 1;
    else to = middle;
  }
  return from;
}
