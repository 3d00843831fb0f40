/**
 * Mach-O executables (Apple, `mach-o/loader.h`, `fat.h`, `nlist.h`, `fixup-chains.h`): what the load commands say.
 *
 *     fat:   u32 magic · u32 count · (u32 cpu · subtype · offset · size · align) × count, big-endian
 *     slice: u32 magic · cpu · subtype · type · commands · bytes of commands · flags [· reserved], then the commands
 */
import { UnreadableError } from '../../model/problem.ts';
import { ByteReader } from '../byte-reader.ts';

export interface MachO {
  architecture: string;
  uuid: string;
  /** Whether a part of it is encrypted, as the store does to what it hands out. */
  encrypted: boolean;
  libraries: string[];
  /** Symbols that other libraries are to give. */
  imports: string[];
  /** The slice on its own, whose offsets are the ones above. */
  bytes: Uint8Array;
  signature?: { offset: number; sizeBytes: number };
}

const FAT = 0xcafebabe;
const FAT_64 = 0xcafebabf;
const MAGIC_32 = 0xfeedface;
const MAGIC_64 = 0xfeedfacf;
const MAX_SLICES = 32;
const MAX_COMMANDS = 10_000;
const MAX_SYMBOLS = 1_000_000;
const MAX_NAME_BYTES = 32 * 2 ** 20;

const CPU = new Map([
  [0x0100000c, 'arm64'],
  [0x0000000c, 'armv7'],
  [0x01000007, 'x86_64'],
  [0x00000007, 'i386'],
]);

/** @throws UnreadableError where it is no Mach-O file or is damaged */
export function readMachO(bytes: Uint8Array, name: string): MachO[] {
  if (bytes.length < 8) throw notMachO(name);
  const reader = new ByteReader(bytes, name, 'big-endian');
  const magic = reader.u32(0);
  if (magic !== FAT && magic !== FAT_64) return [readSlice(bytes, name)];
  const count = reader.u32(4);
  if (count > MAX_SLICES) throw notMachO(name);
  return Array.from({ length: count }, (_, i) => {
    const at = 8 + i * (magic === FAT ? 20 : 32);
    const [offset, size] =
      magic === FAT ? [reader.u32(at + 8), reader.u32(at + 12)] : [reader.u64(at + 8), reader.u64(at + 16)];
    return readSlice(reader.slice(offset, size), name);
  });
}

const LC_SYMTAB = 0x02;
const LC_UUID = 0x1b;
const LC_CODE_SIGNATURE = 0x1d;
const LC_ENCRYPTION_INFO = 0x21;
const LC_ENCRYPTION_INFO_64 = 0x2c;
const LC_CHAINED_FIXUPS = 0x80000034;
// load, weak, re-exported, lazy, upward
const LOADS_LIBRARY = new Set([0x0c, 0x80000018, 0x8000001f, 0x20, 0x80000023]);

function readSlice(bytes: Uint8Array, name: string): MachO {
  const reader = new ByteReader(bytes, name);
  const magic = bytes.length >= 28 ? reader.u32(0) : 0;
  if (magic !== MAGIC_32 && magic !== MAGIC_64) throw notMachO(name);
  const wide = magic === MAGIC_64;
  const cpu = reader.u32(4);
  const found: MachO = {
    architecture: CPU.get(cpu) ?? `cpu ${cpu}`,
    uuid: '',
    encrypted: false,
    libraries: [],
    imports: [],
    bytes,
  };
  const imports = new Names();
  let at = wide ? 32 : 28;
  const commandCount = reader.u32(16);
  if (commandCount > MAX_COMMANDS) throw damaged(name, 16, `${commandCount} load commands`);
  for (let i = 0; i < commandCount; i++) {
    const [command, size] = [reader.u32(at), reader.u32(at + 4)];
    if (size < 8) throw damaged(name, at, `a load command of ${size} bytes`);
    if (command === LC_UUID) found.uuid = formatUuid(reader.slice(at + 8, 16));
    else if (command === LC_ENCRYPTION_INFO || command === LC_ENCRYPTION_INFO_64)
      found.encrypted ||= reader.u32(at + 16) !== 0;
    else if (command === LC_CODE_SIGNATURE)
      found.signature = { offset: reader.u32(at + 8), sizeBytes: reader.u32(at + 12) };
    else if (LOADS_LIBRARY.has(command))
      found.libraries.push(cString(reader, at + reader.u32(at + 8), at + size));
    else if (command === LC_SYMTAB) undefinedSymbols(reader, at, wide, imports);
    else if (command === LC_CHAINED_FIXUPS) chainedImports(reader, reader.u32(at + 8), imports);
    at += size;
  }
  found.imports = [...imports];
  return found;
}

/** symtab: u32 offset of symbols · count · offset of strings · bytes of strings */
function undefinedSymbols(reader: ByteReader, at: number, wide: boolean, imports: Names): void {
  const [symbolsAt, count, stringsAt, stringBytes] = [8, 12, 16, 20].map((field) =>
    reader.u32(at + field),
  ) as [number, number, number, number];
  const symbolBytes = wide ? 16 : 12;
  if (count > MAX_SYMBOLS) throw damaged(reader.what, at, `${count} symbols`);
  reader.slice(symbolsAt, count * symbolBytes);
  for (let i = 0; i < count; i++) {
    const symbol = symbolsAt + i * symbolBytes;
    const type = reader.u8(symbol + 4);
    // external and defined nowhere here
    if ((type & 0x0f) === 0x01)
      addName(reader, imports, cString(reader, stringsAt + reader.u32(symbol), stringsAt + stringBytes));
  }
}

/** u32 version · starts · imports · symbols · count of imports · format · format of symbols */
function chainedImports(reader: ByteReader, at: number, imports: Names): void {
  const [importsAt, symbolsAt] = [at + reader.u32(at + 8), at + reader.u32(at + 12)];
  const [count, format] = [reader.u32(at + 16), reader.u32(at + 20)];
  const importBytes = [0, 4, 8, 16][format];
  if (!importBytes || count > MAX_SYMBOLS)
    throw damaged(reader.what, at, `${count} imports of format ${format}`);
  for (let i = 0; i < count; i++) {
    const entry = importsAt + i * importBytes;
    const nameAt = format === 3 ? reader.u32(entry + 4) : reader.u32(entry) >>> 9;
    addName(reader, imports, cString(reader, symbolsAt + nameAt, reader.bytes.length));
  }
}

/** Names may overlap, and then claim more than the file holds. */
function addName(reader: ByteReader, names: Names, name: string): void {
  names.add(name);
  names.bytes += name.length;
  if (names.bytes > MAX_NAME_BYTES)
    throw damaged(reader.what, 0, `more than ${MAX_NAME_BYTES} bytes of names`);
}

class Names extends Set<string> {
  bytes = 0;
}

const decoder = new TextDecoder();

function cString(reader: ByteReader, from: number, limit: number): string {
  const end = reader.bytes.indexOf(0, from);
  const until = Math.min(end < 0 ? reader.bytes.length : end, limit, from + 4096);
  return decoder.decode(reader.slice(from, Math.max(0, until - from)));
}

const formatUuid = (bytes: Uint8Array): string =>
  Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0'))
    .join('')
    .toUpperCase()
    .replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5');

const notMachO = (name: string) =>
  new UnreadableError({
    code: 'macho.none',
    place: name,
    found: 'something that is not a Mach-O executable',
  });

const damaged = (name: string, at: number, found: string) =>
  new UnreadableError({
    code: 'macho.damaged',
    place: `${name}, byte ${at}`,
    found,
    remedy: 'The file is cut off or damaged: build the package again.',
  });
