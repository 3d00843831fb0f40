import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { Worker } from 'node:worker_threads';
import type { ByteSource } from '../core/model/ports.ts';

// Below this a thread costs more than it saves.
const THREAD_FROM_BYTES = 8 * 2 ** 20;

/** Hashes one file, a large one on a thread of its own, so that reading goes on meanwhile. */
interface FileHasher {
  /** SHA-256 of the whole file, lower-case hex; begun at once. */
  digest: Promise<string>;
  /** Only where there is a thread: elsewhere the caller's own way is as good. */
  digestParts?: ByteSource['digestParts'];
  close(): void;
}

export async function openFileHasher(path: string): Promise<FileHasher> {
  const { size } = await stat(path);
  return size < THREAD_FROM_BYTES ? { digest: fileDigest(path), close: () => {} } : onThread(path);
}

/** SHA-256 of a file, lower-case hex. */
export async function fileDigest(path: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path, { highWaterMark: 2 ** 20 }), hash);
  return hash.digest('hex');
}

const THREAD = `
const { createHash } = require('node:crypto');
const { openSync, readSync } = require('node:fs');
const { parentPort, workerData } = require('node:worker_threads');
const file = openSync(workerData, 'r');
const piece = Buffer.allocUnsafe(2 ** 18);
function update(hash, offset, length) {
  for (let done = 0; done < length; ) {
    const got = readSync(file, piece, 0, Math.min(piece.length, length - done), offset + done);
    if (got === 0) break;
    hash.update(piece.subarray(0, got));
    done += got;
  }
  return hash.digest();
}
parentPort.on('message', ({ algorithm, id, parts }) => {
  const digests = parts.map(({ before, length, offset }) =>
    new Uint8Array(update(createHash(algorithm).update(before), offset, length)));
  parentPort.postMessage({ id, digests });
});
`;

function onThread(path: string): FileHasher {
  const worker = new Worker(THREAD, { eval: true, workerData: path });
  const waiting = new Map<number, { resolve(digests: Uint8Array[]): void; reject(error: unknown): void }>();
  worker.on('message', ({ digests, id }: { digests: Uint8Array[]; id: number }) =>
    waiting.get(id)!.resolve(digests),
  );
  worker.on('error', (error) => {
    for (const { reject } of waiting.values()) reject(error);
  });
  const digestParts: FileHasher['digestParts'] = (algorithm, parts) =>
    new Promise((resolve, reject) => {
      const id = waiting.size;
      waiting.set(id, { resolve, reject });
      worker.postMessage({ id, algorithm, parts });
    });
  const whole = { before: new Uint8Array(), offset: 0, length: Number.MAX_SAFE_INTEGER };
  const digest = digestParts('sha256', [whole]).then(([bytes]) => Buffer.from(bytes!).toString('hex'));
  return { digest, digestParts, close: () => void worker.terminate() };
}
