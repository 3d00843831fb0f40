import { type ChildProcess, fork, spawn } from 'node:child_process';
import { join } from 'node:path';
import type { Io } from '../../src/cli/io.ts';
import { root } from './paths.ts';

export interface Run {
  code: number | null;
  out: string;
  err: string;
}

const environment = (env: Record<string, string>): Record<string, string> => ({
  ...(process.env as Record<string, string>),
  NODE_OPTIONS: '',
  FENLOK_NAME: '',
  ...env,
});

/** The built command, as a process of its own: its signals, its locks, what it starts. */
export function fenlokProcess(args: string[], cwd: string, env: Record<string, string> = {}): Promise<Run> {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [join(root, 'dist/bin/fenlok.js'), ...args], {
      cwd,
      env: environment(env),
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    let out = '';
    let err = '';
    // a piece may end within a character
    child.stdout.setEncoding('utf8');
    child.stderr.setEncoding('utf8');
    child.stdout.on('data', (chunk) => {
      out += chunk;
    });
    child.stderr.on('data', (chunk) => {
      err += chunk;
    });
    child.on('error', reject);
    child.on('close', (code) => resolve({ code, out, err }));
  });
}

let warm: ChildProcess | undefined;
let calls = 0;
const waiting = new Map<number, (run: Run) => void>();
afterAll(() => warm?.disconnect());

/** The built command, in a process that runs all calls of a suite. */
export function fenlok(args: string[], cwd: string, env: Record<string, string> = {}): Promise<Run> {
  if (!warm) {
    warm = fork(join(root, 'tests/support/warm-command.mjs'), { env: environment({}), execArgv: [] });
    warm.on('message', ({ id, ...run }: Run & { id: number }) => {
      waiting.get(id)!(run);
      waiting.delete(id);
    });
    warm.once('exit', (code, by) => {
      warm = undefined;
      for (const [, resolve] of waiting) resolve({ code, out: '', err: `the process ended: ${by ?? code}` });
    });
  }
  const id = calls++;
  warm.send({ id, args, cwd, env: environment(env) });
  return new Promise((resolve) => waiting.set(id, resolve));
}

/** Surroundings of a command that runs in this process, which is quicker where many are run. */
export function recordingIo(cwd: string, of: Partial<Io> = {}): Io & { said: { out: string; err: string } } {
  const said = { out: '', err: '' };
  return {
    said,
    out: (text) => {
      said.out += text;
    },
    outPiece: async (text) => {
      said.out += text;
    },
    err: (text) => {
      said.err += text;
    },
    input: async () => new Uint8Array(),
    cwd,
    env: {},
    outIsTerminal: false,
    errIsTerminal: false,
    columns: 100,
    now: () => new Date('2026-11-23T10:00:00Z'),
    signal: new AbortController().signal,
    ...of,
  };
}
