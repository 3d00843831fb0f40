/**
 * `resources.arsc` (AOSP `ResourceTypes.h`, `ResTable_*`).
 *
 *     table ─ global string pool
 *           └ package ─ type names · key names
 *                     └ for each type: spec, then one *type* chunk a configuration:
 *                         header · config · offsets (32 bits, 16 bits, or sparse pairs) · entries
 *     entry: u16 size · u16 flags · u32 key · value   or, complex:  … u32 parent · u32 count · (u32 name · value) × count
 */
import { UnreadableError } from '../../model/problem.ts';
import { ByteReader } from '../byte-reader.ts';
import { chunkSize } from './binary-xml.ts';
import { type ResValue, readResValue, resValueOf } from './res-value.ts';
import { type ResourceConfig, readResourceConfig } from './resource-config.ts';
import { readStringPool, type Span, STRING_POOL_CHUNK, type StringPool } from './string-pool.ts';

export interface BagItem {
  /** Resource id of an attribute, or a key of the platform's own such as plural categories. */
  name: number;
  value: ResValue;
}

export type ResourceContent =
  | { kind: 'value'; value: ResValue; spans: Span[] }
  | { kind: 'bag'; parent: number; items: BagItem[] };

export interface ResourceVariant {
  config: ResourceConfig;
  content: ResourceContent;
}

export interface Resource {
  id: number;
  type: string;
  name: string;
  variants: ResourceVariant[];
}

export interface ResourceTable {
  packageName: string;
  resources: ReadonlyMap<number, Resource>;
  /** By `type/name`. */
  find(type: string, name: string): Resource | undefined;
}

const TABLE_CHUNK = 0x0002;
const PACKAGE_CHUNK = 0x0200;
const TYPE_CHUNK = 0x0201;
const NO_ENTRY = 0xffffffff;
const SPARSE = 0x01;
const OFFSETS_16 = 0x02;
const ENTRY_COMPLEX = 0x0001;
const ENTRY_COMPACT = 0x0008;

export function readResourceTable(bytes: Uint8Array): ResourceTable {
  const name = 'resources.arsc';
  const reader = new ByteReader(bytes, name);
  if (bytes.length < 12 || reader.u16(0) !== TABLE_CHUNK)
    throw new UnreadableError({
      code: 'resources.none',
      place: name,
      found: 'something that is not a resource table',
    });
  const resources = new Map<number, Resource>();
  let packageName = '';
  let values: StringPool | undefined;
  for (let at = reader.u16(2); at + 8 <= bytes.length; at += chunkSize(reader, at, name)) {
    if (reader.u16(at) === STRING_POOL_CHUNK) values = readStringPool(reader, at);
    else if (reader.u16(at) === PACKAGE_CHUNK && values)
      packageName ||= readPackage(reader, at, values, resources);
  }
  const byName = new Map(
    [...resources.values()].map((resource) => [`${resource.type}/${resource.name}`, resource]),
  );
  return { packageName, resources, find: (type, key) => byName.get(`${type}/${key}`) };
}

function readPackage(
  reader: ByteReader,
  at: number,
  values: StringPool,
  resources: Map<number, Resource>,
): string {
  const packageId = reader.u32(at + 8);
  const name = new TextDecoder('utf-16le').decode(reader.slice(at + 12, 256)).replace(/\0.*$/s, '');
  const typeNames = readStringPool(reader, at + reader.u32(at + 268));
  const keyNames = readStringPool(reader, at + reader.u32(at + 276));
  const end = at + chunkSize(reader, at, name);
  for (let chunk = at + reader.u16(at + 2); chunk + 8 <= end; chunk += chunkSize(reader, chunk, name))
    if (reader.u16(chunk) === TYPE_CHUNK)
      readType(reader, chunk, { packageId, typeNames, keyNames, values, resources });
  return name;
}

interface Package {
  packageId: number;
  typeNames: StringPool;
  keyNames: StringPool;
  values: StringPool;
  resources: Map<number, Resource>;
}

function readType(reader: ByteReader, at: number, of: Package): void {
  const typeId = reader.u8(at + 8);
  const config = readResourceConfig(reader, at + 20);
  const entriesAt = at + reader.u32(at + 16);
  const type = of.typeNames.string(typeId - 1);
  for (const [index, offset] of entryOffsets(reader, at)) {
    const entry = readEntry(reader, entriesAt + offset, of);
    const id = ((of.packageId << 24) | (typeId << 16) | index) >>> 0;
    let resource = of.resources.get(id);
    if (!resource) {
      resource = { id, type, name: entry.key, variants: [] };
      of.resources.set(id, resource);
    }
    resource.variants.push({ config, content: entry.content });
  }
}

function* entryOffsets(reader: ByteReader, at: number): Generator<[index: number, offset: number]> {
  const flags = reader.u8(at + 9);
  const count = reader.u32(at + 12);
  const offsetsAt = at + reader.u16(at + 2);
  for (let i = 0; i < count; i++) {
    if (flags & SPARSE) yield [reader.u16(offsetsAt + 4 * i), reader.u16(offsetsAt + 4 * i + 2) * 4];
    else if (flags & OFFSETS_16) {
      const offset = reader.u16(offsetsAt + 2 * i);
      if (offset !== 0xffff) yield [i, offset * 4];
    } else {
      const offset = reader.u32(offsetsAt + 4 * i);
      if (offset !== NO_ENTRY) yield [i, offset];
    }
  }
}

function readEntry(reader: ByteReader, at: number, of: Package): { key: string; content: ResourceContent } {
  const flags = reader.u16(at + 2);
  if (flags & ENTRY_COMPACT) {
    // the key stands in the place of the size, the value's type in the flags' upper byte
    const value = resValueOf(flags >> 8, reader.u32(at + 4), reader, at + 4, of.values);
    return {
      key: of.keyNames.string(reader.u16(at)),
      content: { kind: 'value', value, spans: spansOf(value, of.values) },
    };
  }
  const key = of.keyNames.string(reader.u32(at + 4));
  if (!(flags & ENTRY_COMPLEX)) {
    const value = readResValue(reader, at + reader.u16(at), of.values);
    return { key, content: { kind: 'value', value, spans: spansOf(value, of.values) } };
  }
  const itemsAt = at + reader.u16(at);
  const items = Array.from({ length: reader.u32(at + 12) }, (_, i) => ({
    name: reader.u32(itemsAt + 12 * i),
    value: readResValue(reader, itemsAt + 12 * i + 4, of.values),
  }));
  return { key, content: { kind: 'bag', parent: reader.u32(at + 8), items } };
}

const spansOf = (value: ResValue, pool: StringPool): Span[] =>
  value.kind === 'string' ? pool.spans(value.pool) : [];
