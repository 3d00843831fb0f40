/** What was played so far, act by act, so that it can be taken back and kept; time that merely went by is an act, too. */
import type { Act } from './acts.ts';
import { type Beginning, type Project, play, type Rehearsal } from './rehearsal.ts';

export interface Played extends Beginning {
  acts: readonly Act[];
}

export class Session {
  readonly #project: Project;
  readonly #beginning: Beginning;
  readonly #acts: Act[];
  #rehearsal: Rehearsal;
  /** Up to here time is told by the acts. */
  #toldMs: number;

  /** @throws StoreRefusal, RangeError where it was played with another store than this one */
  constructor(project: Project, { acts, ...beginning }: Played) {
    this.#project = project;
    this.#beginning = beginning;
    this.#acts = [...acts];
    this.#rehearsal = play(project, beginning, acts);
    this.#toldMs = this.#rehearsal.nowMs;
  }

  get rehearsal(): Rehearsal {
    return this.#rehearsal;
  }
  get testClock(): string | undefined {
    return this.#beginning.testClock;
  }
  get canUndo(): boolean {
    return this.#acts.length > 0 || this.#rehearsal.nowMs > this.#toldMs;
  }

  /** As the clock goes. */
  playTo(ms: number): void {
    this.#rehearsal.advanceTo(Math.max(ms, this.#rehearsal.nowMs));
  }

  /** @throws StoreRefusal where the store does not do it; then nothing happened */
  act(act: Act): void {
    this.#tellTime();
    try {
      this.#rehearsal.act(act);
      this.#acts.push(act);
    } catch (error) {
      // what it had begun, and the moment that it took
      this.#rehearsal = play(this.#project, this.#beginning, this.#acts);
      throw error;
    } finally {
      this.#toldMs = this.#rehearsal.nowMs;
    }
  }

  undo(): void {
    this.#tellTime();
    this.#acts.pop();
    this.#rehearsal = play(this.#project, this.#beginning, this.#acts);
    this.#toldMs = this.#rehearsal.nowMs;
  }

  played(): Played {
    this.#tellTime();
    return { ...this.#beginning, acts: [...this.#acts] };
  }

  #tellTime(): void {
    const ms = this.#rehearsal.nowMs - this.#toldMs;
    if (ms > 0) this.#acts.push({ do: 'wait', ms });
    this.#toldMs = this.#rehearsal.nowMs;
  }
}
