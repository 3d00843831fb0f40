/** What Android needs of a native library (ELF, *System V Application Binary Interface*, chapter 5): how its segments are aligned. */
import { UnreadableError } from '../../model/problem.ts';
import { ByteReader } from '../byte-reader.ts';

const PT_LOAD = 1;

/** @returns the smallest alignment of the loadable segments, in bytes; 0 where there are none */
export function readSegmentAlignment(bytes: Uint8Array, name: string): number {
  const reader = new ByteReader(bytes, name);
  if (bytes.length < 52 || reader.u32(0) !== 0x464c457f || bytes[5] !== 1)
    throw new UnreadableError({
      code: 'elf.none',
      place: name,
      found: 'something that is not a little-endian ELF file',
    });
  const wide = bytes[4] === 2;
  const at = wide ? reader.u64(32) : reader.u32(28);
  const [entryBytes, count] = wide ? [reader.u16(54), reader.u16(56)] : [reader.u16(42), reader.u16(44)];
  const alignments: number[] = [];
  for (let i = 0; i < count; i++) {
    const header = at + i * entryBytes;
    if (reader.u32(header) === PT_LOAD)
      alignments.push(wide ? reader.u64(header + 48) : reader.u32(header + 28));
  }
  return alignments.length > 0 ? Math.min(...alignments) : 0;
}
