import { UnreadableError } from '../model/problem.ts';

/** Little-endian reading with every access checked; a read past the end says what was being read. */
export class ByteReader {
  readonly bytes: Uint8Array;
  private readonly view: DataView;
  private readonly what: string;

  constructor(bytes: Uint8Array, what: string) {
    this.bytes = bytes;
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
    this.what = what;
  }

  u8(offset: number): number {
    this.demand(offset, 1);
    return this.view.getUint8(offset);
  }
  u16(offset: number): number {
    this.demand(offset, 2);
    return this.view.getUint16(offset, true);
  }
  u32(offset: number): number {
    this.demand(offset, 4);
    return this.view.getUint32(offset, true);
  }
  u64(offset: number): number {
    this.demand(offset, 8);
    const value = this.view.getBigUint64(offset, true);
    if (value > BigInt(Number.MAX_SAFE_INTEGER)) throw this.truncated(offset, 8);
    return Number(value);
  }
  f32(offset: number): number {
    this.demand(offset, 4);
    return this.view.getFloat32(offset, true);
  }
  slice(offset: number, length: number): Uint8Array {
    this.demand(offset, length);
    return this.bytes.subarray(offset, offset + length);
  }

  private demand(offset: number, length: number): void {
    if (offset < 0 || length < 0 || offset + length > this.bytes.length) throw this.truncated(offset, length);
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
