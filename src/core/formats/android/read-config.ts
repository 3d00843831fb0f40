/**
 * The configuration under which a resource value holds (AOSP `ResourceTypes.h`, `ResTable_config`).
 * Older packers write fewer bytes; what is missing means *any*.
 *
 *      0 size   4 mcc · mnc   8 language · region   12 orientation · touch · density   16 keyboard · navigation · input · gender
 *     20 width · height px   24 version   28 layout · mode · smallest width   32 width · height dp
 *     36 script   40 variant   48 round · colour   52 script was computed   53 numbering system
 */
import { localeFields, type ResourceConfig, word } from '../../platform/android/resource-config.ts';
import type { ByteReader } from '../byte-reader.ts';

export function readResourceConfig(reader: ByteReader, at: number): ResourceConfig {
  const size = reader.u32(at);
  reader.slice(at, size);
  const u8 = (offset: number) => (offset + 1 <= size ? reader.u8(at + offset) : 0);
  const u16 = (offset: number) => (offset + 2 <= size ? reader.u16(at + offset) : 0);
  const ascii = (offset: number, length: number) =>
    offset + length <= size
      ? String.fromCharCode(...reader.slice(at + offset, length)).replace(/\0.*$/s, '')
      : '';
  const [layout, mode, input, colour] = [u8(28), u8(29), u8(18), u8(49)];
  const language = unpack(u8(8), u8(9), 0x61);
  const region = unpack(u8(10), u8(11), 0x30);
  const script = u8(52) !== 0 ? '' : ascii(36, 4);
  return {
    mcc: u16(4),
    mnc: u16(6),
    ...localeFields(language, script, region, ascii(40, 8), ascii(53, 8)),
    gender: word('gender', u8(19) & 3),
    layoutDirection: word('layoutDirection', layout >> 6),
    smallestWidthDp: u16(30),
    widthDp: u16(32),
    heightDp: u16(34),
    screenSize: word('screenSize', layout & 0xf),
    screenLong: word('screenLong', (layout >> 4) & 3),
    round: word('round', u8(48) & 3),
    colorGamut: word('colorGamut', colour & 3),
    dynamicRange: word('dynamicRange', (colour >> 2) & 3),
    orientation: word('orientation', u8(12)),
    uiMode: word('uiMode', mode & 0xf),
    night: word('night', (mode >> 4) & 3),
    density: u16(14),
    touchscreen: word('touchscreen', u8(13)),
    keysHidden: word('keysHidden', input & 3),
    keyboard: word('keyboard', u8(16)),
    navigationHidden: word('navigationHidden', (input >> 2) & 3),
    navigation: word('navigation', u8(17)),
    widthPx: u16(20),
    heightPx: u16(22),
    sdkVersion: u16(24),
    minorVersion: u16(26),
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
