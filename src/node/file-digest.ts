import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { Worker } from 'node:worker_threads';

// Below this a thread costs more than it saves.
const THREAD_FROM_BYTES = 8 * 2 ** 20;

/** SHA-256 of a file, lower-case hex. A large one is hashed on a thread of its own, while the caller reads on. */
export async function fileDigest(path: string): Promise<string> {
  const { size } = await stat(path);
  if (size >= THREAD_FROM_BYTES) return onThread(path);
  const hash = createHash('sha256');
  await pipeline(createReadStream(path, { highWaterMark: 2 ** 20 }), hash);
  return hash.digest('hex');
}

const HASH_FILE = `
const { createHash } = require('node:crypto');
const { closeSync, openSync, readSync } = require('node:fs');
const { parentPort, workerData } = require('node:worker_threads');
const file = openSync(workerData, 'r');
const hash = createHash('sha256');
const piece = Buffer.allocUnsafe(2 ** 18);
for (let length; (length = readSync(file, piece)) > 0; ) hash.update(piece.subarray(0, length));
closeSync(file);
parentPort.postMessage(hash.digest('hex'));
`;

const onThread = (path: string): Promise<string> =>
  new Promise((resolve, reject) => {
    const worker = new Worker(HASH_FILE, { eval: true, workerData: path });
    worker.once('message', resolve);
    worker.once('error', reject);
  });
