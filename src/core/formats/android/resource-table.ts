/**
 * `resources.arsc` (AOSP `ResourceTypes.h`, `ResTable_*`).
 *
 *     table ─ global string pool
 *           └ package ─ type names · key names
 *                     ├ for each type: spec, then one *type* chunk a configuration:
 *                     │   header · config · offsets (32 bits, 16 bits, or sparse pairs) · entries
 *                     └ libraries · overlayables with their policies · aliases of staged ids
 *     entry: u16 size · u16 flags · u32 key · value   or, complex:  … u32 parent · u32 count · (u32 name · value) × count
 *            compact: u16 key · u16 flags and type · u32 data
 *
 * The table is indexed, not decoded: a value is read when it is asked for, since big tables hold 10^5 of them.
 */
import { UnreadableError } from '../../model/problem.ts';
import type { ResourceConfig } from '../../platform/android/resource-config.ts';
import { ByteReader } from '../byte-reader.ts';
import { chunkSize } from './binary-xml.ts';
import { ConfigList } from './config-list.ts';
import { readResourceConfig } from './read-config.ts';
import { type ResValue, readResValue, resValueOf } from './res-value.ts';
import { readStringPool, STRING_POOL_CHUNK, type StringPool } from './string-pool.ts';

export interface BagItem {
  /** Resource id of an attribute, or a key of the platform's own such as plural categories. */
  name: number;
  value: ResValue;
}

export type ResourceContent =
  | { kind: 'value'; value: ResValue }
  | { kind: 'bag'; parent: number; items: BagItem[] };

export interface ResourceVariant {
  config: ResourceConfig;
  content: ResourceContent;
}

export interface Resource {
  readonly id: number;
  readonly type: string;
  readonly name: string;
  readonly isPublic: boolean;
  /** In the packer's order; resources that come in the same ones may share the array. */
  configs(): readonly ResourceConfig[];
  /** In the same order; decoded again at each call. */
  variants(): ResourceVariant[];
}

interface Overlayable {
  name: string;
  actor: string;
  resources: number[];
}

export interface ResourceTable {
  packageName: string;
  resources: ReadonlyMap<number, Resource>;
  /** Ids of shared libraries that the table refers to, by name. */
  libraries: { id: number; name: string }[];
  overlayables: Overlayable[];
  /** Ids that were handed out before a platform release, and those that they became. */
  stagedAliases: { stagedId: number; finalId: number }[];
  /** By `type/name`. */
  find(type: string, name: string): Resource | undefined;
}

const TABLE_CHUNK = 0x0002;
const PACKAGE_CHUNK = 0x0200;
const TYPE_CHUNK = 0x0201;
const LIBRARY_CHUNK = 0x0203;
const OVERLAYABLE_CHUNK = 0x0204;
const OVERLAYABLE_POLICY_CHUNK = 0x0205;
const STAGED_ALIAS_CHUNK = 0x0206;
const NO_ENTRY = 0xffffffff;
const SPARSE = 0x01;
const OFFSETS_16 = 0x02;
const ENTRY_COMPLEX = 0x0001;
const ENTRY_PUBLIC = 0x0002;
const ENTRY_COMPACT = 0x0008;

// The largest tables hold some 10^5 resources and a million values; entries may overlap, and then claim any number.
const MAX_NAME_CHARACTERS = 32 * 2 ** 20;
const MAX_RESOURCES = 500_000;
const MAX_VALUES = 4_000_000;
const MAX_TYPE_CHUNKS = 65_536;

export function readResourceTable(bytes: Uint8Array, name = 'resources.arsc'): ResourceTable {
  const reader = new ByteReader(bytes, name);
  if (bytes.length < 12 || reader.u16(0) !== TABLE_CHUNK)
    throw new UnreadableError({
      code: 'resources.none',
      place: name,
      found: 'something that is not a resource table',
    });
  const found: Found = {
    packageName: '',
    resources: new Map(),
    libraries: [],
    overlayables: [],
    stagedAliases: [],
    noConfigs: new ConfigList(),
    typeChunks: 0,
    valuesLeft: MAX_VALUES,
    // an item takes twelve bytes, unless bags overlap
    itemsLeft: bytes.length / 12,
  };
  let values: StringPool | undefined;
  for (const at of chunks(reader, reader.u16(2), bytes.length))
    if (reader.u16(at) === STRING_POOL_CHUNK) values ??= readStringPool(reader, at);
    else if (reader.u16(at) === PACKAGE_CHUNK && values) readPackage(reader, at, values, found);
  const { libraries, overlayables, packageName, resources, stagedAliases } = found;
  return { packageName, resources, libraries, overlayables, stagedAliases, find: finder(resources) };
}

/** Looks up by `type/name`; the index is made at the first call. */
export function finder(resources: ReadonlyMap<number, Resource>): ResourceTable['find'] {
  let byName: Map<string, Resource> | undefined;
  return (type, name) => {
    byName ??= new Map(
      [...resources.values()].map((resource) => [`${resource.type}/${resource.name}`, resource]),
    );
    return byName.get(`${type}/${name}`);
  };
}

interface Found extends Omit<ResourceTable, 'find' | 'resources'> {
  resources: Map<number, PackedResource>;
  noConfigs: ConfigList;
  typeChunks: number;
  valuesLeft: number;
  itemsLeft: number;
}

function* chunks(reader: ByteReader, from: number, end: number): Generator<number> {
  for (let at = from; at + 8 <= end; at += chunkSize(reader, at, reader.what)) yield at;
}

function readPackage(reader: ByteReader, at: number, values: StringPool, found: Found): void {
  const headerBytes = reader.u16(at + 2);
  const of: Package = {
    reader,
    values,
    id: reader.u32(at + 8),
    typeNames: readStringPool(reader, at + reader.u32(at + 268), MAX_NAME_CHARACTERS),
    // feature splits may begin to count their types higher
    typeIdOffset: headerBytes >= 288 ? reader.u32(at + 284) : 0,
    keyNames: readStringPool(reader, at + reader.u32(at + 276), MAX_NAME_CHARACTERS),
  };
  found.packageName ||= fixedUtf16(reader, at + 12, 128);
  const end = Math.min(at + chunkSize(reader, at, reader.what), reader.bytes.length);
  for (const chunk of chunks(reader, at + headerBytes, end)) {
    const type = reader.u16(chunk);
    if (type === TYPE_CHUNK) indexType(chunk, of, found);
    else if (type === LIBRARY_CHUNK) found.libraries.push(...readLibraries(reader, chunk));
    else if (type === OVERLAYABLE_CHUNK) found.overlayables.push(readOverlayable(reader, chunk));
    else if (type === STAGED_ALIAS_CHUNK) found.stagedAliases.push(...readStagedAliases(reader, chunk));
  }
}

interface Package {
  reader: ByteReader;
  values: StringPool;
  id: number;
  typeNames: StringPool;
  typeIdOffset: number;
  keyNames: StringPool;
}

/** A resource of the packed table: where its entries lie, by configuration. */
class PackedResource implements Resource {
  readonly id: number;
  readonly type: string;
  readonly name: string;
  isPublic = false;
  private readonly of: Package;
  private list: ConfigList;
  private readonly offsets: number[] = [];

  constructor(id: number, type: string, name: string, of: Package, list: ConfigList) {
    this.id = id;
    this.type = type;
    this.name = name;
    this.of = of;
    this.list = list;
  }

  configs(): readonly ResourceConfig[] {
    return this.list.configs();
  }

  add(config: ResourceConfig, offset: number, flags: number): void {
    this.list = this.list.with(config);
    this.offsets.push(offset);
    this.isPublic ||= (flags & ENTRY_PUBLIC) !== 0;
  }

  variants(): ResourceVariant[] {
    const configs = this.list.configs();
    return this.offsets.map((offset, i) => ({
      config: configs[i]!,
      content: readContent(this.of, offset),
    }));
  }
}

function indexType(at: number, of: Package, found: Found): void {
  const { reader } = of;
  const { resources } = found;
  found.typeChunks += 1;
  demandFew(reader, 'configurations', found.typeChunks, MAX_TYPE_CHUNKS);
  const typeId = reader.u8(at + 8);
  const config = readResourceConfig(reader, at + 20);
  const entriesAt = at + reader.u32(at + 16);
  const type = of.typeNames.string(typeId - 1 - of.typeIdOffset);
  const firstId = ((of.id << 24) | (typeId << 16)) >>> 0;
  forEachEntry(reader, at, (index, offset) => {
    const entryAt = entriesAt + offset;
    const flags = reader.u16(entryAt + 2);
    let resource = resources.get(firstId + index);
    if (!resource) {
      const key = flags & ENTRY_COMPACT ? reader.u16(entryAt) : reader.u32(entryAt + 4);
      resource = new PackedResource(firstId + index, type, of.keyNames.string(key), of, found.noConfigs);
      resources.set(firstId + index, resource);
      demandFew(reader, 'resources', resources.size, MAX_RESOURCES);
    }
    found.valuesLeft -= 1;
    demandFew(reader, 'values', MAX_VALUES - found.valuesLeft, MAX_VALUES);
    if ((flags & (ENTRY_COMPLEX | ENTRY_COMPACT)) === ENTRY_COMPLEX)
      found.itemsLeft -= reader.u32(entryAt + 12);
    demandFew(reader, 'items of bags', -found.itemsLeft, 0);
    resource.add(config, entryAt, flags);
  });
}

function demandFew(reader: ByteReader, what: string, count: number, most: number): void {
  if (count > most)
    throw new UnreadableError({
      code: 'resources.too-large',
      place: reader.what,
      found: `more ${what} than a table of ${reader.bytes.length} bytes can hold`,
      remedy: 'No packer writes this: the file is damaged or was made to harm.',
    });
}

/** The offsets are checked once as a whole: most of them say that there is no entry, and there are millions. */
function forEachEntry(reader: ByteReader, at: number, take: (index: number, offset: number) => void): void {
  const flags = reader.u8(at + 9);
  const count = reader.u32(at + 12);
  const short = (flags & OFFSETS_16) !== 0 && !(flags & SPARSE);
  const bytes = reader.slice(at + reader.u16(at + 2), count * (short ? 2 : 4));
  const offsets = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let i = 0; i < count; i++)
    if (short) {
      const offset = offsets.getUint16(2 * i, true);
      if (offset !== 0xffff) take(i, offset * 4);
    } else {
      const offset = offsets.getUint32(4 * i, true);
      // a pair of index and offset in place of an offset
      if (flags & SPARSE) take(offset & 0xffff, (offset >>> 16) * 4);
      else if (offset !== NO_ENTRY) take(i, offset);
    }
}

function readContent({ reader, values }: Package, at: number): ResourceContent {
  const flags = reader.u16(at + 2);
  // the key stands in the place of the size, the value's type in the flags' upper byte
  if (flags & ENTRY_COMPACT)
    return { kind: 'value', value: resValueOf(flags >> 8, reader.u32(at + 4), reader, at + 4, values) };
  const bodyAt = at + reader.u16(at);
  if (!(flags & ENTRY_COMPLEX)) return { kind: 'value', value: readResValue(reader, bodyAt, values) };
  const count = reader.u32(at + 12);
  reader.slice(bodyAt, 12 * count);
  const items = Array.from({ length: count }, (_, i) => ({
    name: reader.u32(bodyAt + 12 * i),
    value: readResValue(reader, bodyAt + 12 * i + 4, values),
  }));
  return { kind: 'bag', parent: reader.u32(at + 8), items };
}

/** u32 count · (u32 id · u16 × 128 name) × count */
function readLibraries(reader: ByteReader, at: number): ResourceTable['libraries'] {
  const count = reader.u32(at + 8);
  const from = at + reader.u16(at + 2);
  reader.slice(from, 260 * count);
  return Array.from({ length: count }, (_, i) => ({
    id: reader.u32(from + 260 * i),
    name: fixedUtf16(reader, from + 260 * i + 4, 128),
  }));
}

/** u16 × 256 name · u16 × 256 actor, then policies: u32 flags · u32 count · u32 id × count */
function readOverlayable(reader: ByteReader, at: number): Overlayable {
  const end = Math.min(at + chunkSize(reader, at, reader.what), reader.bytes.length);
  const resources: number[] = [];
  for (const policy of chunks(reader, at + reader.u16(at + 2), end))
    if (reader.u16(policy) === OVERLAYABLE_POLICY_CHUNK) {
      const from = policy + reader.u16(policy + 2);
      const count = reader.u32(policy + 12);
      reader.slice(from, 4 * count);
      for (let i = 0; i < count; i++) resources.push(reader.u32(from + 4 * i));
    }
  return { name: fixedUtf16(reader, at + 8, 256), actor: fixedUtf16(reader, at + 520, 256), resources };
}

/** u32 count · (u32 staged · u32 final) × count */
function readStagedAliases(reader: ByteReader, at: number): ResourceTable['stagedAliases'] {
  const count = reader.u32(at + 8);
  const from = at + reader.u16(at + 2);
  reader.slice(from, 8 * count);
  return Array.from({ length: count }, (_, i) => ({
    stagedId: reader.u32(from + 8 * i),
    finalId: reader.u32(from + 8 * i + 4),
  }));
}

const fixedUtf16 = (reader: ByteReader, at: number, units: number): string =>
  new TextDecoder('utf-16le').decode(reader.slice(at, 2 * units)).replace(/\0.*$/s, '');
