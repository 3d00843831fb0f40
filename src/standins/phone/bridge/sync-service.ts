/** `sync:`, the bridge's file service: stat, list, push, pull (SYNC.TXT beside protocol.txt). */
import type { PhoneOs } from '../os/phone-os.ts';
import type { BridgeStream } from './bridge-stream.ts';

const REGULAR_FILE = 0o100660;
const FOLDER = 0o040770;
const DATA_BYTES = 64 * 1024;
const FILE_LIMIT_BYTES = 2 ** 30;

export async function serveFiles(os: PhoneOs, stream: BridgeStream): Promise<void> {
  const reader = new ByteReader(stream.input());
  for (;;) {
    const head = await reader.take(8);
    if (!head) break;
    const id = head.toString('latin1', 0, 4);
    const length = head.readUInt32LE(4);
    if (id === 'QUIT') break;
    if (length > 4096) return refuse(stream, 'path too long');
    const path = (await reader.take(length))?.toString('utf8');
    if (path === undefined) break;
    if (id === 'STAT') stat(os, stream, path);
    else if (id === 'LIST') list(os, stream, path);
    else if (id === 'RECV') send(os, stream, path);
    else if (id === 'SEND') await receive(os, stream, path, reader);
    else return refuse(stream, `unknown request ${JSON.stringify(id)}`);
  }
  await stream.end();
}

async function refuse(stream: BridgeStream, why: string): Promise<void> {
  fail(stream, why);
  await stream.end();
}

const fail = (stream: BridgeStream, why: string): void =>
  stream.write(Buffer.concat([headOf('FAIL', Buffer.byteLength(why)), Buffer.from(why)]));

function headOf(id: string, ...words: number[]): Buffer {
  const bytes = Buffer.allocUnsafe(4 + 4 * words.length);
  bytes.write(id, 'latin1');
  words.forEach((word, i) => {
    bytes.writeUInt32LE(word >>> 0, 4 + 4 * i);
  });
  return bytes;
}

function stat(os: PhoneOs, stream: BridgeStream, path: string): void {
  const file = os.files.mayRead(path) ? os.readFile(path) : undefined;
  const mode = file ? REGULAR_FILE : os.files.isFolder(path) ? FOLDER : 0;
  stream.write(headOf('STAT', mode, file?.bytes.length ?? 0, Math.floor((file?.at ?? 0) / 1000)));
}

function list(os: PhoneOs, stream: BridgeStream, path: string): void {
  const folder = path.replace(/\/*$/, '/');
  for (const name of os.files.mayRead(path) ? ['.', '..', ...(os.files.list(path) ?? [])] : []) {
    const file = os.files.get(folder + name);
    const short = Buffer.from(name);
    const head = file
      ? headOf('DENT', REGULAR_FILE, file.bytes.length, Math.floor(file.at / 1000), short.length)
      : headOf('DENT', FOLDER, 0, Math.floor(os.files.folderAt(folder + name) / 1000), short.length);
    stream.write(Buffer.concat([head, short]));
  }
  stream.write(headOf('DONE', 0, 0, 0, 0));
}

function send(os: PhoneOs, stream: BridgeStream, path: string): void {
  const file = os.files.mayRead(path) ? os.readFile(path) : undefined;
  if (!file) {
    const why = os.files.mayRead(path) ? 'No such file or directory' : 'Permission denied';
    fail(stream, `open failed: ${why}`);
    return;
  }
  for (let at = 0; at < file.bytes.length; at += DATA_BYTES) {
    const piece = file.bytes.subarray(at, at + DATA_BYTES);
    stream.write(Buffer.concat([headOf('DATA', piece.length), piece]));
  }
  stream.write(headOf('DONE', 0));
}

/** `path,mode`, then pieces, then the time of the file. It is there once it is whole. */
async function receive(os: PhoneOs, stream: BridgeStream, target: string, reader: ByteReader): Promise<void> {
  const path = target.replace(/,\d+$/, '');
  const pieces: Buffer[] = [];
  let sizeBytes = 0;
  for (;;) {
    const head = await reader.take(8);
    if (!head) return;
    const id = head.toString('latin1', 0, 4);
    const value = head.readUInt32LE(4);
    if (id === 'DONE') break;
    sizeBytes += value;
    if (id !== 'DATA' || value > DATA_BYTES || sizeBytes > FILE_LIMIT_BYTES)
      return fail(stream, id === 'DATA' ? 'file too large' : `unexpected ${JSON.stringify(id)}`);
    const piece = await reader.take(value);
    if (!piece) return;
    pieces.push(piece);
  }
  const at = Date.now();
  const mode = Number(/,(\d+)$/.exec(target)?.[1] ?? 0) & 0o777;
  const trouble = os.files.write(path, Buffer.concat(pieces), { at, mode, makesFolders: true });
  if (trouble) return fail(stream, `couldn't create file: ${trouble}`);
  stream.write(headOf('OKAY', 0));
}

/** Takes exact numbers of bytes from pieces of any size. */
class ByteReader {
  readonly #pieces: AsyncGenerator<Uint8Array>;
  #pending: Buffer = Buffer.alloc(0);

  constructor(pieces: AsyncGenerator<Uint8Array>) {
    this.#pieces = pieces;
  }

  /** @returns undefined where the stream ends before */
  async take(count: number): Promise<Buffer | undefined> {
    const parts = [this.#pending];
    let length = this.#pending.length;
    while (length < count) {
      const next = await this.#pieces.next();
      if (next.done) return undefined;
      parts.push(Buffer.from(next.value));
      length += next.value.length;
    }
    const all = parts.length === 1 ? parts[0]! : Buffer.concat(parts);
    this.#pending = all.subarray(count);
    return all.subarray(0, count);
  }
}
