/**
 * Troubles of one app in a device's log (Android Open Source Project: `RuntimeInit`, `ActivityManagerService`, `StrictMode`,
 * `Choreographer`, `WindowManagerGlobal`, `LoadedApk`, `debuggerd` write these lines).
 *
 * Lines of several processes are mixed, and a process id may be given again: lines are put together by process, thread and tag, and
 * belong to the app where the log says so, or where its own classes are in the stack.
 */
import type { Thrown } from '../../../model/stack.ts';
import type { DeviceLog, Trouble } from '../../../model/trouble.ts';
import { readFrame, readThrown } from '../stack-text.ts';
import { type LogLine, LogLines } from './log-line.ts';
import { NAMING, namedProcess, Processes } from './processes.ts';
import { VmTraces } from './vm-traces.ts';

/** Lines that belong together: one crash, one warning. */
interface Block {
  sort: Trouble['sort'];
  first: LogLine;
  line: number;
  moment: string;
  lines: string[];
}

const MAX_BLOCKS = 20_000;
const MAX_BLOCK_LINES = 400;
const MAX_TROUBLES = 500;
const LEAKED =
  /^(?:android\.\w+\.\w+: )?Activity \S+ has leaked (?:window|IntentReceiver|ServiceConnection) /;

/** The first line of a block, by its tag. */
const BEGINS = new Map<string, [sort: Trouble['sort'], form: RegExp]>([
  ['AndroidRuntime', ['crash', /^FATAL EXCEPTION: /]],
  ['StrictMode', ['thread-policy', /^StrictMode policy violation/]],
  ['WindowManager', ['leak', LEAKED]],
  ['ActivityThread', ['leak', LEAKED]],
  ['Choreographer', ['skipped-frames', /^Skipped \d+ frames/]],
  ['ActivityManager', ['not-responding', /^ANR in /]],
  ['DEBUG', ['native-crash', /^pid: \d+, tid: \d+, name: /]],
]);

const MADE: ReadonlySet<string> = new Set(['wm_on_create_called', 'am_on_create_called']);
const ENDED: ReadonlySet<string> = new Set(['wm_on_destroy_called', 'am_on_destroy_called']);
const WANTED: ReadonlySet<string> = new Set([...BEGINS.keys(), ...NAMING.keys(), ...MADE, ...ENDED]);

/** Takes a log line by line; of other apps nothing is kept. */
export class LogReader {
  #appId: string;
  #lines = new LogLines(WANTED);
  #processes = new Processes();
  #open = new Map<string, Block>();
  #closed: Block[] = [];
  #count = 0;
  #activities: { moment: string; pid: number; name: string; isEnd: boolean }[] = [];
  #traces: VmTraces;

  constructor(appId: string) {
    this.#appId = appId;
    this.#traces = new VmTraces(appId);
  }

  push(text: string): void {
    this.#traces.push(text);
    const line = this.#lines.read(text);
    if (!line) return;
    this.#count += 1;
    if (line === 'other') return;
    const named = namedProcess(line);
    if (named) this.#processes.name(named.pid, named.name, this.#momentOf(line), named.isStart);
    this.#activity(line);
    this.#block(line);
  }

  /** A log without times is in its order. */
  #momentOf = ({ at }: LogLine): string => at || String(this.#count).padStart(12, '0');

  finish(): DeviceLog {
    const blocks = [...this.#closed, ...this.#open.values()].sort((a, b) => a.line - b.line);
    const own = blocks.filter((block) => this.#isOwn(block));
    const troubles = together(own.map((block) => this.#troubleOf(block)));
    const [made, ended] = [this.#activitiesOf(false), this.#activitiesOf(true)];
    const sawApp = own.length + made.length + ended.length > 0 || this.#processes.has(this.#isApp);
    return {
      lines: this.#count,
      sawApp,
      version: '',
      program: '',
      made,
      ended,
      troubles: troubles.slice(0, MAX_TROUBLES),
    };
  }

  #isApp = (name: string): boolean => name === this.#appId || name.startsWith(`${this.#appId}:`);

  /** `[token,example.kelpline.TicketsActivity,performCreate]` */
  #activity(line: LogLine): void {
    const { message, pid, tag } = line;
    const isEnd = ENDED.has(tag);
    if (!isEnd && !MADE.has(tag)) return;
    const name = /^\[\d+,([\w.$]+),/.exec(message)?.[1];
    if (name && this.#activities.length < MAX_BLOCKS)
      this.#activities.push({ moment: this.#momentOf(line), pid, name, isEnd });
  }

  #activitiesOf(ended: boolean): string[] {
    const own = this.#activities.filter(
      ({ isEnd, moment, name, pid }) =>
        isEnd === ended &&
        (name.startsWith(`${this.#appId}.`) || this.#isApp(this.#processes.at(pid, moment) ?? '')),
    );
    return [...new Set(own.map(({ name }) => name))].sort();
  }

  #block(line: LogLine): void {
    const begins = BEGINS.get(line.tag);
    if (!begins) return;
    const [sort, form] = begins;
    const key = `${line.pid} ${line.tid} ${line.tag}`;
    if (form.test(line.message)) {
      const before = this.#open.get(key);
      if (before && this.#closed.length < MAX_BLOCKS) this.#closed.push(before);
      const moment = this.#momentOf(line);
      this.#open.set(key, { sort, first: line, line: this.#count, moment, lines: [line.message] });
      return;
    }
    const open = this.#open.get(key);
    if (open && open.lines.length < MAX_BLOCK_LINES) open.lines.push(line.message);
  }

  #isOwn({ first, lines, moment, sort }: Block): boolean {
    if (sort === 'not-responding') return this.#isApp(/^ANR in ([\w.:]+)/.exec(first.message)?.[1] ?? '');
    if (sort === 'native-crash') return this.#isApp(/>>> ([\w.:]+)/.exec(first.message)?.[1] ?? '');
    const process = /^Process: ([\w.:]+)/.exec(lines[1] ?? '')?.[1] ?? this.#processes.at(first.pid, moment);
    if (process !== undefined) return this.#isApp(process);
    // the log began after the process: only its own classes tell whose it is
    return lines.some((text) => readFrame(text)?.className.startsWith(`${this.#appId}.`));
  }

  #troubleOf({ first, lines, sort }: Block): Trouble {
    const trouble: Trouble = {
      sort,
      at: first.at,
      thread: 'main',
      thrown: [],
      about: '',
      frames: 0,
      count: 1,
    };
    switch (sort) {
      case 'crash':
        trouble.thread = first.message.replace(/^FATAL EXCEPTION: /, '');
        trouble.thrown = readThrown(lines.slice(2));
        break;
      case 'thread-policy':
        trouble.thread = '';
        trouble.thrown = [policyOf(lines)];
        break;
      case 'leak':
        trouble.thread = '';
        trouble.thrown = [
          { exception: '', message: '', frames: lines.slice(1).flatMap((text) => readFrame(text) ?? []) },
        ];
        trouble.about = first.message.replace(/^android\.\w+\.\w+: /, '').slice(0, 500);
        break;
      case 'skipped-frames':
        trouble.frames = Number(/\d+/.exec(first.message)![0]);
        break;
      case 'not-responding': {
        const reason = lines.find((text) => text.startsWith('Reason: ')) ?? '';
        trouble.about = reason.replace('Reason: ', '').slice(0, 500);
        const pid = Number(/^PID: (\d+)/.exec(lines.find((text) => text.startsWith('PID: ')) ?? '')?.[1]);
        trouble.thrown = this.#traces.of(pid);
        break;
      }
      case 'native-crash':
        Object.assign(trouble, nativeCrash(lines));
    }
    return trouble;
  }
}

/** `StrictMode policy violation; ~duration=42 ms: android.os.strictmode.DiskReadViolation`, then its frames. */
function policyOf(lines: readonly string[]): Thrown {
  const [head = ''] = lines;
  const name = /:\s*([\w.$]+)(?::|$)/.exec(head.replace(/^.*?violation[^:]*/, ''))?.[1] ?? '';
  return {
    exception: name.replace('android.os.StrictMode$StrictMode', 'android.os.strictmode.'),
    message: /~duration=(\d+ ms)/.exec(head)?.[1] ?? '',
    frames: lines.slice(1).flatMap((text) => readFrame(text) ?? []),
  };
}

const NATIVE_FRAME =
  /^\s*#\d+ pc ([0-9a-f]+)\s+(\S+)(?: \(offset 0x[0-9a-f]+\))?(?: \((.+?)(?:\+\d+)?\))?(?: \(BuildId: ([0-9a-f]+)\))?$/;

function nativeCrash(lines: readonly string[]): Partial<Trouble> {
  const signal = lines.find((text) => /^signal \d+/.test(text)) ?? '';
  const abort = lines.find((text) => text.startsWith('Abort message: ')) ?? '';
  const frames = lines.flatMap((text) => {
    const [, pc, library = '', method = '', uuid = ''] = NATIVE_FRAME.exec(text) ?? [];
    return pc ? [{ pc, library: library.replace(/^.*\//, ''), method, uuid }] : [];
  });
  return {
    thread: /name: (.*?)\s+>>>/.exec(lines[0]!)?.[1] ?? '',
    about: abort,
    thrown: [
      {
        exception: /\((SIG\w+)\)/.exec(signal)?.[1] ?? 'signal',
        message: signal,
        frames: frames.map(({ library, method, pc }) => ({
          className: library,
          method: method || `0x${pc.replace(/^0+(?=.)/, '')}`,
          file: '',
        })),
      },
    ],
  };
}

/** The same trouble again is one, counted; buffers that overlap tell one twice at the same moment. */
function together(troubles: readonly Trouble[]): Trouble[] {
  const found = new Map<string, Trouble>();
  const moments = new Set<string>();
  for (const trouble of troubles) {
    const { about, at, frames, sort, thread, thrown } = trouble;
    const stack = thrown.map((one) => [one.exception, ...one.frames.map(formatFrame)].join('\n')).join('\n');
    const key = [sort, thread, sort === 'not-responding' ? about : '', stack].join('\n');
    const moment = `${at}\n${key}\n${frames}`;
    if (at !== '' && moments.has(moment)) continue;
    moments.add(moment);
    const before = found.get(key);
    if (!before) {
      found.set(key, { ...trouble });
      continue;
    }
    before.count += 1;
    before.frames = Math.max(before.frames, frames);
  }
  return [...found.values()];
}

const formatFrame = ({ className, line, method }: Thrown['frames'][number]): string =>
  `${className}.${method}:${line ?? ''}`;
