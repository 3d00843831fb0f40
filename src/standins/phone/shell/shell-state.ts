/** What a shell remembers from one command to the next. */
import type { PhoneOs } from '../os/phone-os.ts';
import { type ByteInput, type ByteSink, dropped } from './byte-streams.ts';
import type { Command } from './syntax.ts';

const SHELL_PID_OFFSET = 5_000;

export interface Variable {
  value: string;
  exported: boolean;
  readonly: boolean;
}

export class ShellState {
  readonly os: PhoneOs;
  variables = new Map<string, Variable>();
  functions = new Map<string, Command>();
  positional: string[] = [];
  scriptName = 'sh';
  cwd = '/';
  lastCode = 0;
  /** `e`, `u`, `f`, `x`. */
  options = new Set<string>();
  /** Of the functions that run, the innermost last: values to restore, undefined where there was none. */
  locals: Map<string, Variable | undefined>[] = [];
  jobs: Promise<number>[] = [];
  depth = 0;
  startedAt = Date.now();

  constructor(os: PhoneOs) {
    this.os = os;
    const shipped = {
      PATH: '/product/bin:/apex/com.android.runtime/bin:/system/bin:/vendor/bin',
      HOME: '/',
      USER: 'shell',
      LOGNAME: 'shell',
      HOSTNAME: os.shape.name,
      SHELL: '/bin/sh',
      TMPDIR: '/data/local/tmp',
      ANDROID_DATA: '/data',
      ANDROID_ROOT: '/system',
      EXTERNAL_STORAGE: '/sdcard',
      TERM: 'dumb',
    };
    for (const [name, value] of Object.entries(shipped))
      this.variables.set(name, { value, exported: true, readonly: false });
    this.variables.set('IFS', { value: ' \t\n', exported: false, readonly: false });
  }

  /** A shell that knows the same, and whose changes stay its own. */
  copy(): ShellState {
    const copy = new ShellState(this.os);
    copy.variables = new Map([...this.variables].map(([name, variable]) => [name, { ...variable }]));
    copy.functions = new Map(this.functions);
    copy.positional = [...this.positional];
    copy.scriptName = this.scriptName;
    copy.cwd = this.cwd;
    copy.lastCode = this.lastCode;
    copy.options = new Set(this.options);
    copy.depth = this.depth;
    copy.startedAt = this.startedAt;
    return copy;
  }

  get(name: string): string | undefined {
    switch (name) {
      case '?':
        return String(this.lastCode);
      case '#':
        return String(this.positional.length);
      case '0':
        return this.scriptName;
      case '$':
        return String(this.#pid());
      case '!':
        return this.jobs.length === 0 ? '' : String(this.#pid() + this.jobs.length);
      case '-':
        return [...this.options].join('');
      case '@':
      case '*':
        return this.positional.length === 0 ? undefined : this.positional.join(this.separator());
      case 'PWD':
        return this.cwd;
      case 'SECONDS':
        return String(Math.floor((Date.now() - this.startedAt) / 1000));
      case 'RANDOM':
        return String(Math.floor(Math.random() * 32768));
      default:
        return /^\d+$/.test(name) ? this.positional[Number(name) - 1] : this.variables.get(name)?.value;
    }
  }

  /** A child of the bridge's own process. */
  #pid = (): number => (this.os.processes.find('adbd')?.pid ?? 0) + SHELL_PID_OFFSET;

  /** What `$*` is joined by. */
  separator(): string {
    const fields = this.variables.get('IFS')?.value;
    return fields === undefined ? ' ' : fields.slice(0, 1);
  }

  /** @throws ShellTrouble where it may not be changed */
  set(name: string, value: string): void {
    const before = this.variables.get(name);
    if (before?.readonly) throw new ShellTrouble(`read-only: ${name}`, 2);
    this.variables.set(name, { value, exported: before?.exported ?? false, readonly: false });
  }

  environment = (): Map<string, string> =>
    new Map([...this.variables].flatMap(([name, { exported, value }]) => (exported ? [[name, value]] : [])));
}

/** What ends the command, and a script that is no interactive one. */
export class ShellTrouble extends Error {
  readonly code: number;
  constructor(message: string, code = 1) {
    super(message);
    this.code = code;
  }
}

/** Where a command reads and writes: by file descriptor. */
export interface ShellStreams {
  input: ByteInput;
  sinks: ReadonlyMap<number, ByteSink>;
  /** Aborted when the other side hangs up, or nobody reads any more. */
  signal: AbortSignal;
}

export const sinkOf = ({ sinks }: ShellStreams, fd: number): ByteSink => sinks.get(fd) ?? dropped;

/** Leaves loops, functions, or the shell. */
export class Leaving extends Error {
  readonly what: 'break' | 'continue' | 'return' | 'exit';
  readonly code: number;
  levels: number;
  constructor(what: Leaving['what'], code: number, levels = 1) {
    super(what);
    this.what = what;
    this.code = code;
    this.levels = levels;
  }
}

/** What commands that are part of the shell ask of it. */
export interface ShellRunner {
  readonly state: ShellState;
  /** A script in this very shell. @throws Leaving, ShellTrouble, SyntaxTrouble */
  evaluate(text: string, streams: ShellStreams): Promise<number>;
  /** A script in a shell of its own. */
  runFile(name: string, text: string, args: readonly string[], streams: ShellStreams): Promise<number>;
  external(name: string, args: readonly string[], streams: ShellStreams): Promise<number>;
  complain(streams: ShellStreams, why: string): void;
}
