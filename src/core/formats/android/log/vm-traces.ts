/**
 * What an app was doing when it did not answer (Android Open Source Project, `SignalCatcher`, `Thread::Dump`): in `/data/anr` and in
 * a bug report's section `VM TRACES AT LAST ANR`.
 *
 *     ----- pid 4012 at 2026-11-30 12:00:00 -----
 *     Cmd line: example.kelpline
 *     "main" prio=5 tid=1 Blocked
 *       at example.kelpline.Store.read(Store.kt:20)
 *       - waiting to lock <0x0a> (a java.lang.Object) held by thread 12
 *     ----- end 4012 -----
 */
import type { StackFrame, Thrown } from '../../../model/stack.ts';
import { readFrame } from '../stack-text.ts';

interface Dumped {
  name: string;
  state: string;
  waits: string;
  /** The number of the thread that holds what this one waits for. */
  holder?: string;
  number: string;
  frames: StackFrame[];
}

const MAX_THREADS = 500;

export class VmTraces {
  #appId: string;
  #byPid = new Map<number, Dumped[]>();
  #pid: number | undefined;
  #isOwn = false;
  #isJustNow = false;

  constructor(appId: string) {
    this.#appId = appId;
  }

  push(line: string): void {
    if (this.#pid === undefined && !line.startsWith('-----')) return;
    if (line.startsWith('------ ')) this.#isJustNow = line.includes('VM TRACES JUST NOW');
    if (line.startsWith('----- ')) {
      const [, pid] = /^----- pid (\d+) at /.exec(line) ?? [];
      this.#pid = pid && !this.#isJustNow ? Number(pid) : undefined;
      this.#isOwn = false;
      return;
    }
    if (this.#pid === undefined) return;
    if (line.startsWith('Cmd line: ')) {
      const name = line.slice('Cmd line: '.length).trim();
      this.#isOwn = name === this.#appId || name.startsWith(`${this.#appId}:`);
      if (this.#isOwn) this.#byPid.set(this.#pid, []);
      return;
    }
    if (this.#isOwn) this.#thread(this.#byPid.get(this.#pid)!, line);
  }

  /** What the main thread was doing, then the thread that it waited for; of the only process where none has this number. */
  of(pid: number): Thrown[] {
    const threads = this.#byPid.get(pid) ?? (this.#byPid.size === 1 ? [...this.#byPid.values()][0]! : []);
    const main = threads.find(({ name }) => name === 'main');
    if (!main) return [];
    const holder = threads.find(({ number }) => number === main.holder);
    return [main, ...(holder ? [holder] : [])].map(({ frames, name, state, waits }) => ({
      exception: '',
      message: `${name}: ${state}${waits}`,
      frames,
    }));
  }

  has(): boolean {
    return this.#byPid.size > 0;
  }

  #thread(threads: Dumped[], line: string): void {
    const [, name, number, state] = /^"(.*)" (?:daemon )?prio=\d+ tid=(\d+) (\w+)/.exec(line) ?? [];
    if (name !== undefined && number && state) {
      if (threads.length < MAX_THREADS) threads.push({ name, number, state, waits: '', frames: [] });
      return;
    }
    const open = threads.at(-1);
    if (!open) return;
    const [, what, holder] = /- waiting to lock <\w+> \(a (\S+)\)(?: held by thread (\d+))?/.exec(line) ?? [];
    if (what) {
      open.waits = `, waits for a ${what}${holder ? ` that thread ${holder} holds` : ''}`;
      if (holder) open.holder = holder;
      return;
    }
    const frame = readFrame(line);
    if (frame) open.frames.push(frame);
  }
}
