/** Typed values of compiled resources (AOSP `ResourceTypes.h`, `Res_value`): u16 size · u8 0 · u8 type · u32 data. */
import type { ByteReader } from '../byte-reader.ts';
import type { Span, StringPool } from './string-pool.ts';

export type ResValue =
  | { kind: 'null' | 'empty' }
  | { kind: 'reference' | 'attribute'; id: number }
  | { kind: 'string'; text: string; spans?: Span[] }
  | { kind: 'float'; value: number }
  | { kind: 'dimension'; value: number; unit: string }
  | { kind: 'fraction'; value: number; ofParent: boolean }
  | { kind: 'integer'; value: number; hex: boolean }
  | { kind: 'boolean'; value: boolean }
  | { kind: 'colour'; argb: number }
  | { kind: 'unknown'; type: number; data: number };

export function readResValue(reader: ByteReader, at: number, pool: StringPool): ResValue {
  return resValueOf(reader.u8(at + 3), reader.u32(at + 4), reader, at + 4, pool);
}

/** The value that a type byte and its data word stand for; `dataAt` is where the word lies, for floats. */
export function resValueOf(
  type: number,
  data: number,
  reader: ByteReader,
  dataAt: number,
  pool: StringPool,
): ResValue {
  switch (type) {
    case 0x00:
      return { kind: data === 1 ? 'empty' : 'null' };
    case 0x01:
    case 0x07: // resolved at run time
      return { kind: 'reference', id: data };
    case 0x02:
    case 0x08:
      return { kind: 'attribute', id: data };
    case 0x03: {
      const spans = pool.spans(data);
      return spans.length > 0
        ? { kind: 'string', text: pool.string(data), spans }
        : { kind: 'string', text: pool.string(data) };
    }
    case 0x04:
      return { kind: 'float', value: reader.f32(dataAt) };
    case 0x05:
      return {
        kind: 'dimension',
        value: complexToFloat(data),
        unit: ['px', 'dp', 'sp', 'pt', 'in', 'mm'][data & 0xf] ?? '?',
      };
    case 0x06:
      return { kind: 'fraction', value: complexToFloat(data), ofParent: (data & 0xf) === 1 };
    case 0x10:
      return { kind: 'integer', value: data | 0, hex: false };
    case 0x11:
      return { kind: 'integer', value: data, hex: true };
    case 0x12:
      return { kind: 'boolean', value: data !== 0 };
    case 0x1c: // #aarrggbb, #rrggbb, #argb, #rgb: all stored as 32 bits
    case 0x1d:
    case 0x1e:
    case 0x1f:
      return { kind: 'colour', argb: data };
    default:
      return { kind: 'unknown', type, data };
  }
}

// 24 bits of mantissa, whose radix point lies after bit 23, 16, 8 or 0 (`COMPLEX_RADIX_*`).
const RADIX = [2 ** -8, 2 ** -15, 2 ** -23, 2 ** -31];
const complexToFloat = (data: number): number => (data & 0xffffff00) * RADIX[(data >> 4) & 3]!;
