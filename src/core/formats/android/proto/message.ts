/** Protobuf messages (Protocol Buffers, *Encoding*), decoded field by field; damage becomes an `UnreadableError`. */
import { PbfReader } from 'pbf';
import { UnreadableError } from '../../../model/problem.ts';

/** Takes one field into `out`; a field that it does not read is skipped. */
type ReadField<T> = (field: number, out: T, pbf: PbfReader) => void;

/** @throws UnreadableError with the byte at which decoding ended */
export function readRoot<T>(bytes: Uint8Array, what: string, readField: ReadField<T>, out: T): T {
  const pbf = new BoundedReader(bytes);
  try {
    pbf.readFields(readField, out);
  } catch (cause) {
    if (cause instanceof UnreadableError) throw cause;
    throw damaged(what, pbf.pos, cause);
  }
  if (pbf.pos > bytes.length) throw damaged(what, bytes.length);
  return out;
}

// The largest bundles hold some millions; a message of a few bytes may claim as many empty ones.
const MAX_FIELDS = 8_000_000;
const MAX_KEPT = 600_000;

/** Counts what it gives out, so that a hostile message ends in an error and not in an empty memory. */
class BoundedReader extends PbfReader {
  private fieldsLeft = MAX_FIELDS;
  private keptLeft = MAX_KEPT;

  override nextField(end?: number): number {
    this.fieldsLeft -= 1;
    return this.fieldsLeft < 0 ? tooMany() : super.nextField(end);
  }

  /** To be told of each value or attribute that is kept. */
  keep(): void {
    this.keptLeft -= 1;
    if (this.keptLeft < 0) tooMany();
  }
}

function tooMany(): never {
  throw new UnreadableError({
    code: 'proto.too-large',
    found: 'more fields than any bundle holds',
    remedy: 'No packer writes this: the file is damaged or was made to harm.',
  });
}

/** The readers of this folder are all given a bounded one. */
export const keep = (pbf: PbfReader): void => (pbf as BoundedReader).keep();

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
