/**
 * String pools of compiled resources (AOSP `ResourceTypes.h`, `ResStringPool_header`).
 *
 *     u16 type=1 · u16 headerSize · u32 size · u32 strings · u32 styles · u32 flags · u32 stringsStart · u32 stylesStart
 *     u32 offset × strings · u32 offset × styles · string data · span data
 *
 * UTF-8 strings, which are modified UTF-8, carry two lengths (UTF-16 units, then bytes), each of one or two bytes;
 * UTF-16 strings carry one length of one or two units.
 */
import { UnreadableError } from '../../model/problem.ts';
import type { ByteReader } from '../byte-reader.ts';
import { decodeModifiedUtf8 } from './modified-utf8.ts';

export const STRING_POOL_CHUNK = 0x0001;
const UTF8_FLAG = 1 << 8;
const SPAN_END = 0xffffffff;
const MAX_SPANS = 10_000;

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

/**
 * Strings are decoded when asked for, and not kept: big tables hold many that nobody reads.
 *
 * @param maxCharacters that are given out in all; strings may overlap, so they can claim more than the file holds
 */
export function readStringPool(
  reader: ByteReader,
  at: number,
  maxCharacters = Number.POSITIVE_INFINITY,
): StringPool {
  if (reader.u16(at) !== STRING_POOL_CHUNK)
    throw new UnreadableError({
      code: 'resources.chunk',
      place: `${reader.what}, byte ${at}`,
      found: `a chunk of type ${reader.u16(at)}`,
      expected: 'a string pool',
    });
  const count = reader.u32(at + 8);
  const styleCount = reader.u32(at + 12);
  const decode = (reader.u32(at + 16) & UTF8_FLAG) !== 0 ? decodeUtf8 : decodeUtf16;
  const stringsAt = at + reader.u32(at + 20);
  const stylesAt = at + reader.u32(at + 24);
  const offsetsAt = at + reader.u16(at + 2);

  let charactersLeft = maxCharacters;

  const string = (index: number): string => {
    if (index >= count) throw damagedPool(reader, `string ${index}`, `a pool of ${count} strings`);
    const text = decode(reader, stringsAt + reader.u32(offsetsAt + 4 * index));
    charactersLeft -= text.length;
    if (charactersLeft < 0)
      throw damagedPool(reader, `string ${index}`, `more than ${maxCharacters} characters in all`);
    return text;
  };

  const spans = (index: number): Span[] => {
    if (index >= styleCount) return [];
    const found: Span[] = [];
    let offset = stylesAt + reader.u32(offsetsAt + 4 * (count + index));
    for (; reader.u32(offset) !== SPAN_END; offset += 12) {
      if (found.length >= MAX_SPANS)
        throw damagedPool(reader, `string ${index}`, `more than ${MAX_SPANS} runs of markup`);
      found.push({
        tag: string(reader.u32(offset)),
        firstChar: reader.u32(offset + 4),
        lastChar: reader.u32(offset + 8),
      });
    }
    return found;
  };

  return { count, string, spans };
}

// a mark at the beginning of a text is a part of it
const utf16Decoder = new TextDecoder('utf-16le', { ignoreBOM: true });

function decodeUtf8(reader: ByteReader, at: number): string {
  let offset = at + (reader.u8(at) & 0x80 ? 2 : 1);
  let length = reader.u8(offset);
  if (length & 0x80) length = ((length & 0x7f) << 8) | reader.u8(++offset);
  return decodeModifiedUtf8(reader.slice(offset + 1, length));
}

// What an app shows; UTF-16 pools could claim up to 2^31 units.
const MAX_UNITS = 2 ** 20;

function decodeUtf16(reader: ByteReader, at: number): string {
  let units = reader.u16(at);
  let offset = at + 2;
  if (units & 0x8000) {
    units = ((units & 0x7fff) << 16) | reader.u16(offset);
    offset += 2;
  }
  if (units > MAX_UNITS) throw damagedPool(reader, `byte ${at}`, `a string of ${units} characters`);
  return utf16Decoder.decode(reader.slice(offset, units * 2));
}

const damagedPool = (reader: ByteReader, place: string, found: string) =>
  new UnreadableError({ code: 'resources.string', place: `${reader.what}, ${place}`, found });
