/** The store's own time: it runs as real time does, faster, or not at all, and can be stepped on. */
export class StoreClock {
  #storeMs: number;
  #realMs: number;
  #rate: number;

  /** @param rate seconds of the store in a real one; 0 stands still */
  constructor(storeMs: number, realMs: number, rate = 1) {
    this.#storeMs = storeMs;
    this.#realMs = realMs;
    this.#rate = rate;
  }

  get rate(): number {
    return this.#rate;
  }

  nowMs(realMs: number): number {
    return Math.round(this.#storeMs + Math.max(0, realMs - this.#realMs) * this.#rate);
  }

  setRate(rate: number, realMs: number): void {
    this.#storeMs = this.nowMs(realMs);
    this.#realMs = realMs;
    this.#rate = rate;
  }

  step(ms: number, realMs: number): void {
    this.#storeMs = this.nowMs(realMs) + ms;
    this.#realMs = realMs;
  }
}
