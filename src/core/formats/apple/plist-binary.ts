/**
 * Binary property lists (Apple, CoreFoundation `CFBinaryPList.c`).
 *
 *     "bplist00" · objects · offset of each object · trailer(32)
 *     trailer: 6 unused · u8 offset size · u8 reference size · u64 objects · u64 top object · u64 offset table
 *     object:  one byte of type and length; a length of 15 stands in an integer that follows
 */
import type { PlistDict, PlistValue } from '../../model/app-package.ts';
import { UnreadableError } from '../../model/problem.ts';
import { toBase64 } from '../base64.ts';
import { ByteReader } from '../byte-reader.ts';

const MAX_DEPTH = 128;
/** Objects that are shared are read again at each place; lists that share lists could grow without end. */
const MAX_VALUES = 1_000_000;
const MAX_BYTES_GIVEN_OUT = 32 * 2 ** 20;
/** Seconds from 1970 to 2001, from which dates are counted. */
const EPOCH_S = 978_307_200;

export function parseBinaryPlist(bytes: Uint8Array, name: string): PlistValue {
  if (bytes.length < 40) throw damaged(name, `${bytes.length} bytes`);
  const reader = new ByteReader(bytes, name, 'big-endian');
  const trailer = bytes.length - 32;
  const [offsetBytes, referenceBytes] = [reader.u8(trailer + 6), reader.u8(trailer + 7)];
  const [count, top, table] = [reader.u64(trailer + 8), reader.u64(trailer + 16), reader.u64(trailer + 24)];
  reader.slice(table, count * offsetBytes);
  const of: Reading = {
    reader,
    name,
    offsetBytes,
    referenceBytes,
    count,
    table,
    open: new Set(),
    left: MAX_VALUES,
    bytesLeft: MAX_BYTES_GIVEN_OUT,
  };
  return readObject(of, top);
}

interface Reading {
  reader: ByteReader;
  name: string;
  offsetBytes: number;
  referenceBytes: number;
  count: number;
  table: number;
  /** Objects that are being read: one that is met again holds itself. */
  open: Set<number>;
  left: number;
  bytesLeft: number;
}

function readObject(of: Reading, index: number): PlistValue {
  const { name, open, reader } = of;
  if (index >= of.count) throw damaged(name, `object ${index} of ${of.count}`);
  if (open.has(index)) throw damaged(name, `object ${index}, which holds itself`);
  if (open.size >= MAX_DEPTH) throw damaged(name, `objects nested ${open.size} deep`);
  of.left -= 1;
  if (of.left < 0) throw damaged(name, `more than ${MAX_VALUES} values`);
  const at = unsigned(reader, of.table + index * of.offsetBytes, of.offsetBytes);
  const marker = reader.u8(at);
  const kind = marker >> 4;
  const low = marker & 0xf;
  switch (kind) {
    case 0x0:
      return low === 9;
    case 0x1:
      return readInteger(reader, at + 1, 2 ** low);
    case 0x2:
      return low === 2 ? reader.f32(at + 1) : reader.f64(at + 1);
    case 0x3:
      return formatDate(reader.f64(at + 1));
    case 0x8: // a reference of an archiver
      return unsigned(reader, at + 1, low + 1);
  }
  const [length, from] = low === 0xf ? longLength(reader, at + 1) : [low, at + 1];
  of.bytesLeft -= length;
  if (of.bytesLeft < 0) throw damaged(name, `more than ${MAX_BYTES_GIVEN_OUT} bytes of values`);
  switch (kind) {
    case 0x4:
      return toBase64(reader.slice(from, length));
    case 0x5:
    case 0x7:
      return new TextDecoder().decode(reader.slice(from, length));
    case 0x6:
      return new TextDecoder('utf-16be').decode(reader.slice(from, 2 * length));
    case 0xa:
    case 0xb:
    case 0xc:
      return inside(of, index, () => references(of, from, length).map((item) => readObject(of, item)));
    case 0xd:
      return inside(of, index, () => readDict(of, from, length));
    default:
      throw damaged(name, `an object of type ${kind} at byte ${at}`);
  }
}

function inside<T>({ open }: Reading, index: number, read: () => T): T {
  open.add(index);
  const value = read();
  open.delete(index);
  return value;
}

function references({ reader, referenceBytes }: Reading, from: number, length: number): number[] {
  reader.slice(from, length * referenceBytes);
  return Array.from({ length }, (_, i) => unsigned(reader, from + i * referenceBytes, referenceBytes));
}

function readDict(of: Reading, from: number, length: number): PlistDict {
  const keys = references(of, from, length);
  const values = references(of, from + length * of.referenceBytes, length);
  const pairs = keys.map((key, i): [string, PlistValue] => [
    String(readObject(of, key)),
    readObject(of, values[i]!),
  ]);
  return Object.fromEntries(pairs);
}

function longLength(reader: ByteReader, at: number): [length: number, from: number] {
  const bytes = 2 ** (reader.u8(at) & 0xf);
  return [unsigned(reader, at + 1, bytes), at + 1 + bytes];
}

function unsigned(reader: ByteReader, at: number, bytes: number): number {
  if (bytes === 8) return reader.u64(at);
  let value = 0;
  for (const byte of reader.slice(at, bytes)) value = value * 256 + byte;
  return value;
}

/** Integers of eight bytes are signed, shorter ones are not; of sixteen the lower half counts. */
function readInteger(reader: ByteReader, at: number, bytes: number): number {
  if (bytes === 8) return Number(reader.i64(at));
  if (bytes === 16) return Number(reader.i64(at + 8));
  return unsigned(reader, at, bytes);
}

function formatDate(seconds: number): string {
  const date = new Date((seconds + EPOCH_S) * 1000);
  return Number.isNaN(date.getTime()) ? '' : date.toISOString();
}

const damaged = (name: string, found: string) =>
  new UnreadableError({
    code: 'plist.damaged',
    place: name,
    found: `a binary property list with ${found}`,
    remedy: 'The file is cut off or damaged: build the package again.',
  });
