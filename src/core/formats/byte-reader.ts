import { UnreadableError } from '../model/problem.ts';

/** Reading of numbers with every access checked; a read past the end says what was being read. */
export class ByteReader {
  readonly bytes: Uint8Array;
  readonly what: string;
  private readonly view: DataView;
  private readonly littleEndian: boolean;

  constructor(bytes: Uint8Array, what: string, order: 'little-endian' | 'big-endian' = 'little-endian') {
    // a subclass of Uint8Array may cut slices much more slowly
    this.bytes = new Uint8Array(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    this.what = what;
    this.littleEndian = order === 'little-endian';
  }

  u8(offset: number): number {
    this.demand(offset, 1);
    return this.view.getUint8(offset);
  }
  u16(offset: number): number {
    this.demand(offset, 2);
    return this.view.getUint16(offset, this.littleEndian);
  }
  u32(offset: number): number {
    this.demand(offset, 4);
    return this.view.getUint32(offset, this.littleEndian);
  }
  /** Refused above 2^53 − 1: no offset or size in a file that can be read is larger. */
  u64(offset: number): number {
    this.demand(offset, 8);
    const value = this.view.getBigUint64(offset, this.littleEndian);
    if (value > BigInt(Number.MAX_SAFE_INTEGER)) throw this.truncated(offset, 8);
    return Number(value);
  }
  i64(offset: number): bigint {
    this.demand(offset, 8);
    return this.view.getBigInt64(offset, this.littleEndian);
  }
  f32(offset: number): number {
    this.demand(offset, 4);
    return this.view.getFloat32(offset, this.littleEndian);
  }
  f64(offset: number): number {
    this.demand(offset, 8);
    return this.view.getFloat64(offset, this.littleEndian);
  }
  slice(offset: number, length: number): Uint8Array {
    this.demand(offset, length);
    return this.bytes.subarray(offset, offset + length);
  }

  private demand(offset: number, length: number): void {
    if (!(offset >= 0 && length >= 0 && offset + length <= this.bytes.length))
      throw this.truncated(offset, length);
  }

  private truncated(offset: number, length: number): UnreadableError {
    return new UnreadableError({
      code: 'bytes.truncated',
      place: `${this.what}, byte ${offset}`,
      found: `the data ends at byte ${this.bytes.length}`,
      expected: `${length} more bytes`,
      remedy: 'The file is cut off or damaged: copy or build it again.',
    });
  }
}
