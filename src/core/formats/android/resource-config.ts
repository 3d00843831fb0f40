/**
 * The configuration under which a resource value holds (AOSP `ResourceTypes.h`, `ResTable_config`).
 * Older packers write fewer bytes; what is missing means *any*.
 */
import type { ByteReader } from '../byte-reader.ts';

export interface ResourceConfig {
  /** BCP 47, or empty for any. */
  locale: string;
  mcc: number;
  mnc: number;
  orientation: number;
  density: number;
  sdkVersion: number;
  smallestWidthDp: number;
  widthDp: number;
  heightDp: number;
  night: 'any' | 'yes' | 'no';
  layoutDirection: 'any' | 'ltr' | 'rtl';
  /** All bytes as written: two configurations are equal when these are. */
  key: string;
}

export function readResourceConfig(reader: ByteReader, at: number): ResourceConfig {
  const size = reader.u32(at);
  const u8 = (offset: number) => (offset + 1 <= size ? reader.u8(at + offset) : 0);
  const u16 = (offset: number) => (offset + 2 <= size ? reader.u16(at + offset) : 0);
  const ascii = (offset: number, length: number) =>
    offset + length <= size
      ? String.fromCharCode(...reader.slice(at + offset, length)).replace(/\0+$/, '')
      : '';
  const language = unpack(u8(8), u8(9), 0x61);
  const region = unpack(u8(10), u8(11), 0x30);
  const screenLayout = u8(28);
  const uiMode = u8(29);
  const scriptComputed = u8(52) !== 0;
  return {
    locale: localeTag(language, scriptComputed ? '' : ascii(36, 4), region, ascii(40, 8)),
    mcc: u16(4),
    mnc: u16(6),
    orientation: u8(12),
    density: u16(14),
    sdkVersion: u16(24),
    smallestWidthDp: u16(30),
    widthDp: u16(32),
    heightDp: u16(34),
    night: uiMode & 0x30 ? ((uiMode & 0x30) === 0x20 ? 'yes' : 'no') : 'any',
    layoutDirection: screenLayout & 0xc0 ? ((screenLayout & 0xc0) === 0x80 ? 'rtl' : 'ltr') : 'any',
    key: hex(reader.slice(at + 4, size - 4)),
  };
}

/** Two letters as they stand, or three packed into 15 bits with the top bit set. */
function unpack(first: number, second: number, base: number): string {
  if (first === 0) return '';
  if (!(first & 0x80)) return String.fromCharCode(first, second);
  return String.fromCharCode(
    base + (second & 0x1f),
    base + ((second >> 5) | ((first & 0x03) << 3)),
    base + ((first & 0x7c) >> 2),
  );
}

// Codes that the platform still writes in their withdrawn form (ISO 639-1/RA, 1989).
const MODERN: Record<string, string> = { iw: 'he', in: 'id', ji: 'yi', tl: 'fil', no: 'nb' };

function localeTag(language: string, script: string, region: string, variant: string): string {
  if (!language) return '';
  return [MODERN[language] ?? language, script, region.toUpperCase(), variant].filter(Boolean).join('-');
}

const hex = (bytes: Uint8Array): string =>
  Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0'))
    .join('')
    .replace(/(00)+$/, '');
