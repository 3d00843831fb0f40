/** Protobuf messages (Protocol Buffers, *Encoding*), decoded field by field; damage becomes an `UnreadableError`. */
import { PbfReader } from 'pbf';
import { UnreadableError } from '../../../model/problem.ts';

/** Takes one field into `out`; a field that it does not read is skipped. */
export type ReadField<T> = (field: number, out: T, pbf: PbfReader) => void;

/** @throws UnreadableError with the byte at which decoding ended */
export function readRoot<T>(bytes: Uint8Array, what: string, readField: ReadField<T>, out: T): T {
  const pbf = new PbfReader(bytes);
  try {
    pbf.readFields(readField, out);
  } catch (cause) {
    if (cause instanceof UnreadableError) throw cause;
    throw damaged(what, pbf.pos, cause);
  }
  if (pbf.pos > bytes.length) throw damaged(what, bytes.length);
  return out;
}

const damaged = (what: string, byte: number, cause?: unknown) =>
  new UnreadableError(
    {
      code: 'proto.damaged',
      place: `${what}, byte ${byte}`,
      found: 'a protobuf message that cannot be decoded',
      remedy: 'The file is cut off or damaged: build the bundle again.',
    },
    { cause },
  );
