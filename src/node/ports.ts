/** What the core asks of its surroundings, as Node gives it. */
import { createHash } from 'node:crypto';
import { open } from 'node:fs/promises';
import { promisify } from 'node:util';
import { inflateRaw } from 'node:zlib';
import type { ByteSource, Ports } from '../core/model/ports.ts';

const inflate = promisify(inflateRaw) as (
  bytes: Uint8Array,
  options: { maxOutputLength: number },
) => Promise<Uint8Array>;

export const nodePorts: Ports = {
  inflateRaw: (bytes, maxBytes) => inflate(bytes, { maxOutputLength: Math.max(1, maxBytes) }),
  sha256: async (bytes) => createHash('sha256').update(bytes).digest('hex'),
};

/** Lends a file as a source of bytes, and closes it whatever happens. */
export async function withFile<T>(path: string, use: (source: ByteSource) => Promise<T>): Promise<T> {
  const file = await open(path, 'r');
  try {
    const { size } = await file.stat();
    return await use({
      sizeBytes: size,
      read: async (offset, length) => {
        const bytes = new Uint8Array(length);
        const { bytesRead } = await file.read(bytes, 0, length, offset);
        return bytes.subarray(0, bytesRead);
      },
    });
  } finally {
    await file.close();
  }
}
