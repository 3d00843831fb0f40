/**
 * String pools of compiled resources (AOSP `ResourceTypes.h`, `ResStringPool_header`).
 *
 *     u16 type=1 · u16 headerSize · u32 size · u32 strings · u32 styles · u32 flags · u32 stringsStart · u32 stylesStart
 *     u32 offset × strings · u32 offset × styles · string data · span data
 *
 * UTF-8 strings carry two lengths (UTF-16 units, then bytes), each of one or two bytes;
 * UTF-16 strings carry one length of one or two units.
 */
import { UnreadableError } from '../../model/problem.ts';
import type { ByteReader } from '../byte-reader.ts';

export const STRING_POOL_CHUNK = 0x0001;
const UTF8_FLAG = 1 << 8;
const SPAN_END = 0xffffffff;

/** A run of markup: the tag as written (`b`, `font;color=#f00`), first and last character, inclusive. */
export interface Span {
  tag: string;
  firstChar: number;
  lastChar: number;
}

export interface StringPool {
  readonly count: number;
  string(index: number): string;
  spans(index: number): Span[];
}

/** Strings are decoded when asked for: big tables hold many that nobody reads. */
export function readStringPool(reader: ByteReader, at: number): StringPool {
  if (reader.u16(at) !== STRING_POOL_CHUNK)
    throw new UnreadableError({
      code: 'resources.chunk',
      place: `byte ${at}`,
      found: `a chunk of type ${reader.u16(at)}`,
      expected: 'a string pool',
    });
  const count = reader.u32(at + 8);
  const styleCount = reader.u32(at + 12);
  const utf8 = (reader.u32(at + 16) & UTF8_FLAG) !== 0;
  const stringsAt = at + reader.u32(at + 20);
  const stylesAt = at + reader.u32(at + 24);
  const offsetsAt = at + reader.u16(at + 2);
  const cache = new Map<number, string>();

  const string = (index: number): string => {
    if (index >= count)
      throw new UnreadableError({
        code: 'resources.string',
        place: `string ${index}`,
        found: `a pool of ${count} strings`,
      });
    let text = cache.get(index);
    if (text === undefined) {
      const offset = stringsAt + reader.u32(offsetsAt + 4 * index);
      text = utf8 ? decodeUtf8(reader, offset) : decodeUtf16(reader, offset);
      cache.set(index, text);
    }
    return text;
  };

  const spans = (index: number): Span[] => {
    if (index >= styleCount) return [];
    const found: Span[] = [];
    let offset = stylesAt + reader.u32(offsetsAt + 4 * (count + index));
    for (; reader.u32(offset) !== SPAN_END; offset += 12)
      found.push({
        tag: string(reader.u32(offset)),
        firstChar: reader.u32(offset + 4),
        lastChar: reader.u32(offset + 8),
      });
    return found;
  };

  return { count, string, spans };
}

const utf8Decoder = new TextDecoder('utf-8');
const utf16Decoder = new TextDecoder('utf-16le');

function decodeUtf8(reader: ByteReader, at: number): string {
  let offset = at + (reader.u8(at) & 0x80 ? 2 : 1);
  let bytes = reader.u8(offset);
  if (bytes & 0x80) bytes = ((bytes & 0x7f) << 8) | reader.u8(offset + 1);
  offset += reader.u8(offset) & 0x80 ? 2 : 1;
  return utf8Decoder.decode(reader.slice(offset, bytes));
}

function decodeUtf16(reader: ByteReader, at: number): string {
  let units = reader.u16(at);
  let offset = at + 2;
  if (units & 0x8000) {
    units = ((units & 0x7fff) << 16) | reader.u16(offset);
    offset += 2;
  }
  return utf16Decoder.decode(reader.slice(offset, units * 2));
}
