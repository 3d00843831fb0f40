/** A program of the team that does on an iOS device what no UI test can: run without a shell, bounded in time, its output kept. */
import { spawn } from 'node:child_process';
import { OutOfReach } from '../out-of-reach.ts';

const TOOL_MS = 300_000;
/** So much of its end is kept. */
const KEPT_BYTES = 64 * 1024;
const SHOWN_LINES = 5;
const LEAVES_WITHIN_MS = 2_000;

interface ToolCall {
  /** What stands in braces in its arguments. */
  words: Readonly<Record<string, string | undefined>>;
  signal?: AbortSignal | undefined;
  timeoutMs?: number;
}

/** @param name as `fenlok.yaml` has it @returns the last line that it printed @throws OutOfReach where it fails, hangs, or is not there; AbortError */
export async function runTool(
  name: string,
  command: readonly string[],
  { signal, timeoutMs = TOOL_MS, words }: ToolCall,
): Promise<string> {
  signal?.throwIfAborted();
  const [program, ...args] = command.map((word) => filled(name, word, words));
  const child = spawn(program!, args, { stdio: ['ignore', 'pipe', 'pipe'], detached: true });
  const output = keepEnd();
  child.stdout.on('data', output.add);
  child.stderr.on('data', output.add);
  const end = (how: NodeJS.Signals) => {
    try {
      // with what it has started itself
      if (child.pid !== undefined) process.kill(-child.pid, how);
    } catch {
      // it has ended meanwhile
    }
  };
  let isLate = false;
  let harder: NodeJS.Timeout | undefined;
  const giveUp = () => {
    end('SIGTERM');
    harder ??= setTimeout(() => end('SIGKILL'), LEAVES_WITHIN_MS);
  };
  const timer = setTimeout(() => {
    isLate = true;
    giveUp();
  }, timeoutMs);
  signal?.addEventListener('abort', giveUp);
  try {
    const ended = await new Promise<string | number>((resolve, reject) => {
      child.once('error', (error: NodeJS.ErrnoException) =>
        reject(
          new OutOfReach('refused', `${name}: ${program} cannot be run (${error.code ?? error.message})`),
        ),
      );
      child.once('close', (code, by) => resolve(by ?? code ?? 1));
    });
    signal?.throwIfAborted();
    if (isLate)
      throw new OutOfReach('timeout', `${name} did not end within ${timeoutMs / 1000} s${output.said()}`);
    if (ended !== 0) throw new OutOfReach('refused', `${name} failed (${ended})${output.said()}`);
    return output.lastLine();
  } finally {
    clearTimeout(timer);
    clearTimeout(harder);
    signal?.removeEventListener('abort', giveUp);
  }
}

/** @throws OutOfReach for a word that nobody knows */
const filled = (name: string, argument: string, words: ToolCall['words']): string =>
  argument.replace(/\{(\w+)\}/g, (_, word: string) => {
    const value = words[word];
    if (value !== undefined) return value;
    const known = Object.keys(words).flatMap((one) => (words[one] === undefined ? [] : `{${one}}`));
    throw new OutOfReach('refused', `${name}: nobody knows {${word}}; there are ${known.join(', ')}`);
  });

function keepEnd() {
  let kept = Buffer.alloc(0);
  return {
    add: (piece: Buffer) => {
      kept = Buffer.concat([kept, piece]).subarray(-KEPT_BYTES);
    },
    lastLine: () => kept.toString('utf8').trim().split('\n').at(-1) ?? '',
    said: () => {
      const lines = kept.toString('utf8').trim().split('\n').slice(-SHOWN_LINES);
      return lines[0] ? `. It said at last:\n${lines.map((line) => `  ${line}`).join('\n')}` : '';
    },
  };
}
