/** What the core asks of its surroundings, as Node gives it. */
import { constants, createHash, createPublicKey, verify } from 'node:crypto';
import { readSync } from 'node:fs';
import { open } from 'node:fs/promises';
import { promisify } from 'node:util';
import { crc32, createInflateRaw, inflateRaw, inflateRawSync } from 'node:zlib';
import type { ByteSource, Ports, SignatureCheck } from '../core/model/ports.ts';

const inflateAtOnce = promisify(inflateRaw) as (
  bytes: Uint8Array,
  options: { maxOutputLength: number },
) => Promise<Uint8Array>;

// What is small is done before another thread has begun; a package has thousands of such entries.
const AT_HAND_UP_TO_BYTES = 2 ** 16;
// What is larger is inflated into one array of its final size, and not joined from pieces, which takes twice the memory.
const PIECES_UP_TO_BYTES = 2 ** 20;

async function inflate(bytes: Uint8Array, maxBytes: number): Promise<Uint8Array> {
  if (bytes.length <= AT_HAND_UP_TO_BYTES && maxBytes <= PIECES_UP_TO_BYTES)
    return plain(inflateRawSync(bytes, { maxOutputLength: Math.max(1, maxBytes) }));
  if (maxBytes <= PIECES_UP_TO_BYTES)
    return plain(await inflateAtOnce(bytes, { maxOutputLength: Math.max(1, maxBytes) }));
  const whole = Buffer.allocUnsafeSlow(maxBytes);
  let length = 0;
  const stream = createInflateRaw({ chunkSize: 2 ** 18 });
  stream.end(bytes);
  for await (const piece of stream as AsyncIterable<Buffer>) {
    if (length + piece.length > maxBytes) throw new RangeError('it inflates to more than it may');
    length += piece.copy(whole, length);
  }
  return plain(whole.subarray(0, length));
}

/** A Buffer's `slice` shares its memory where that of a plain array copies, so none is handed out. */
const plain = (bytes: Uint8Array): Uint8Array =>
  new Uint8Array(bytes.buffer, bytes.byteOffset, bytes.byteLength);

export const nodePorts: Ports = {
  inflateRaw: inflate,
  crc32: (bytes) => crc32(bytes),
  digest: async (algorithm, bytes) => plain(createHash(algorithm).update(bytes).digest()),
  verifySignature: async (check) => verifySignature(check),
};

function verifySignature({ data, digest, padding, publicKey, signature }: SignatureCheck): boolean {
  try {
    const key = createPublicKey({ key: Buffer.from(publicKey), format: 'der', type: 'spki' });
    const options =
      padding === 'pss'
        ? { padding: constants.RSA_PKCS1_PSS_PADDING, saltLength: constants.RSA_PSS_SALTLEN_DIGEST }
        : padding === 'pkcs1'
          ? { padding: constants.RSA_PKCS1_PADDING }
          : {};
    return verify(digest, data, { key, ...options }, signature);
  } catch {
    // keys and signatures of the wrong form are refused with an exception
    return false;
  }
}

/** Lends a file as a source of bytes, and closes it whatever happens. */
export async function withFile<T>(
  path: string,
  use: (source: ByteSource) => Promise<T>,
  digestParts?: ByteSource['digestParts'],
): Promise<T> {
  const file = await open(path, 'r');
  try {
    const { size } = await file.stat();
    return await use({
      sizeBytes: size,
      read: async (offset, length) => {
        const bytes = Buffer.allocUnsafeSlow(length);
        const read =
          length <= AT_HAND_UP_TO_BYTES
            ? readSync(file.fd, bytes, 0, length, offset)
            : (await file.read(bytes, 0, length, offset)).bytesRead;
        return plain(bytes.subarray(0, read));
      },
      readInto: async (offset, into) => {
        await file.read(into, 0, into.length, offset);
      },
      digestParts,
    });
  } finally {
    await file.close();
  }
}
