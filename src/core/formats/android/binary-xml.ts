/**
 * Compiled XML (AOSP `ResourceTypes.h`, `ResXMLTree_*`): a string pool, a map from attribute names to
 * resource ids, then a flat run of start and end chunks.
 *
 *     start element: header(16: type, sizes, line, comment) · u32 ns · u32 name · u16 attrStart · u16 attrSize · u16 attrCount …
 *     attribute:     u32 ns · u32 name · u32 raw · Res_value(8)
 */
import { UnreadableError } from '../../model/problem.ts';
import { ByteReader } from '../byte-reader.ts';
import { type ResValue, readResValue } from './res-value.ts';
import { readStringPool, STRING_POOL_CHUNK, type StringPool } from './string-pool.ts';

export interface XmlAttribute {
  /** Namespace URI, or empty. */
  namespace: string;
  name: string;
  /** Resource id of the attribute, 0 where it has none. Names may be stripped; ids stay. */
  resourceId: number;
  value: ResValue;
  /** The text as written in the source, where the packer kept it. */
  raw?: string;
}

export interface XmlElement {
  name: string;
  line: number;
  attributes: XmlAttribute[];
  children: XmlElement[];
  /** Character data directly inside, where there is any. */
  text?: string;
}

const XML_CHUNK = 0x0003;
const RESOURCE_MAP_CHUNK = 0x0180;
const START_ELEMENT = 0x0102;
const END_ELEMENT = 0x0103;
const CHARACTER_DATA = 0x0104;
const NONE = 0xffffffff;
const MAX_DEPTH = 256;
const MAX_CHARACTERS = 16 * 2 ** 20;
export const MAX_XML_BYTES = 8 * 2 ** 20;
const ATTRIBUTE_BYTES = 20;

export function readBinaryXml(bytes: Uint8Array, name: string): XmlElement {
  const reader = new ByteReader(bytes, name);
  if (bytes.length < 8 || reader.u16(0) !== XML_CHUNK)
    throw new UnreadableError({
      code: 'xml.not-binary',
      place: name,
      found: 'something that is not compiled XML',
      expected: 'a compiled XML file',
      remedy: 'Give the package as the packer wrote it.',
    });
  const end = Math.min(reader.u32(4), bytes.length);
  let pool: StringPool | undefined;
  let ids: number[] = [];
  let root: XmlElement | undefined;
  const open: XmlElement[] = [];

  for (let at = reader.u16(2); at + 8 <= end; at += chunkSize(reader, at, name)) {
    const type = reader.u16(at);
    if (type === STRING_POOL_CHUNK) pool = readStringPool(reader, at, MAX_CHARACTERS);
    else if (type === RESOURCE_MAP_CHUNK) ids = readResourceMap(reader, at);
    else if (type === START_ELEMENT && pool) {
      const element = readStart(reader, at, pool, ids);
      if (open.length >= MAX_DEPTH)
        throw new UnreadableError({
          code: 'xml.too-deep',
          place: `${name}, line ${element.line}`,
          found: `elements nested ${open.length} deep`,
        });
      if (open.length > 0) open[open.length - 1]!.children.push(element);
      else root ??= element;
      open.push(element);
    } else if (type === END_ELEMENT) open.pop();
    else if (type === CHARACTER_DATA && pool && open.length > 0) {
      const inside = open[open.length - 1]!;
      inside.text = (inside.text ?? '') + pool.string(reader.u32(at + reader.u16(at + 2)));
    }
  }
  if (!root || open.length > 0)
    throw new UnreadableError({
      code: 'xml.cut-off',
      place: name,
      found: root ? `<${open.at(-1)!.name}> that never ends` : 'no element',
      expected: 'a whole XML document',
    });
  return root;
}

/** Attribute of the platform's namespace by its resource id, else by name. */
export function attributeOf(
  element: XmlElement,
  name: string,
  resourceId?: number,
): XmlAttribute | undefined {
  return (
    element.attributes.find((attribute) => resourceId !== undefined && attribute.resourceId === resourceId) ??
    element.attributes.find((attribute) => attribute.name === name)
  );
}

function readStart(reader: ByteReader, at: number, pool: StringPool, ids: number[]): XmlElement {
  const body = at + reader.u16(at + 2);
  const attributesAt = body + reader.u16(body + 8);
  const attributeSize = reader.u16(body + 10);
  const count = reader.u16(body + 12);
  if (attributeSize < ATTRIBUTE_BYTES || attributesAt + count * attributeSize > at + reader.u32(at + 4))
    throw new UnreadableError({
      code: 'xml.damaged',
      place: `${reader.what}, byte ${at}`,
      found: `${count} attributes of ${attributeSize} bytes in an element of ${reader.u32(at + 4)}`,
    });
  const attributes = Array.from({ length: count }, (_, i): XmlAttribute => {
    const from = attributesAt + i * attributeSize;
    const nameIndex = reader.u32(from + 4);
    const raw = reader.u32(from + 8);
    return {
      namespace: optional(pool, reader.u32(from)) ?? '',
      name: pool.string(nameIndex),
      resourceId: ids[nameIndex] ?? 0,
      value: readResValue(reader, from + 12, pool),
      raw: optional(pool, raw),
    };
  });
  return { name: pool.string(reader.u32(body + 4)), line: reader.u32(at + 8), attributes, children: [] };
}

const optional = (pool: StringPool, index: number): string | undefined =>
  index === NONE ? undefined : pool.string(index);

function readResourceMap(reader: ByteReader, at: number): number[] {
  const header = reader.u16(at + 2);
  const bytes = chunkSize(reader, at, reader.what) - header;
  reader.slice(at + header, bytes);
  return Array.from({ length: Math.floor(bytes / 4) }, (_, i) => reader.u32(at + header + 4 * i));
}

/** The size of a chunk; one that does not move forward would loop for ever. */
export function chunkSize(reader: ByteReader, at: number, name: string): number {
  const size = reader.u32(at + 4);
  if (size < 8)
    throw new UnreadableError({
      code: 'resources.chunk',
      place: `${name}, byte ${at}`,
      found: `a chunk of ${size} bytes`,
      expected: 'at least its header of 8',
    });
  return size;
}
