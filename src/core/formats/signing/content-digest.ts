/**
 * Digests over the contents of a signed APK (*APK Signature Scheme v2*, integrity-protected contents): the entries,
 * the central directory, and the end record with the directory's offset put back to where the signing block begins.
 *
 *     chunked:   H(0x5a · u32 count · H(0xa5 · u32 length · chunk) …), chunks of 1 MiB, begun anew at each section
 *     hash tree: SHA-256 over pages of 4096 bytes with a salt of eight zeros, level upon level; then the u64 size
 */
import { type ByteSource, bytesSource, type DigestAlgorithm, type Ports } from '../../model/ports.ts';
import { joinBytes } from './asn1.ts';

export type ContentDigestKind = 'chunked-sha256' | 'chunked-sha512' | 'hash-tree';
export type ContentDigests = (kind: ContentDigestKind) => Promise<Uint8Array>;

interface Contents {
  source: ByteSource;
  block: { offset: number };
  centralDirectoryOffset: number;
  endRecordOffset: number;
}

const CHUNK_BYTES = 2 ** 20;
const PAGE_BYTES = 4096;
// Chunks in hand at once: enough to keep hashing busy, little enough to bound memory.
const AT_ONCE = 4;

/** Each kind is computed once, however many signers ask for it. */
export function contentDigests(contents: Contents, ports: Ports): ContentDigests {
  const kept = new Map<ContentDigestKind, Promise<Uint8Array>>();
  return (kind) => {
    const digest = kept.get(kind) ?? compute(kind, contents, ports);
    kept.set(kind, digest);
    return digest;
  };
}

function compute(kind: ContentDigestKind, contents: Contents, ports: Ports): Promise<Uint8Array> {
  if (kind === 'hash-tree') return hashTree(contents, ports);
  return chunked(contents, kind === 'chunked-sha256' ? 'sha256' : 'sha512', ports);
}

async function chunked(contents: Contents, algorithm: DigestAlgorithm, ports: Ports): Promise<Uint8Array> {
  const digests: Uint8Array[] = [];
  const buffers = Array.from({ length: AT_ONCE }, () => new Uint8Array(5 + CHUNK_BYTES));
  let inHand: Promise<Uint8Array>[] = [];
  for (const section of await sections(contents))
    for (let at = 0; at < section.sizeBytes; at += CHUNK_BYTES) {
      const length = Math.min(CHUNK_BYTES, section.sizeBytes - at);
      const chunk = buffers[inHand.length]!.subarray(0, 5 + length);
      chunk[0] = 0xa5;
      putU32(chunk, 1, length);
      await section.readInto(at, chunk.subarray(5));
      inHand.push(ports.digest(algorithm, chunk));
      if (inHand.length < AT_ONCE) continue;
      digests.push(...(await Promise.all(inHand)));
      inHand = [];
    }
  digests.push(...(await Promise.all(inHand)));
  const head = new Uint8Array(5);
  head[0] = 0x5a;
  putU32(head, 1, digests.length);
  return ports.digest(algorithm, joinBytes([head, ...digests]));
}

type Section = Pick<ByteSource, 'sizeBytes' | 'readInto'>;

async function sections({
  source,
  block,
  centralDirectoryOffset,
  endRecordOffset,
}: Contents): Promise<[Section, Section, Section]> {
  const ofFile = (from: number, until: number): Section => ({
    sizeBytes: until - from,
    readInto: (offset, into) => source.readInto(from + offset, into),
  });
  const end = (await source.read(endRecordOffset, source.sizeBytes - endRecordOffset)).slice();
  putU32(end, 16, block.offset);
  return [ofFile(0, block.offset), ofFile(centralDirectoryOffset, endRecordOffset), bytesSource(end)];
}

/** The sections lie end to end here, without the signing block. */
async function hashTree(contents: Contents, ports: Ports): Promise<Uint8Array> {
  const parts = await sections(contents);
  const sizeBytes = parts.reduce((sum, part) => sum + part.sizeBytes, 0);
  const readAt = async (from: number, length: number): Promise<Uint8Array> => {
    const bytes = new Uint8Array(length);
    let start = 0;
    for (const part of parts) {
      const [low, high] = [Math.max(from, start), Math.min(from + length, start + part.sizeBytes)];
      if (low < high) await part.readInto(low - start, bytes.subarray(low - from, high - from));
      start += part.sizeBytes;
    }
    return bytes;
  };
  let level = await hashPages(sizeBytes, readAt, ports);
  while (level.length > PAGE_BYTES) {
    const below = level;
    level = await hashPages(below.length, async (at, length) => below.subarray(at, at + length), ports);
  }
  const root = await ports.digest('sha256', joinBytes([SALT, padded(level)]));
  const size = new Uint8Array(8);
  putU32(size, 0, sizeBytes % 2 ** 32);
  putU32(size, 4, Math.floor(sizeBytes / 2 ** 32));
  return joinBytes([root, size]);
}

const SALT = new Uint8Array(8);

async function hashPages(
  sizeBytes: number,
  readAt: (from: number, length: number) => Promise<Uint8Array>,
  ports: Ports,
): Promise<Uint8Array> {
  const digests: Uint8Array[] = [];
  for (let at = 0; at < sizeBytes; at += CHUNK_BYTES) {
    const chunk = await readAt(at, Math.min(CHUNK_BYTES, sizeBytes - at));
    for (let page = 0; page < chunk.length; page += PAGE_BYTES)
      digests.push(
        await ports.digest('sha256', joinBytes([SALT, padded(chunk.subarray(page, page + PAGE_BYTES))])),
      );
  }
  return joinBytes(digests);
}

function padded(bytes: Uint8Array): Uint8Array {
  if (bytes.length > 0 && bytes.length % PAGE_BYTES === 0) return bytes;
  const page = new Uint8Array(Math.max(1, Math.ceil(bytes.length / PAGE_BYTES)) * PAGE_BYTES);
  page.set(bytes);
  return page;
}

function putU32(bytes: Uint8Array, at: number, value: number): void {
  new DataView(bytes.buffer, bytes.byteOffset).setUint32(at, value, true);
}
