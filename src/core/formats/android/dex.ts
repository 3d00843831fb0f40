/**
 * Dex files (Android Open Source Project, *Dalvik executable format*, versions 035 to 041).
 *
 *     header(112) · string_ids · type_ids · proto_ids · field_ids · method_ids · class_defs · data
 *     class_def:  u32 class · access · superclass · interfaces · source · annotations · class data · static values
 *     code_item:  u16 registers · ins · outs · tries · u32 debug · u32 size in units · u16 × size instructions
 *
 * Code is walked for what it refers to; nothing is disassembled beyond the length of each instruction.
 */
import { UnreadableError } from '../../model/problem.ts';
import { ByteReader } from '../byte-reader.ts';
import { decodeModifiedUtf8 } from './modified-utf8.ts';

interface MethodReference {
  /** As the format writes types: `Lexample/kelpline/KelplineApp;` */
  className: string;
  name: string;
}

/** What the code itself refers to, apart from the classes that only list a package's resources (`R`). */
interface CodeReferences {
  /** 32-bit constants that may be resource ids: those of a package, `0x01…` and up. */
  resourceIds: ReadonlySet<number>;
  strings: ReadonlySet<string>;
}

export interface Dex {
  version: string;
  stringCount: number;
  string(index: number): string;
  /** At most so many texts from the first that is not before this one, in the order of the file. */
  stringsFrom(text: string, most: number): string[];
  /** Types that the code names, its own and others', in the order of the file. */
  types(): string[];
  /** Classes that the file defines. */
  classes(): string[];
  methods(): MethodReference[];
  references(): CodeReferences;
}

const NO_INDEX = 0xffffffff;
const MAGIC = 'dex\n';
// Instructions name types, fields and methods by 16 bits.
const MAX_ITEMS = 65_536;
const MAX_CHARACTERS = 64 * 2 ** 20;

export function readDex(bytes: Uint8Array, name: string): Dex {
  const reader = new ByteReader(bytes, name);
  const magic = String.fromCharCode(...bytes.subarray(0, 8));
  if (bytes.length < 112 || !magic.startsWith(MAGIC) || reader.u32(40) !== 0x12345678)
    throw new UnreadableError({
      code: 'dex.none',
      place: name,
      found: 'something that is not a dex file',
      expected: 'a dex file in little-endian order',
    });
  const table = (sizeAt: number, itemBytes: number, what: string): Table => {
    const [count, at] = [reader.u32(sizeAt), reader.u32(sizeAt + 4)];
    if (at + count * itemBytes > bytes.length || (what !== 'strings' && count > MAX_ITEMS))
      throw new UnreadableError({
        code: 'dex.truncated',
        place: `${name}, byte ${sizeAt}`,
        found: `${count} ${what} at byte ${at} of a file of ${bytes.length}`,
        remedy: 'The file is cut off or damaged: build the package again.',
      });
    return { count, at };
  };
  const of: Tables = {
    reader,
    charactersLeft: MAX_CHARACTERS,
    strings: table(56, 4, 'strings'),
    types: table(64, 4, 'types'),
    fields: table(80, 8, 'fields'),
    methods: table(88, 8, 'methods'),
    classes: table(96, 32, 'classes'),
  };
  return {
    version: magic.slice(4, 7),
    stringCount: of.strings.count,
    string: (index) => stringOf(of, index),
    stringsFrom: (text, most) => stringsFrom(of, text, most),
    types: () => Array.from({ length: of.types.count }, (_, i) => typeOf(of, i)),
    classes: () =>
      Array.from({ length: of.classes.count }, (_, i) => typeOf(of, reader.u32(of.classes.at + 32 * i))),
    methods: () =>
      Array.from({ length: of.methods.count }, (_, i) => ({
        className: typeOf(of, reader.u16(of.methods.at + 8 * i)),
        name: stringOf(of, reader.u32(of.methods.at + 8 * i + 4)),
      })),
    references: () => collectReferences(of),
  };
}

interface Table {
  count: number;
  at: number;
}

interface Tables {
  reader: ByteReader;
  /** That may still be given out: strings may overlap, and then claim more than the file holds. */
  charactersLeft: number;
  strings: Table;
  types: Table;
  fields: Table;
  methods: Table;
  classes: Table;
}

function demandIndex({ reader }: Tables, table: Table, index: number, what: string): number {
  if (index < table.count) return index;
  throw new UnreadableError({
    code: 'dex.index',
    place: reader.what,
    found: `${what} ${index}`,
    expected: `one of ${table.count}`,
    remedy: 'The file is damaged: build the package again.',
  });
}

const typeOf = (of: Tables, index: number): string =>
  stringOf(of, of.reader.u32(of.types.at + 4 * demandIndex(of, of.types, index, 'type')));

function stringOf(of: Tables, index: number): string {
  const { reader } = of;
  const at = reader.u32(of.strings.at + 4 * demandIndex(of, of.strings, index, 'string'));
  const [, from] = uleb128(reader, at);
  const text = decodeMutf8(reader, from);
  of.charactersLeft -= text.length;
  if (of.charactersLeft < 0) throw overlap(of);
  return text;
}

/** Texts stand in the order of their UTF-16 units (*string_ids*). */
function stringsFrom(of: Tables, text: string, most: number): string[] {
  let [low, high] = [0, of.strings.count];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (stringOf(of, middle) < text) low = middle + 1;
    else high = middle;
  }
  const count = Math.min(most, of.strings.count - low);
  return Array.from({ length: count }, (_, i) => stringOf(of, low + i));
}

function uleb128(reader: ByteReader, at: number): [value: number, next: number] {
  let value = 0;
  for (let i = 0; i < 5; i++) {
    const byte = reader.u8(at + i);
    value |= (byte & 0x7f) << (7 * i);
    if (!(byte & 0x80)) return [value >>> 0, at + i + 1];
  }
  return [value >>> 0, at + 5];
}

/** Up to a zero byte. */
function decodeMutf8(reader: ByteReader, from: number): string {
  const end = reader.bytes.indexOf(0, from);
  return decodeModifiedUtf8(reader.slice(from, (end < 0 ? reader.bytes.length : end) - from));
}

interface Found {
  resourceIds: Set<number>;
  strings: Set<string>;
  /** Static fields that the code reads. */
  fieldsRead: Set<number>;
  /** Units that may still be walked: code that overlaps itself would be walked for ever. */
  unitsLeft: number;
}

function collectReferences(of: Tables): CodeReferences {
  const found: Found = {
    resourceIds: new Set(),
    strings: new Set(),
    fieldsRead: new Set(),
    unitsLeft: 4 * of.reader.bytes.length,
  };
  const listed = new Map<number, number>();
  for (let i = 0; i < of.classes.count; i++) {
    const at = of.classes.at + 32 * i;
    const [dataAt, valuesAt] = [of.reader.u32(at + 24), of.reader.u32(at + 28)];
    const listsResources = /\/R(\$\w+)?;$/.test(typeOf(of, of.reader.u32(at)));
    const members = dataAt > 0 ? readClassData(of, dataAt) : { staticFields: [], code: [] };
    const values = valuesAt > 0 ? readStaticInts(of.reader, valuesAt) : [];
    spend(of, found, members.code.length + values.length);
    for (const [position, value] of values)
      if (listsResources) listed.set(members.staticFields[position] ?? NO_INDEX, value);
      else noteId(found, value);
    if (!listsResources) for (const codeAt of members.code) walkCode(of, codeAt, found);
  }
  for (const field of found.fieldsRead) noteId(found, listed.get(field) ?? 0);
  return found;
}

function spend(of: Tables, found: Found, units: number): void {
  found.unitsLeft -= units;
  if (found.unitsLeft < 0) throw overlap(of);
}

const overlap = ({ reader }: Tables) =>
  new UnreadableError({
    code: 'dex.overlap',
    place: reader.what,
    found: 'code or names that overlap, many times over',
    remedy: 'No compiler writes this: the file is damaged or was made to harm.',
  });

function noteId(found: Found, value: number): void {
  if (value >>> 24 > 0) found.resourceIds.add(value >>> 0);
}

/** class_data_item: four counts, then fields and methods with their indices as differences. */
function readClassData(of: Tables, at: number): { staticFields: number[]; code: number[] } {
  const { reader } = of;
  let next = at;
  const uleb = () => {
    const [value, after] = uleb128(reader, next);
    next = after;
    return value;
  };
  const [staticCount, instanceCount, directCount, virtualCount] = [uleb(), uleb(), uleb(), uleb()];
  const staticFields: number[] = [];
  for (let i = 0, index = 0; i < staticCount + instanceCount; i++) {
    index = i === staticCount ? uleb() : index + uleb();
    uleb();
    if (i < staticCount) staticFields.push(index);
  }
  const code: number[] = [];
  for (let i = 0; i < directCount + virtualCount; i++) {
    uleb();
    uleb();
    const codeAt = uleb();
    if (codeAt > 0) code.push(codeAt);
  }
  return { staticFields, code };
}

const VALUE_INT = 0x04;
const VALUE_ARRAY = 0x1c;
const VALUE_ANNOTATION = 0x1d;

/** encoded_array of a class: the integers in it, by position. Ends at the first nested value, which no R class has. */
function readStaticInts(reader: ByteReader, at: number): [position: number, value: number][] {
  let [count, next] = uleb128(reader, at);
  const found: [number, number][] = [];
  for (let i = 0; i < count; i++) {
    const head = reader.u8(next);
    const type = head & 0x1f;
    if (type === VALUE_ARRAY || type === VALUE_ANNOTATION) break;
    const bytes = type >= 0x1e ? 0 : (head >> 5) + 1;
    if (type === VALUE_INT) {
      let value = 0;
      for (let byte = 0; byte < bytes; byte++) value |= reader.u8(next + 1 + byte) << (8 * byte);
      found.push([i, value]);
    }
    next += 1 + bytes;
  }
  return found;
}

// Length of each instruction in units of 16 bits, by opcode (*Dalvik bytecode*, instruction formats).
const LENGTHS = lengths(
  '1 1 2 3 1 2 3 1 2 3 1x9 2 3 2 2 3 5 2 2 3 2 1 1 2 2 1 2 2 3x3 1 1 2 3x3 2x17 1x6 2x42 3x5 1 3x5 1 1 1x21 2x32 1x32 2x19 1x23 4 4 3 3 2 2',
);

function lengths(runs: string): Uint8Array {
  const list = runs.split(' ').flatMap((run) => {
    const [length, times = '1'] = run.split('x');
    return new Array<number>(Number(times)).fill(Number(length));
  });
  return Uint8Array.from(list);
}

const CONST = 0x14;
const CONST_HIGH16 = 0x15;
const CONST_STRING = 0x1a;
const CONST_STRING_JUMBO = 0x1b;
const SGET = 0x60;
const FILL_ARRAY_DATA = 0x0300;

function walkCode(of: Tables, codeAt: number, found: Found): void {
  const { reader } = of;
  const size = reader.u32(codeAt + 12);
  const from = codeAt + 16;
  reader.slice(from, 2 * size);
  spend(of, found, size);
  for (let unit = 0; unit < size; ) {
    const at = from + 2 * unit;
    const word = reader.u16(at);
    const opcode = word & 0xff;
    if (opcode === CONST) noteId(found, reader.u32(at + 2));
    else if (opcode === CONST_HIGH16) noteId(found, reader.u16(at + 2) << 16);
    else if (opcode === CONST_STRING) found.strings.add(stringOf(of, reader.u16(at + 2)));
    else if (opcode === CONST_STRING_JUMBO) found.strings.add(stringOf(of, reader.u32(at + 2)));
    else if (opcode === SGET) found.fieldsRead.add(reader.u16(at + 2));
    else if (word === FILL_ARRAY_DATA && reader.u16(at + 2) === 4)
      for (let i = 0, count = reader.u32(at + 4); i < count; i++) noteId(found, reader.u32(at + 8 + 4 * i));
    unit += word > 0xff && opcode === 0 ? payloadUnits(reader, at, word) : LENGTHS[opcode]!;
  }
}

/** Tables that switches and array fills keep among the instructions. */
function payloadUnits(reader: ByteReader, at: number, word: number): number {
  if (word === 0x0100) return 2 * reader.u16(at + 2) + 4;
  if (word === 0x0200) return 4 * reader.u16(at + 2) + 2;
  if (word === FILL_ARRAY_DATA) return Math.ceil((reader.u32(at + 4) * reader.u16(at + 2)) / 2) + 4;
  return 1;
}
