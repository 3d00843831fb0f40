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

/** Where the packer compiled no value, the text as written is the value. */
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
  return { ...attribute, value: attribute.value ?? { kind: 'string', text: attribute.raw ?? '' } };
}
