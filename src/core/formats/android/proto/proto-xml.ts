/** XML of a bundle (AOSP `Resources.proto`, message `XmlNode`), as the same elements that compiled XML gives. */
import type { PbfReader } from 'pbf';
import { UnreadableError } from '../../../model/problem.ts';
import type { XmlAttribute, XmlElement } from '../binary-xml.ts';
import { readItem } from './item.ts';
import { keep, readRoot } from './message.ts';

const MAX_DEPTH = 256;

export function readProtoXml(bytes: Uint8Array, name: string): XmlElement {
  const root = readRoot(bytes, name, nodeField(0), newNode()).element;
  if (!root)
    throw new UnreadableError({
      code: 'xml.cut-off',
      place: name,
      found: 'no element',
      expected: 'a whole XML document',
    });
  return root;
}

interface Node {
  element?: XmlElement;
  text?: string;
  line: number;
}
const newNode = (): Node => ({ line: 0 });

const nodeField = (depth: number) => (field: number, out: Node, pbf: PbfReader) => {
  if (depth > MAX_DEPTH)
    throw new UnreadableError({ code: 'xml.too-deep', found: `elements nested ${depth} deep` });
  if (field === 1) out.element = readElement(pbf, depth);
  else if (field === 2) out.text = pbf.readString();
  else if (field === 3) out.line = readLine(pbf);
};

function readElement(pbf: PbfReader, depth: number): XmlElement {
  keep(pbf);
  return pbf.readMessage<XmlElement>(
    (field, out) => {
      if (field === 3) out.name = pbf.readString();
      else if (field === 4) out.attributes.push(readAttribute(pbf));
      else if (field === 5) {
        const { element, text, line } = pbf.readMessage(nodeField(depth + 1), newNode());
        if (element) out.children.push({ ...element, line });
        else if (text !== undefined) out.text = (out.text ?? '') + text;
      }
    },
    { name: '', line: 0, attributes: [], children: [] },
  );
}

const readLine = (pbf: PbfReader): number =>
  pbf.readMessage<{ line: number }>(
    (field, out) => {
      if (field === 1) out.line = pbf.readVarint();
    },
    { line: 0 },
  ).line;

/**
 * Where the packer compiled no value, the text is the value. It stands here as it was written in the source; compiled
 * XML holds it without its escapes (AOSP aapt2, `ResourceUtils::StringBuilder`, spaces kept).
 */
function readAttribute(pbf: PbfReader): XmlAttribute {
  keep(pbf);
  const attribute = pbf.readMessage<Omit<XmlAttribute, 'value'> & Partial<XmlAttribute>>(
    (field, out) => {
      if (field === 1) out.namespace = pbf.readString();
      else if (field === 2) out.name = pbf.readString();
      else if (field === 3) out.raw = pbf.readString();
      else if (field === 5) out.resourceId = pbf.readVarint() >>> 0;
      else if (field === 6) out.value = readItem(pbf);
    },
    { namespace: '', name: '', resourceId: 0 },
  );
  if (attribute.value) return attribute as XmlAttribute;
  const text = unescaped(attribute.raw ?? '');
  return { ...attribute, ...(attribute.raw !== undefined && { raw: text }), value: { kind: 'string', text } };
}

const ESCAPE = /\\(?:u([0-9a-fA-F]{1,4})|(.?))/gs;

/** `\n`, `\t` and `\u0041` are what they stand for; before all else the backslash goes. */
const unescaped = (text: string): string =>
  text.replace(ESCAPE, (_, code: string | undefined, char: string) =>
    code ? String.fromCharCode(Number.parseInt(code, 16)) : ({ n: '\n', t: '\t' }[char] ?? char),
  );
