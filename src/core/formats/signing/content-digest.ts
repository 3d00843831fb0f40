/**
 * Digests over the contents of a signed APK (*APK Signature Scheme v2*, integrity-protected contents): the entries,
 * the central directory, and the end record with the directory's offset reset to where the signing block begins.
 *
 *     chunked:   H(0x5a · u32 count · H(0xa5 · u32 length · chunk) …), chunks of 1 MiB, begun again at each section
 *     hash tree: SHA-256 over pages of 4096 bytes with a salt of eight zeros, level upon level; then the u64 size
 */
import {
  type ByteSource,
  bytesSource,
  type DigestAlgorithm,
  type Ports,
  type SourcePart,
} from '../../model/ports.ts';
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
  const { block, centralDirectoryOffset, endRecordOffset, source } = contents;
  const parts = [...chunksOf(0, block.offset), ...chunksOf(centralDirectoryOffset, endRecordOffset)];
  const end = await endRecord(contents);
  const digests = [
    ...(source.digestParts
      ? await source.digestParts(algorithm, parts)
      : await digestOneByOne(source, algorithm, parts, ports)),
    await ports.digest(algorithm, joinBytes([chunkHead(end.length), end])),
  ];
  return ports.digest(algorithm, joinBytes([head(0x5a, digests.length), ...digests]));
}

function chunksOf(from: number, until: number): SourcePart[] {
  const parts: SourcePart[] = [];
  for (let offset = from; offset < until; offset += CHUNK_BYTES) {
    const length = Math.min(CHUNK_BYTES, until - offset);
    parts.push({ offset, length, before: chunkHead(length) });
  }
  return parts;
}

const chunkHead = (length: number): Uint8Array => head(0xa5, length);

function head(mark: number, number: number): Uint8Array {
  const bytes = new Uint8Array(5);
  bytes[0] = mark;
  putU32(bytes, 1, number);
  return bytes;
}

async function digestOneByOne(
  source: ByteSource,
  algorithm: DigestAlgorithm,
  parts: readonly SourcePart[],
  ports: Ports,
): Promise<Uint8Array[]> {
  const digests: Uint8Array[] = [];
  for (const { before, length, offset } of parts)
    digests.push(await ports.digest(algorithm, joinBytes([before, await source.read(offset, length)])));
  return digests;
}

async function endRecord({ block, endRecordOffset, source }: Contents): Promise<Uint8Array> {
  const end = new Uint8Array(source.sizeBytes - endRecordOffset);
  await source.readInto(endRecordOffset, end);
  putU32(end, 16, block.offset);
  return end;
}

type Section = Pick<ByteSource, 'sizeBytes' | 'readInto'>;

async function sections(contents: Contents): Promise<[Section, Section, Section]> {
  const { block, centralDirectoryOffset, endRecordOffset, source } = contents;
  const ofFile = (from: number, until: number): Section => ({
    sizeBytes: until - from,
    readInto: (offset, into) => source.readInto(from + offset, into),
  });
  return [
    ofFile(0, block.offset),
    ofFile(centralDirectoryOffset, endRecordOffset),
    bytesSource(await endRecord(contents)),
  ];
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
