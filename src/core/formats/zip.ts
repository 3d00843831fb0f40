/**
 * Zip archives by their central directory (PKWARE APPNOTE 6.3.9, sections 4.3 and 4.4), with zip64.
 *
 *     [local header · data] …  [signing block]  [central directory]  [zip64 end · locator]  end record
 *                                                 ^ offset, count ────────────────────────────┘
 *
 * Only entry data that is asked for is read. Departures: archives over several disks are refused, and those in which a
 * name shadows another, since the platform's installer refuses them too; encrypted entries cannot be read.
 */
import { type ByteSource, type Ports, sameBytes } from '../model/ports.ts';
import { attempt, type Problem, type Result, UnreadableError } from '../model/problem.ts';
import { ByteReader } from './byte-reader.ts';

interface ZipEntry {
  name: string;
  /** What is neither is read as deflated, as the platform's signature verifier does; other parts of it read it otherwise. */
  method: 'stored' | 'deflated' | 'other';
  isEncrypted: boolean;
  /** Sizes and checksum stand behind the data, and the local header holds none. */
  hasDescriptor: boolean;
  compressedBytes: number;
  sizeBytes: number;
  crc32: number;
  localHeaderOffset: number;
}

export interface Zip {
  entries: ReadonlyMap<string, ZipEntry>;
  centralDirectoryOffset: number;
  centralDirectoryEnd: number;
  /** Of the end record that closes the archive; a zip64 one lies before it. */
  endRecordOffset: number;
  /** Names and methods that no packer writes; what stands under them is read all the same. */
  oddities: readonly Problem[];
  /** Where the data of an entry begins in the file. */
  dataOffset(name: string): Promise<number>;
  /**
   * Inflates one entry; throws `UnreadableError` when it is missing, damaged or larger than its cap.
   *
   * @param maxBytes a cap below the archive's own, for what is small in any package
   */
  read(name: string, maxBytes?: number): Promise<Uint8Array>;
}

interface ZipLimits {
  entryCount: number;
  directoryBytes: number;
  entryBytes: number;
  /** Inflated bytes for each compressed one, above the first megabyte: DEFLATE itself ends at 1032. */
  ratio: number;
}

export const zipLimits: ZipLimits = {
  entryCount: 200_000,
  directoryBytes: 64 * 2 ** 20,
  entryBytes: 192 * 2 ** 20,
  ratio: 1100,
};

const END_RECORD = 0x06054b50;
const ZIP64_LOCATOR = 0x07064b50;
const ZIP64_END = 0x06064b50;
const CENTRAL_ENTRY = 0x02014b50;
const LOCAL_ENTRY = 0x04034b50;

export function openZip(
  file: string,
  source: ByteSource,
  ports: Ports,
  limits = zipLimits,
): Promise<Result<Zip>> {
  return attempt(file, async () => {
    const end = await findEnd(source);
    if (end.directoryBytes > limits.directoryBytes)
      throw tooLarge('central directory', `${end.directoryBytes} bytes`, limits.directoryBytes);
    const directory = await readAll(source, end.directoryOffset, end.directoryBytes, 'central directory');
    const { entries, oddities } = readDirectory(
      new ByteReader(directory, 'central directory'),
      end.entryCount,
      limits,
    );
    checkOverlap(entries, source.sizeBytes);
    return {
      entries,
      oddities,
      centralDirectoryOffset: end.directoryOffset,
      centralDirectoryEnd: end.directoryOffset + end.directoryBytes,
      endRecordOffset: end.endRecordOffset,
      dataOffset: async (name) => findData(source, demandEntry(entries, name)),
      read: async (name, maxBytes = limits.entryBytes) =>
        readEntry(source, ports, demandEntry(entries, name), { ...limits, entryBytes: maxBytes }),
    };
  });
}

interface End {
  entryCount: number;
  directoryBytes: number;
  directoryOffset: number;
  endRecordOffset: number;
}

async function findEnd(source: ByteSource): Promise<End> {
  if (source.sizeBytes === 0) throw notZip('an empty file');
  // The end record is 22 bytes and a comment of at most 65,535.
  const tailOffset = Math.max(0, source.sizeBytes - 22 - 0xffff);
  const tail = await source.read(tailOffset, source.sizeBytes - tailOffset);
  const reader = new ByteReader(tail, 'end of central directory');
  for (let at = tail.length - 22; at >= 0; at--) {
    if (reader.u32(at) !== END_RECORD || at + 22 + reader.u16(at + 20) > tail.length) continue;
    const entryCount = reader.u16(at + 10);
    const directoryBytes = reader.u32(at + 12);
    const directoryOffset = reader.u32(at + 16);
    if (reader.u16(at + 4) !== 0 && reader.u16(at + 4) !== 0xffff)
      throw notZip('one part of an archive over several disks');
    const needsZip64 =
      entryCount === 0xffff || directoryBytes === 0xffffffff || directoryOffset === 0xffffffff;
    const directory = needsZip64
      ? await readZip64End(source, tailOffset + at)
      : { entryCount, directoryBytes, directoryOffset };
    const end = { ...directory, endRecordOffset: tailOffset + at };
    if (end.directoryOffset + end.directoryBytes > end.endRecordOffset)
      throw truncatedZip('its central directory goes on beyond its end record');
    return end;
  }
  const head = await source.read(0, Math.min(4, source.sizeBytes));
  const startsLikeZip = head.length === 4 && new ByteReader(head, 'head').u32(0) === LOCAL_ENTRY;
  throw startsLikeZip
    ? truncatedZip('it begins as a zip archive but its end is missing')
    : notZip('no zip end record');
}

async function readZip64End(source: ByteSource, endOffset: number): Promise<Omit<End, 'endRecordOffset'>> {
  if (endOffset < 20) throw truncatedZip('its zip64 locator is missing');
  const locator = new ByteReader(await source.read(endOffset - 20, 20), 'zip64 locator');
  if (locator.u32(0) !== ZIP64_LOCATOR) throw truncatedZip('its zip64 locator is missing');
  const record = new ByteReader(
    await readAll(source, locator.u64(8), 56, 'zip64 end record'),
    'zip64 end record',
  );
  if (record.u32(0) !== ZIP64_END) throw truncatedZip('its zip64 end record is missing');
  return { entryCount: record.u64(32), directoryBytes: record.u64(40), directoryOffset: record.u64(48) };
}

const decoder = new TextDecoder();

function readDirectory(reader: ByteReader, count: number, limits: ZipLimits) {
  if (count > limits.entryCount)
    throw new UnreadableError({
      code: 'zip.too-many-entries',
      found: `${count} entries`,
      expected: `at most ${limits.entryCount}`,
    });
  const entries = new Map<string, ZipEntry>();
  const oddities: Problem[] = [];
  let at = 0;
  for (let i = 0; i < count; i++) {
    if (reader.u32(at) !== CENTRAL_ENTRY)
      throw truncatedZip(`entry ${i + 1} of its central directory is damaged`);
    const nameBytes = reader.u16(at + 28);
    const extraBytes = reader.u16(at + 30);
    const name = decoder.decode(reader.slice(at + 46, nameBytes));
    if (entries.has(name)) throw shadowed(name);
    const flags = reader.u16(at + 8);
    const method = reader.u16(at + 10);
    const odd = oddName(name) ?? (flags & ENCRYPTED_FLAG ? encrypted(name) : oddMethod(method, name));
    if (odd && oddities.length < MAX_ODDITIES) oddities.push(odd);
    const sizes = withZip64(reader, at, at + 46 + nameBytes, extraBytes);
    entries.set(name, {
      name,
      method: method === 0 ? 'stored' : method === 8 ? 'deflated' : 'other',
      isEncrypted: (flags & ENCRYPTED_FLAG) !== 0,
      hasDescriptor: (flags & DESCRIPTOR_FLAG) !== 0,
      crc32: reader.u32(at + 16),
      ...sizes,
    });
    at += 46 + nameBytes + extraBytes + reader.u16(at + 32);
  }
  return { entries, oddities };
}

/** Sizes and offset of an entry; a field of all ones stands in its zip64 extra field instead (4.5.3). */
function withZip64(reader: ByteReader, entryAt: number, extraAt: number, extraBytes: number) {
  const fields = {
    sizeBytes: reader.u32(entryAt + 24),
    compressedBytes: reader.u32(entryAt + 20),
    localHeaderOffset: reader.u32(entryAt + 42),
  };
  for (let at = extraAt; at + 4 <= extraAt + extraBytes; at += 4 + reader.u16(at + 2)) {
    if (reader.u16(at) !== 0x0001) continue;
    let field = at + 4;
    for (const name of ['sizeBytes', 'compressedBytes', 'localHeaderOffset'] as const)
      if (fields[name] === 0xffffffff) {
        fields[name] = reader.u64(field);
        field += 8;
      }
  }
  return fields;
}

const ENCRYPTED_FLAG = 1;
const DESCRIPTOR_FLAG = 8;
// What a report can hold.
const MAX_ODDITIES = 20;

const encrypted = (name: string): Problem => ({
  code: 'zip.encrypted',
  place: formatEntry(name),
  found: 'an encrypted entry',
  expected: 'a package without a password',
});

function oddMethod(method: number, name: string): Problem | undefined {
  if (method === 0 || method === 8) return undefined;
  return {
    code: 'zip.method',
    place: formatEntry(name),
    found: `compression method ${method}, which parts of the platform read in different ways`,
    expected: 'stored (0) or deflated (8)',
  };
}

function oddName(name: string): Problem | undefined {
  const odd = (found: string): Problem => ({
    code: 'zip.name',
    place: formatEntry(name),
    found,
    remedy: 'A packer does not write such a name: the file was tampered with or badly repacked.',
  });
  if (name.startsWith('/') || name.includes('\\') || name.includes('\0') || /^[a-z]:/i.test(name))
    return odd('an absolute path or a forbidden character');
  if (name.includes('..') && name.split('/').includes('..'))
    return odd('a path that climbs out of the archive');
  return undefined;
}

/** As it stands where it can be shown, else with its characters written out. */
const formatEntry = (name: string): string => {
  const written = JSON.stringify(name);
  return `entry ${written.slice(1, -1) === name ? name : written}`;
};

const shadowed = (name: string) =>
  new UnreadableError({
    code: 'zip.name',
    place: formatEntry(name),
    found: 'a second entry of the same name, which would shadow the first',
    remedy: 'No device installs such a package: the file was tampered with or badly repacked.',
  });

/** Entries that share their data inflate to far more than the archive holds. */
function checkOverlap(entries: ReadonlyMap<string, ZipEntry>, fileBytes: number): void {
  let sum = 0;
  for (const { compressedBytes } of entries.values()) sum += compressedBytes;
  if (sum > fileBytes)
    throw new UnreadableError({
      code: 'zip.overlap',
      found: `entries of ${sum} bytes in an archive of ${fileBytes}`,
      expected: 'entries that lie one after the other',
      remedy: 'No packer writes this: the file is damaged or was made to harm.',
    });
}

function demandEntry(entries: ReadonlyMap<string, ZipEntry>, name: string): ZipEntry {
  const entry = entries.get(name);
  if (entry) return entry;
  throw new UnreadableError({
    code: 'zip.no-entry',
    place: formatEntry(name),
    found: 'no such entry in the archive',
  });
}

/** Behind the local header, which must say what the directory says: some readers go by the one, some by the other. */
async function findData(source: ByteSource, entry: ZipEntry): Promise<number> {
  const { hasDescriptor, localHeaderOffset, name } = entry;
  const nameBytes = new TextEncoder().encode(name);
  const head = await readAll(source, localHeaderOffset, 30 + nameBytes.length, `entry ${name}`);
  const local = new ByteReader(head, `local header of ${name}`);
  if (local.u32(0) !== LOCAL_ENTRY) throw truncatedZip(`the local header of ${name} is damaged`);
  if (local.u16(26) !== nameBytes.length || !sameBytes(head.subarray(30), nameBytes))
    throw truncatedZip(`the local header of ${name} has another name`);
  const described = (local.u16(6) & DESCRIPTOR_FLAG) !== 0;
  const agrees = [local.u32(14), local.u32(18), local.u32(22)].every(
    // sizes of all ones stand in a zip64 field
    (value, i) => value === [entry.crc32, entry.compressedBytes, entry.sizeBytes][i] || value === 0xffffffff,
  );
  if (described !== hasDescriptor || !(described || agrees))
    throw truncatedZip(`the local header of ${name} gives other sizes or another checksum`);
  return localHeaderOffset + head.length + local.u16(28);
}

async function readEntry(
  source: ByteSource,
  ports: Ports,
  entry: ZipEntry,
  limits: ZipLimits,
): Promise<Uint8Array> {
  const { name } = entry;
  if (entry.isEncrypted) throw new UnreadableError(encrypted(name));
  const cap = Math.min(limits.entryBytes, Math.max(2 ** 20, entry.compressedBytes * limits.ratio));
  if (entry.sizeBytes > cap)
    throw tooLarge(`entry ${name}`, `${entry.sizeBytes} bytes inflated from ${entry.compressedBytes}`, cap);
  const dataOffset = await findData(source, entry);
  const data = await readAll(source, dataOffset, entry.compressedBytes, `entry ${name}`);
  const bytes = entry.method === 'stored' ? data : await inflate(ports, data, entry, cap);
  if (bytes.length !== entry.sizeBytes || ports.crc32(bytes) !== entry.crc32)
    throw new UnreadableError({
      code: 'zip.damaged',
      place: `entry ${name}`,
      found: 'contents that do not match their size and checksum',
      remedy: 'The file was damaged after it was packed: build or copy it again.',
    });
  return bytes;
}

async function inflate(ports: Ports, data: Uint8Array, entry: ZipEntry, cap: number): Promise<Uint8Array> {
  try {
    return await ports.inflateRaw(data, Math.min(cap, entry.sizeBytes + 1));
  } catch (cause) {
    throw new UnreadableError(
      {
        code: 'zip.damaged',
        place: `entry ${entry.name}`,
        found: 'compressed data that does not inflate',
        remedy: 'The file was damaged after it was packed: build or copy it again.',
      },
      { cause },
    );
  }
}

async function readAll(
  source: ByteSource,
  offset: number,
  length: number,
  what: string,
): Promise<Uint8Array> {
  if (offset + length > source.sizeBytes)
    throw truncatedZip(`${what} ends beyond the file's ${source.sizeBytes} bytes`);
  return source.read(offset, length);
}

const tooLarge = (place: string, found: string, most: number) =>
  new UnreadableError({ code: 'zip.too-large', place, found, expected: `at most ${most}` });

const notZip = (found: string) =>
  new UnreadableError({
    code: 'zip.none',
    found: `not a zip archive (${found})`,
    expected: 'an app package (APK, AAB or IPA)',
    remedy: 'Give the package file itself, such as app-release.apk.',
  });

const truncatedZip = (found: string) =>
  new UnreadableError({
    code: 'zip.truncated',
    found: `a damaged zip archive: ${found}`,
    expected: 'a whole package',
    remedy: 'The file is cut off or damaged: copy or build it again.',
  });

// Beyond this, looking through every entry takes longer than anyone waits.
const MAX_INFLATED_BYTES = 2 * 2 ** 30;

/** Whether all entries together are small enough to be inflated one after the other. */
export function canInflateAll({ entries }: Zip): boolean {
  let sum = 0;
  for (const { sizeBytes } of entries.values()) sum += sizeBytes;
  return sum <= MAX_INFLATED_BYTES;
}
