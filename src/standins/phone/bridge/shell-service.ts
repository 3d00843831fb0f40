/** `shell:`, `exec:` and `shell,v2:`: a line of the shell over one stream. */
import type { PhoneOs } from '../os/phone-os.ts';
import { runScript } from '../shell/run-line.ts';
import type { BridgeStream } from './bridge-stream.ts';

/** Output and errors come mixed, and nothing tells the exit code. A terminal of old makes CR LF of each line's end. */
export async function runPlain(
  os: PhoneOs,
  line: string,
  stream: BridgeStream,
  isOldTerminal = false,
): Promise<void> {
  const write = (bytes: Uint8Array) =>
    stream.write(
      isOldTerminal
        ? Buffer.from(Buffer.from(bytes).toString('latin1').replaceAll('\n', '\r\n'), 'latin1')
        : bytes,
    );
  await runScript(os, line, {
    input: stream.input(),
    out: write,
    err: write,
    signal: stream.signal,
  });
  await stream.end();
}

// ids of the pieces of the second shell protocol (shell_protocol.h)
const PIECE = { stdin: 0, stdout: 1, stderr: 2, exit: 3, closeStdin: 4 } as const;
const PIECE_HEADER_BYTES = 5;

/** Each piece has what it belongs to; the last one is the exit code. */
export async function runFramed(os: PhoneOs, line: string, stream: BridgeStream): Promise<void> {
  const send = (id: number, bytes: Uint8Array) => {
    const piece = Buffer.allocUnsafe(PIECE_HEADER_BYTES + bytes.length);
    piece.writeUInt8(id, 0);
    piece.writeUInt32LE(bytes.length, 1);
    piece.set(bytes, PIECE_HEADER_BYTES);
    stream.write(piece);
  };
  const code = await runScript(os, line, {
    input: unframe(stream.input()),
    out: (bytes) => send(PIECE.stdout, bytes),
    err: (bytes) => send(PIECE.stderr, bytes),
    signal: stream.signal,
  });
  send(PIECE.exit, Uint8Array.of(code & 0xff));
  await stream.end();
}

async function* unframe(input: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  let pending: Buffer = Buffer.alloc(0);
  for await (const bytes of input) {
    pending = Buffer.concat([pending, bytes]);
    while (pending.length >= PIECE_HEADER_BYTES) {
      const end = PIECE_HEADER_BYTES + pending.readUInt32LE(1);
      if (pending.length < end) break;
      const id = pending.readUInt8(0);
      if (id === PIECE.stdin) yield pending.subarray(PIECE_HEADER_BYTES, end);
      pending = pending.subarray(end);
      if (id === PIECE.closeStdin) return;
    }
  }
}
