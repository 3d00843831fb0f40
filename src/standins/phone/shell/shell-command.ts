import type { PhoneOs } from '../os/phone-os.ts';

/** One call of a command of the phone's shell. */
export interface Call {
  os: PhoneOs;
  /** Without the command's own name. */
  args: string[];
  input: AsyncIterable<Uint8Array>;
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
