/**
 * Compiled interface files of iOS (`.nib`, alone or in a `.storyboardc`): a run of objects with named values. Apple does not
 * document the format; this is how files of 2017 to 2024 are built. All numbers are little-endian.
 *
 *     "NIBArchive" · u32 version × 2 · (u32 count · u32 offset) of objects, keys, values and class names
 *     object: n class · n first value · n count of values       key: n length · text
 *     value:  n key · u8 type · data                            class: n length · n count · u32 × count · text
 *
 * n is a number in groups of seven bits, lowest first; the highest bit is set on the last.
 */
import { UnreadableError } from '../../model/problem.ts';
import { ByteReader } from '../byte-reader.ts';

/** Of a value that is another object, its number. */
export type NibValue = number | boolean | null | Uint8Array | { object: number };

export interface NibObject {
  className: string;
  /** In order; lists and dictionaries repeat a key. */
  values: [key: string, value: NibValue][];
}

const MAX_ENTRIES = 1_000_000;
const MAGIC = 'NIBArchive';

/** @throws UnreadableError where it is none, or is damaged */
export function readNibArchive(bytes: Uint8Array, file: string): NibObject[] {
  const reader = new ByteReader(bytes, file);
  if (String.fromCharCode(...bytes.subarray(0, MAGIC.length)) !== MAGIC)
    throw new UnreadableError({
      code: 'nib.none',
      place: file,
      found: 'an interface file of another form than those of iOS',
    });
  const run = (at: number): Run => {
    const count = reader.u32(MAGIC.length + at);
    if (count > MAX_ENTRIES) throw damaged(file, `${count} entries`);
    return { count, cursor: new Cursor(reader, reader.u32(MAGIC.length + at + 4)) };
  };
  const keys = readAll(run(16), (cursor) => cursor.text(cursor.number()));
  const classNames = readAll(run(32), (cursor) => {
    const [length, fallbacks] = [cursor.number(), cursor.number()];
    cursor.at += 4 * fallbacks;
    return cursor.text(length).replace(/\0$/, '');
  });
  const values = readAll(run(24), (cursor): [string, NibValue] => {
    const key = keys[cursor.number()] ?? '';
    return [key, cursor.value(file)];
  });
  return readAll(run(8), (cursor) => {
    const [name, first, count] = [cursor.number(), cursor.number(), cursor.number()];
    if (first + count > values.length) throw damaged(file, `values ${first} to ${first + count}`);
    return { className: classNames[name] ?? '', values: values.slice(first, first + count) };
  });
}

interface Run {
  count: number;
  cursor: Cursor;
}

function readAll<T>({ count, cursor }: Run, read: (cursor: Cursor) => T): T[] {
  return Array.from({ length: count }, () => read(cursor));
}

const decoder = new TextDecoder();

class Cursor {
  private readonly reader: ByteReader;
  at: number;

  constructor(reader: ByteReader, at: number) {
    this.reader = reader;
    this.at = at;
  }

  number(): number {
    let value = 0;
    for (let scale = 1; ; scale *= 128) {
      const byte = this.reader.u8(this.at++);
      value += (byte & 127) * scale;
      if (byte & 128 || scale > 2 ** 28) return value;
    }
  }

  text(length: number): string {
    return decoder.decode(this.take(length));
  }

  value(file: string): NibValue {
    const type = this.reader.u8(this.at++);
    switch (type) {
      case 0:
        return (this.reader.u8(this.step(1)) << 24) >> 24;
      case 1:
        return (this.reader.u16(this.step(2)) << 16) >> 16;
      case 2:
        return this.reader.u32(this.step(4)) | 0;
      case 3:
        return Number(this.reader.i64(this.step(8)));
      case 4:
        return false;
      case 5:
        return true;
      case 6:
        return this.reader.f32(this.step(4));
      case 7:
        return this.reader.f64(this.step(8));
      case 8:
        return this.take(this.number());
      case 9:
        return null;
      case 10:
        return { object: this.reader.u32(this.step(4)) };
      default:
        throw damaged(file, `a value of type ${type} at byte ${this.at - 1}`);
    }
  }

  private take(length: number): Uint8Array {
    return this.reader.slice(this.step(length), length);
  }

  private step(bytes: number): number {
    this.at += bytes;
    return this.at - bytes;
  }
}

const damaged = (place: string, found: string) =>
  new UnreadableError({
    code: 'nib.damaged',
    place,
    found: `an interface file with ${found}`,
    remedy: 'The file is cut off or damaged: build the package again.',
  });
