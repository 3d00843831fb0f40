#!/usr/bin/env node
import { UsageError } from './io.ts';
import { runProgram } from './program.ts';

const stop = new AbortController();
process.once('SIGINT', () => {
  stop.abort(new Error('interrupted'));
  // a second Ctrl-C does not wait
  process.once('SIGINT', () => process.exit(130));
});
// a reader that went away (| head) is no error
process.stdout.on('error', (error: NodeJS.ErrnoException) => process.exit(error.code === 'EPIPE' ? 0 : 1));

process.exitCode = await runProgram(process.argv.slice(2), {
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
  cwd: process.cwd(),
  env: process.env,
  outIsTerminal: process.stdout.isTTY ?? false,
  errIsTerminal: process.stderr.isTTY ?? false,
  columns: Math.min(110, process.stdout.columns ?? 100),
  now: () => new Date(),
  signal: stop.signal,
});
