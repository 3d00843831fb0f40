/** Single values of protobuf resources (AOSP `frameworks/base/tools/aapt2/Resources.proto`, message `Item`). */
import type { PbfReader } from 'pbf';
import { ByteReader } from '../../byte-reader.ts';
import { type ResValue, resValueOf } from '../res-value.ts';
import type { Span } from '../string-pool.ts';

/** Reads an `Item` whose length comes next in the stream. */
export const readItem = (pbf: PbfReader): ResValue =>
  pbf.readMessage<{ value: ResValue }>(itemField, { value: { kind: 'null' } }).value;

function itemField(field: number, out: { value: ResValue }, pbf: PbfReader): void {
  if (field === 1) out.value = readReference(pbf);
  else if (field === 2 || field === 3) out.value = { kind: 'string', text: readStringMessage(pbf) };
  else if (field === 4) out.value = readStyledString(pbf);
  else if (field === 5) out.value = { kind: 'string', text: readStringMessage(pbf) };
  // an id resource stands for itself: the binary form writes `false`
  else if (field === 6) out.value = { kind: 'boolean', value: false };
  else if (field === 7) out.value = readPrimitive(pbf);
}

/** `String`, `RawString` and `FileReference` all carry their text as field 1. */
const readStringMessage = (pbf: PbfReader): string =>
  pbf.readMessage<{ text: string }>(
    (field, out) => {
      if (field === 1) out.text = pbf.readString();
    },
    { text: '' },
  ).text;

export function readReference(pbf: PbfReader): ResValue & { id: number } {
  const { type, id } = pbf.readMessage<{ type: number; id: number }>(
    (field, out) => {
      if (field === 1) out.type = pbf.readVarint();
      else if (field === 2) out.id = pbf.readVarint() >>> 0;
    },
    { type: 0, id: 0 },
  );
  return { kind: type === 1 ? 'attribute' : 'reference', id };
}

function readStyledString(pbf: PbfReader): ResValue {
  const spans: Span[] = [];
  const { text } = pbf.readMessage<{ text: string }>(
    (field, out) => {
      if (field === 1) out.text = pbf.readString();
      else if (field === 2) spans.push(readSpan(pbf));
    },
    { text: '' },
  );
  return spans.length > 0 ? { kind: 'string', text, spans } : { kind: 'string', text };
}

const readSpan = (pbf: PbfReader): Span =>
  pbf.readMessage<Span>(
    (field, out) => {
      if (field === 1) out.tag = pbf.readString();
      else if (field === 2) out.firstChar = pbf.readVarint();
      else if (field === 3) out.lastChar = pbf.readVarint();
    },
    { tag: '', firstChar: 0, lastChar: 0 },
  );

// Fields of `Primitive` by the type byte that the binary form gives the same value.
const TYPE_OF_FIELD = new Map([
  [6, 0x10],
  [7, 0x11],
  [8, 0x12],
  [9, 0x1c],
  [10, 0x1d],
  [11, 0x1e],
  [12, 0x1f],
  [13, 0x05],
  [14, 0x06],
]);

function readPrimitive(pbf: PbfReader): ResValue {
  return pbf.readMessage<{ value: ResValue }>(
    (field, out) => {
      const type = TYPE_OF_FIELD.get(field);
      if (field === 1) out.value = { kind: 'null' };
      else if (field === 2) out.value = { kind: 'empty' };
      else if (field === 3) out.value = { kind: 'float', value: pbf.readFloat() };
      else if (type !== undefined)
        out.value = resValueOf(type, pbf.readVarint(true) >>> 0, NO_BYTES, 0, NO_STRINGS);
    },
    { value: { kind: 'null' } },
  ).value;
}

const NO_BYTES = new ByteReader(new Uint8Array(), 'a protobuf value');
const NO_STRINGS = { count: 0, string: () => '', spans: () => [] };
