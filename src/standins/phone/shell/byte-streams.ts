/** Bytes on their way between commands. */

/** What a command writes to. */
export interface ByteSink {
  write(bytes: Uint8Array): void;
}

export const dropped: ByteSink = { write: () => {} };

/** What a command reads from: whole lines can be taken out of it, and what is left is for the next command. */
export class ByteInput implements AsyncIterable<Uint8Array> {
  readonly #source: AsyncIterator<Uint8Array>;
  #left: Uint8Array[] = [];

  constructor(source: AsyncIterable<Uint8Array>) {
    this.#source = source[Symbol.asyncIterator]();
  }

  static of(...pieces: Uint8Array[]): ByteInput {
    return new ByteInput(
      (async function* () {
        yield* pieces;
      })(),
    );
  }

  async #next(): Promise<Uint8Array | undefined> {
    const left = this.#left.shift();
    if (left) return left;
    const next = await this.#source.next();
    return next.done ? undefined : next.value;
  }

  /** Up to and with the next newline; less where it ends before, undefined where nothing is left. */
  async line(): Promise<Uint8Array | undefined> {
    const pieces: Uint8Array[] = [];
    for (;;) {
      const piece = await this.#next();
      if (!piece) break;
      const end = piece.indexOf(10);
      if (end < 0) {
        pieces.push(piece);
        continue;
      }
      pieces.push(piece.subarray(0, end + 1));
      if (end + 1 < piece.length) this.#left.unshift(piece.subarray(end + 1));
      break;
    }
    return pieces.length === 0 ? undefined : joined(pieces);
  }

  async *[Symbol.asyncIterator](): AsyncGenerator<Uint8Array> {
    for (let piece = await this.#next(); piece; piece = await this.#next()) yield piece;
  }
}

export function joined(pieces: readonly Uint8Array[]): Uint8Array {
  if (pieces.length === 1) return pieces[0]!;
  const whole = new Uint8Array(pieces.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}

/** From one command to the next while both run; who writes to one that nobody reads any more is told to end. */
export class BytePipe implements ByteSink, AsyncIterable<Uint8Array> {
  readonly #unread = new AbortController();
  #pieces: Uint8Array[] = [];
  #isEnded = false;
  #wake?: () => void;

  /** Aborted once nobody reads any more. */
  get unread(): AbortSignal {
    return this.#unread.signal;
  }

  write(bytes: Uint8Array): void {
    if (this.#unread.signal.aborted) return;
    this.#pieces.push(bytes);
    this.#wake?.();
  }
  end(): void {
    this.#isEnded = true;
    this.#wake?.();
  }
  leave(): void {
    this.#pieces = [];
    this.#unread.abort();
  }

  async *[Symbol.asyncIterator](): AsyncGenerator<Uint8Array> {
    for (;;) {
      const piece = this.#pieces.shift();
      if (piece) yield piece;
      else if (this.#isEnded) return;
      else
        await new Promise<void>((resolve) => {
          this.#wake = resolve;
        });
    }
  }
}

/** Keeps what is written. */
export class ByteKeeper implements ByteSink {
  readonly #pieces: Uint8Array[] = [];
  write = (bytes: Uint8Array): void => {
    this.#pieces.push(bytes);
  };
  bytes = (): Uint8Array => joined(this.#pieces);
}
