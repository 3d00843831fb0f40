import {
  type DeviceLog,
  type LogBuffer,
  type LogLine,
  logBuffers,
  type Priority,
} from '../../os/device-log.ts';
import type { Call, ShellCommand } from '../shell-command.ts';

const LEVELS: readonly Priority[] = ['V', 'D', 'I', 'W', 'E', 'F'];
const AS_SHIPPED: readonly LogBuffer[] = ['main', 'system', 'crash'];

interface Wanted {
  buffers: Set<LogBuffer>;
  format: (line: LogLine) => string;
  filters: Map<string, number>;
  pid?: number;
  since?: number;
  last?: number;
}

/** `logcat [-d] [-c] [-b BUFFER] [-v FORMAT] [-t N|TIME] [-T N|TIME] [-s] [--pid PID] [TAG:PRIORITY …]` */
export const logcat: ShellCommand = async (call) => {
  const { args, err, os } = call;
  const wanted: Wanted = { buffers: new Set(), format: FORMATS.threadtime!, filters: new Map() };
  let ends = false;
  let clears = false;
  for (let i = 0; i < args.length; i++) {
    // an option and its value may be one word, or joined by an equals sign
    const [option = '', joined] = splitWord(args[i]!);
    const value = () => joined ?? args[++i] ?? '';
    if (option === '-d') ends = true;
    else if (option === '-c') clears = true;
    else if (option === '-g') {
      call.out(
        AS_SHIPPED.map(
          (name) =>
            `${name}: ring buffer is 256 KiB (12 KiB consumed, 256 KiB readable), max entry is 5120 B, max payload is 4068 B\n`,
        ).join(''),
      );
      return 0;
    } else if (option === '-b') {
      for (const name of value().split(','))
        if (name === 'all') for (const buffer of logBuffers) wanted.buffers.add(buffer);
        else if (name === 'default') for (const buffer of AS_SHIPPED) wanted.buffers.add(buffer);
        else if (logBuffers.includes(name as LogBuffer)) wanted.buffers.add(name as LogBuffer);
        else return complain(err, `Unknown buffer '${name}'`);
    } else if (option === '-v') {
      const name = value();
      if (FORMATS[name]) wanted.format = FORMATS[name];
      else if (!['UTC', 'usec', 'year', 'zone', 'color', 'printable'].includes(name))
        return complain(err, `Invalid parameter "${name}" to -v`);
    } else if (option === '-t' || option === '-T') {
      if (option === '-t') ends = true;
      const since = value();
      if (/^\d+$/.test(since)) wanted.last = Number(since);
      else wanted.since = timeOf(since);
    } else if (option === '-s') wanted.filters.set('*', LEVELS.length);
    else if (option === '--pid') wanted.pid = Number(value());
    else if (option.startsWith('-')) return complain(err, `Unknown option ${option}`);
    else {
      const [tag = '', level = 'V'] = option.split(':');
      wanted.filters.set(
        tag,
        level.toUpperCase() === 'S'
          ? LEVELS.length
          : Math.max(0, LEVELS.indexOf(level.toUpperCase() as Priority)),
      );
    }
  }
  if (wanted.buffers.size === 0) for (const buffer of AS_SHIPPED) wanted.buffers.add(buffer);
  if (clears) {
    os.log.clear(wanted.buffers);
    return 0;
  }
  return print(call, os.log, wanted, ends);
};

function splitWord(arg: string): [option: string, joined?: string] {
  const long = /^(--\w+)=(.*)$/s.exec(arg);
  if (long) return [long[1]!, long[2]];
  const short = /^(-[bvtT])=?(.+)$/s.exec(arg);
  return short ? [short[1]!, short[2]] : [arg];
}

function complain(err: Call['err'], why: string): number {
  err(`logcat: ${why}\n`);
  return 1;
}

function print(
  { out, signal }: Call,
  log: DeviceLog,
  wanted: Wanted,
  ends: boolean,
): number | Promise<number> {
  let shown = log.lines(wanted.buffers).filter((line) => passes(line, wanted));
  if (wanted.last !== undefined) shown = shown.slice(-wanted.last || shown.length);
  const seen = new Set<LogBuffer>();
  const say = (line: LogLine) => {
    if (!seen.has(line.buffer)) out(`--------- beginning of ${line.buffer}\n`);
    seen.add(line.buffer);
    out(`${wanted.format(line)}\n`);
  };
  shown.forEach(say);
  if (ends) return 0;
  return new Promise((resolve) => {
    const stop = log.follow((line) => {
      if (wanted.buffers.has(line.buffer) && passes(line, wanted)) say(line);
    });
    const end = () => {
      stop();
      resolve(130);
    };
    if (signal.aborted) end();
    else signal.addEventListener('abort', end, { once: true });
  });
}

function passes({ at, pid, priority, tag }: LogLine, { filters, pid: only, since }: Wanted): boolean {
  if (only !== undefined && pid !== only) return false;
  if (since !== undefined && at < since) return false;
  const least = filters.get(tag) ?? filters.get('*') ?? 0;
  return LEVELS.indexOf(priority) >= least;
}

const two = (value: number, width = 2): string => String(value).padStart(width, '0');
const clock = (at: number): string => {
  const date = new Date(at);
  return `${two(date.getMonth() + 1)}-${two(date.getDate())} ${two(date.getHours())}:${two(date.getMinutes())}:${two(date.getSeconds())}.${two(date.getMilliseconds(), 3)}`;
};

/** `MM-DD hh:mm:ss.mmm` of this year, or seconds since the epoch. */
function timeOf(text: string): number {
  if (/^\d+\.\d+$/.test(text)) return Number(text) * 1000;
  const match = /^(?:(\d{4})-)?(\d\d)-(\d\d) (\d\d):(\d\d):(\d\d)\.(\d+)$/.exec(text);
  if (!match) return 0;
  const [, year, month, day, hour, minute, second, fraction] = match;
  return new Date(
    Number(year ?? new Date().getFullYear()),
    Number(month) - 1,
    Number(day),
    Number(hour),
    Number(minute),
    Number(second),
    Number(`0.${fraction}`) * 1000,
  ).getTime();
}

const FORMATS: Record<string, (line: LogLine) => string> = {
  brief: ({ message, pid, priority, tag }) =>
    `${priority}/${tag.padEnd(8)}(${two(pid, 5).replace(/^0+/, (zeros) => ' '.repeat(zeros.length))}): ${message}`,
  epoch: ({ at, message, pid, priority, tag }) =>
    `${(at / 1000).toFixed(3).padStart(19)} ${formatIds(pid)} ${priority} ${tag.padEnd(8)}: ${message}`,
  process: ({ message, pid, priority, tag }) => `${priority}(${pid}) ${message}  (${tag})`,
  raw: ({ message }) => message,
  tag: ({ message, priority, tag }) => `${priority}/${tag.padEnd(8)}: ${message}`,
  threadtime: ({ at, message, pid, priority, tag }) =>
    `${clock(at)} ${formatIds(pid)} ${priority} ${tag.padEnd(8)}: ${message}`,
  time: ({ at, message, pid, priority, tag }) =>
    `${clock(at)} ${priority}/${tag.padEnd(8)}(${String(pid).padStart(5)}): ${message}`,
};

const formatIds = (pid: number): string => `${String(pid).padStart(5)} ${String(pid).padStart(5)}`;
