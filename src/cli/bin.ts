#!/usr/bin/env node
import * as nodeModule from 'node:module';
import { exitCode } from './exit-code.ts';
import { ReaderGone, UsageError } from './io.ts';

// from Node.js 22.1 on: what is loaded from here on is compiled once
(nodeModule as { enableCompileCache?(): void }).enableCompileCache?.();

const stop = new AbortController();
// what is under way restores and clears up; a second signal does not wait
const SIGNALS = { SIGHUP: 1, SIGINT: 2, SIGTERM: 15 } as const;
let endedBy = 0;
for (const [name, number] of Object.entries(SIGNALS))
  process.on(name, () => {
    if (endedBy) process.exit(128 + number);
    endedBy = number;
    stop.abort(new Error('interrupted'));
  });
// a process that another of Fenlok started ends with it, however that one ended
if (process.channel) process.once('disconnect', () => stop.abort(new Error('interrupted')));
// a reader that went away (| head) is no error; without a terminal nobody reads
process.stdout.on('error', () => stop.abort(new ReaderGone()));
process.stderr.on('error', () => {});

/** Without waiting for Enter; Ctrl-C is a key as well then. */
function hearKeys(heard: (key: string) => void): () => void {
  const { stdin } = process;
  const hear = (bytes: Buffer) => {
    for (const key of bytes.toString('utf8')) heard(key);
  };
  stdin.setRawMode(true);
  stdin.on('data', hear);
  return () => {
    stdin.off('data', hear);
    stdin.setRawMode(false);
    stdin.pause();
  };
}

const { runProgram } = await import('./program.ts');
const code = await runProgram(process.argv.slice(2), {
  out: (text) => process.stdout.write(text),
  outPiece: (text) => new Promise((resolve) => process.stdout.write(text, () => resolve())),
  err: (text) => process.stderr.write(text),
  input: async (maxBytes) => {
    const pieces: Buffer[] = [];
    let sizeBytes = 0;
    for await (const piece of process.stdin as AsyncIterable<Buffer>) {
      sizeBytes += piece.length;
      if (sizeBytes > maxBytes) throw new UsageError(`standard input holds more than ${maxBytes} bytes`);
      pieces.push(piece);
    }
    return Buffer.concat(pieces);
  },
  keys: process.stdin.isTTY ? hearKeys : undefined,
  cwd: process.cwd(),
  env: process.env,
  outIsTerminal: process.stdout.isTTY ?? false,
  errIsTerminal: process.stderr.isTTY ?? false,
  // a terminal that nobody has sized says 0
  columns: Math.min(110, process.stdout.columns || 100),
  now: () => new Date(),
  signal: stop.signal,
});
process.exitCode = code === exitCode.interrupted && endedBy ? 128 + endedBy : code;
if (process.connected) process.disconnect();
