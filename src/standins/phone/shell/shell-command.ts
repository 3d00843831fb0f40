import type { PhoneOs } from '../os/phone-os.ts';
import type { ByteInput } from './byte-streams.ts';

/** One call of a command of the phone's shell. */
export interface Call {
  os: PhoneOs;
  /** Without the command's own name. */
  args: string[];
  input: ByteInput;
  /** The folder that it runs in. */
  cwd: string;
  environment: ReadonlyMap<string, string>;
  /** A path as the phone's files know it. */
  path(given: string): string;
  /** Another command, as `xargs` or `timeout` runs it. */
  run(words: readonly string[], input?: ByteInput, signal?: AbortSignal): Promise<number>;
  out(content: string | Uint8Array): void;
  err(text: string): void;
  /** Aborted when the other side hangs up. */
  signal: AbortSignal;
}

/** @returns the exit code */
export type ShellCommand = (call: Call) => number | Promise<number>;

export async function readAll(input: AsyncIterable<Uint8Array>, limitBytes: number): Promise<Uint8Array> {
  const pieces: Uint8Array[] = [];
  let length = 0;
  for await (const piece of input) {
    length += piece.length;
    if (length > limitBytes) throw new RangeError(`more than ${limitBytes} bytes`);
    pieces.push(piece);
  }
  const whole = new Uint8Array(length);
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}

/** Words that begin with a dash, and what stands beside them, told apart from the rest. */
export function splitOptions(
  args: readonly string[],
  withValue: readonly string[],
): { options: Map<string, string[]>; rest: string[] } {
  const options = new Map<string, string[]>();
  const rest: string[] = [];
  for (let i = 0; i < args.length; i++) {
    const arg = args[i]!;
    if (!/^-./.test(arg) || /^-\d/.test(arg)) rest.push(arg);
    else {
      const value = withValue.includes(arg) ? (args[++i] ?? '') : '';
      options.set(arg, [...(options.get(arg) ?? []), value]);
    }
  }
  return { options, rest };
}

export const lines = (...all: readonly string[]): string => all.map((line) => `${line}\n`).join('');

const INPUT_LIMIT_BYTES = 256 * 2 ** 20;
export const textOf = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);
/** Without what stands behind the last line's end. */
export const linesOf = (text: string): string[] => (text === '' ? [] : text.replace(/\n$/, '').split('\n'));

export interface NamedText {
  /** `-` is what comes in. */
  name: string;
  bytes: Uint8Array;
}

/** The files named, or what comes in; those that cannot be read are told. @returns undefined for each of these */
export async function contents(
  call: Call,
  tool: string,
  paths: readonly string[],
): Promise<(NamedText | undefined)[]> {
  const given = paths.length === 0 ? ['-'] : paths;
  const found: (NamedText | undefined)[] = [];
  for (const path of given) {
    if (path === '-') found.push({ name: '-', bytes: await readAll(call.input, INPUT_LIMIT_BYTES) });
    else {
      const read = fileAt(call, path);
      if (typeof read === 'string') call.err(`${tool}: ${path}: ${read}\n`);
      found.push(typeof read === 'string' ? undefined : { name: path, bytes: read });
    }
  }
  return found;
}

/** @returns its bytes, or why there are none */
export function fileAt({ os, path: resolve }: Call, path: string): Uint8Array | string {
  if (path === '/dev/null') return new Uint8Array();
  const plain = resolve(path);
  const proc = os.procFile(plain);
  if (proc !== undefined) return new TextEncoder().encode(proc);
  if (!os.files.mayRead(plain)) return 'Permission denied';
  const file = os.readFile(plain);
  return file?.bytes ?? (os.files.isFolder(plain) ? 'Is a directory' : 'No such file or directory');
}

/**
 * Letters behind dashes, one by one, and their values (POSIX.1-2017, *Utility Syntax Guidelines*). Long options end at their name.
 *
 * @param withValue letters that a value belongs to
 */
export function letters(
  args: readonly string[],
  withValue = '',
): { flags: Set<string>; values: Map<string, string>; rest: string[] } {
  const flags = new Set<string>();
  const values = new Map<string, string>();
  const rest: string[] = [];
  for (let i = 0; i < args.length; i++) {
    const arg = args[i]!;
    if (arg === '--') {
      rest.push(...args.slice(i + 1));
      break;
    }
    if (!/^-[^\d]/.test(arg)) rest.push(arg);
    else if (arg.startsWith('--')) flags.add(arg);
    else
      for (let at = 1; at < arg.length; at++) {
        const letter = arg[at]!;
        flags.add(letter);
        if (!withValue.includes(letter)) continue;
        values.set(letter, arg.slice(at + 1) || (args[++i] ?? ''));
        break;
      }
  }
  return { flags, values, rest };
}
