/** When apps were in front of their users, as lines `app.opened` and `app.left` tell, in whatever order they come. */
import type { LedgerLine } from '../../model/ledger.ts';

interface Times {
  openedMs: number[];
  leftMs: number[];
}

export class Presence {
  readonly #devices = new Map<string, Times>();

  /** @returns whether the line tells of it */
  take(line: LedgerLine, atMs: number): boolean {
    if (line.kind !== 'app.opened' && line.kind !== 'app.left') return false;
    const times = this.#devices.get(line.device) ?? { openedMs: [], leftMs: [] };
    this.#devices.set(line.device, times);
    (line.kind === 'app.opened' ? times.openedMs : times.leftMs).push(atMs);
    return true;
  }

  /** Its user had left the app before, and did not come back until `toMs`; so it could do nothing meanwhile. */
  wasAway(device: string | undefined, fromMs: number, toMs: number): boolean {
    const times = this.#devices.get(device ?? '');
    if (!times) return false;
    const leftMs = latest(times.leftMs, fromMs);
    return leftMs > latest(times.openedMs, fromMs) && !times.openedMs.some((ms) => ms > fromMs && ms <= toMs);
  }

  /** Of what was before, only where it was then is kept. */
  forgetBefore(ms: number): void {
    for (const times of this.#devices.values()) {
      times.openedMs = since(times.openedMs, ms);
      times.leftMs = since(times.leftMs, ms);
    }
  }

  forget(device: string): void {
    this.#devices.delete(device);
  }
}

const latest = (times: readonly number[], untilMs: number): number =>
  Math.max(Number.NEGATIVE_INFINITY, ...times.filter((ms) => ms <= untilMs));

function since(times: readonly number[], ms: number): number[] {
  const before = latest(times, ms);
  return times.filter((one) => one > ms || one === before);
}
