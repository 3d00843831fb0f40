/**
 * Mapping files, which say what a shrinker renamed (R8, *Mapping file format*; ProGuard, *ReTrace*): where each class stands in the
 * file. A file of a hundred megabytes is read once in pieces; of a class no more is kept than its names and its place.
 *
 *     # comment, or `# KEY: value` at the head
 *     original.Class -> renamed.Class:
 *         members, each on an indented line
 */

/** Where the lines of one class's members stand. */
interface MappedClass {
  /** The name before it was renamed. */
  original: string;
  fromByte: number;
  toByte: number;
}

export interface MappingIndex {
  /** By the names after renaming. */
  classes: ReadonlyMap<string, MappedClass>;
  /** `compiler`, `pg_map_id`, `pg_map_hash` and the like, from the head of the file. */
  head: Readonly<Record<string, string>>;
}

const NEWLINE = 0x0a;
const SPACE = 0x20;
const TAB = 0x09;
const HASH = 0x23;
const MAX_LINE_BYTES = 2 ** 20;
const MAX_HEAD_LINES = 100;
const MAX_CLASSES = 2_000_000;
const CLASS_LINE = /^(\S+) -> (\S+):\s*$/;
const HEAD_LINE = /^#\s*([\w-]+):\s*(.+?)\s*$/;

/** Takes a mapping file in pieces of any size. */
export class MappingIndexer {
  #classes = new Map<string, MappedClass>();
  #head: Record<string, string> = {};
  #headLines = 0;
  #open: MappedClass | undefined;
  /** Of the file, at the beginning of the line that is not yet whole. */
  #lineAt = 0;
  #begun: Uint8Array[] = [];
  #begunBytes = 0;
  #isSkipped = false;
  #decoder = new TextDecoder();

  push(piece: Uint8Array): void {
    let at = 0;
    while (at < piece.length) {
      const end = piece.indexOf(NEWLINE, at);
      if (end < 0) break;
      this.#line(piece, at, end);
      this.#lineAt += this.#begunBytes + end + 1 - at;
      this.#begun = [];
      this.#begunBytes = 0;
      this.#isSkipped = false;
      at = end + 1;
    }
    if (at === piece.length) return;
    const rest = piece.slice(at);
    // a line of members, or one that is longer than any name: its bytes are counted, not kept
    if (this.#begunBytes === 0) this.#isSkipped = rest[0] === SPACE || rest[0] === TAB;
    this.#begunBytes += rest.length;
    if (this.#begunBytes > MAX_LINE_BYTES) {
      this.#isSkipped = true;
      this.#begun = [];
    }
    if (!this.#isSkipped) this.#begun.push(rest);
  }

  /** @throws RangeError where no line names a class */
  finish(): MappingIndex {
    if (this.#begunBytes > 0) this.#line(new Uint8Array(), 0, 0);
    if (this.#open) this.#open.toByte = this.#lineAt + this.#begunBytes;
    if (this.#classes.size === 0) throw new RangeError('no class is named in it');
    return { classes: this.#classes, head: this.#head };
  }

  #line(piece: Uint8Array, from: number, to: number): void {
    if (this.#isSkipped) return;
    const first = this.#begun[0]?.[0] ?? piece[from];
    if (first === SPACE || first === TAB || first === undefined) return;
    if (first === HASH && (this.#classes.size > 0 || this.#headLines >= MAX_HEAD_LINES)) return;
    const line =
      this.#begun.map((part) => this.#decoder.decode(part, { stream: true })).join('') +
      this.#decoder.decode(piece.subarray(from, to));
    if (first === HASH) {
      this.#headLines += 1;
      const [, key, value] = HEAD_LINE.exec(line) ?? [];
      if (key && value) this.#head[key] = value;
      return;
    }
    const [, original, renamed] = CLASS_LINE.exec(line) ?? [];
    if (!original || !renamed) return;
    if (this.#classes.size >= MAX_CLASSES) throw new RangeError(`it names more than ${MAX_CLASSES} classes`);
    if (this.#open) this.#open.toByte = this.#lineAt;
    const next = this.#lineAt + this.#begunBytes + to - from + 1;
    this.#open = { original, fromByte: next, toByte: next };
    this.#classes.set(renamed, this.#open);
  }
}
