/** Names of functions in a Mach-O file (Apple, `mach-o/nlist.h`), by their place from the image's beginning: what a dSYM carries. */
import { ByteReader } from '../byte-reader.ts';
import { readMachO } from './mach-o.ts';

export interface MachSymbols {
  architecture: string;
  /** Hex, lower case, without dashes. */
  uuid: string;
  /** The function that holds this place; nothing before the first. */
  at(offset: number): string | undefined;
}

const LC_SYMTAB = 0x02;
const LC_SEGMENT = 0x01;
const LC_SEGMENT_64 = 0x19;
const MAGIC_64 = 0xfeedfacf;
const DEBUG_MASK = 0xe0;
const TYPE_MASK = 0x0e;
const IN_SECTION = 0x0e;
const MAX_SYMBOLS = 4_000_000;

/** Of each processor that the file is for. @throws UnreadableError where it is no Mach-O file or is damaged */
export const readMachSymbols = (bytes: Uint8Array, name: string): MachSymbols[] =>
  readMachO(bytes, name).map(({ architecture, bytes: slice, uuid }) => {
    const { names, places } = functionsOf(slice, name);
    return {
      architecture,
      uuid: uuid.replaceAll('-', '').toLowerCase(),
      at: (offset) => names[lastUpTo(places, offset)],
    };
  });

function functionsOf(slice: Uint8Array, name: string): { names: string[]; places: number[] } {
  const reader = new ByteReader(slice, name);
  const wide = reader.u32(0) === MAGIC_64;
  let base = 0;
  let code: [from: number, to: number] | undefined;
  const found: [place: number, name: string][] = [];
  let at = wide ? 32 : 28;
  for (let i = reader.u32(16); i > 0; i--) {
    const [command, size] = [reader.u32(at), reader.u32(at + 4)];
    if (command === LC_SEGMENT_64 || command === LC_SEGMENT) {
      const segment = new TextDecoder().decode(slice.subarray(at + 8, at + 24)).replace(/\0.*$/s, '');
      const address = command === LC_SEGMENT_64 ? reader.u64(at + 24) : reader.u32(at + 24);
      const bytes = command === LC_SEGMENT_64 ? reader.u64(at + 32) : reader.u32(at + 28);
      if (segment === '__TEXT') {
        base = address;
        code = [address, address + bytes];
      }
    } else if (command === LC_SYMTAB) found.push(...symbolsOf(reader, at, wide));
    at += size;
  }
  const inCode = found
    .filter(([address]) => !code || (address >= code[0] && address < code[1]))
    .sort(([a], [b]) => a - b);
  return {
    names: inCode.map(([, one]) => one),
    places: inCode.map(([address]) => address - base),
  };
}

function* symbolsOf(reader: ByteReader, at: number, wide: boolean): Iterable<[number, string]> {
  const [symbolsAt, count, stringsAt, stringBytes] = [8, 12, 16, 20].map((field) =>
    reader.u32(at + field),
  ) as [number, number, number, number];
  const bytes = wide ? 16 : 12;
  reader.slice(symbolsAt, Math.min(count, MAX_SYMBOLS) * bytes);
  for (let i = 0; i < Math.min(count, MAX_SYMBOLS); i++) {
    const symbol = symbolsAt + i * bytes;
    const type = reader.u8(symbol + 4);
    if ((type & DEBUG_MASK) !== 0 || (type & TYPE_MASK) !== IN_SECTION) continue;
    const from = stringsAt + reader.u32(symbol);
    const end = reader.bytes.indexOf(0, from);
    const until = Math.min(end < 0 ? reader.bytes.length : end, stringsAt + stringBytes, from + 4096);
    const text = new TextDecoder().decode(reader.slice(from, Math.max(0, until - from)));
    // C names begin with an underscore that people did not write
    if (text !== '') yield [wide ? reader.u64(symbol + 8) : reader.u32(symbol + 8), text.replace(/^_/, '')];
  }
}

/** The last that is not beyond; -1 where all are. */
function lastUpTo(sorted: readonly number[], value: number): number {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle]! <= value) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}
