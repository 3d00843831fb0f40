import type { Socket } from 'node:net';

/** So many pieces may wait for the other side. */
const MOST_WAITING = 16;

/** One stream of the bridge: pieces in, pieces out, one at a time in each direction until the other side says OKAY. */
export class BridgeStream {
  readonly #send: (piece: Uint8Array) => void;
  readonly #acknowledge: () => void;
  readonly #onClosed: () => void;
  readonly #maxPieceBytes: number;
  readonly #aborter = new AbortController();
  #incoming: Uint8Array[] = [];
  #wakeReader?: () => void;
  #outgoing: Uint8Array[] = [];
  #awaitsOkay = false;
  #endsWhenSent = false;
  #inputEnded = false;
  #drained?: () => void;
  #onSent?: () => void;

  constructor(of: {
    send(piece: Uint8Array): void;
    acknowledge(): void;
    onClosed(): void;
    maxPieceBytes: number;
  }) {
    this.#send = of.send;
    this.#acknowledge = of.acknowledge;
    this.#onClosed = of.onClosed;
    this.#maxPieceBytes = of.maxPieceBytes;
  }

  /** Aborted once the other side has closed the stream. */
  get signal(): AbortSignal {
    return this.#aborter.signal;
  }

  // --- from the connection

  received(piece: Uint8Array): void {
    this.#incoming.push(piece);
    this.#wakeReader?.();
  }
  okay(): void {
    this.#awaitsOkay = false;
    this.#pump();
  }
  closedByPeer(): void {
    this.#outgoing = [];
    this.#inputEnded = true;
    this.#aborter.abort();
    this.#wakeReader?.();
    this.#drained?.();
  }

  // --- from the service

  /** Each piece is acknowledged when it is taken, so that a slow reader slows the sender. */
  async *input(): AsyncGenerator<Uint8Array> {
    for (;;) {
      const piece = this.#incoming.shift();
      if (piece) {
        this.#acknowledge();
        yield piece;
      } else if (this.#inputEnded) return;
      else
        await new Promise<void>((resolve) => {
          this.#wakeReader = resolve;
        });
    }
  }
  endInput(): void {
    this.#inputEnded = true;
    this.#wakeReader?.();
  }

  /** Bytes of both sides pass through until either one ends. */
  async join(socket: Socket): Promise<void> {
    socket.on('data', (bytes: Buffer) => {
      this.write(bytes);
      // no more is taken than the other side acknowledges
      if (this.#outgoing.length > MOST_WAITING) socket.pause();
      this.#onSent = () => socket.resume();
    });
    socket.on('error', () => socket.destroy());
    socket.on('close', () => {
      this.endInput();
      void this.end();
    });
    this.signal.addEventListener('abort', () => socket.destroy(), { once: true });
    socket.resume();
    for await (const piece of this.input())
      if (!socket.write(piece))
        await new Promise((resolve) => socket.once('drain', resolve).once('close', resolve));
    socket.end();
  }

  write(bytes: Uint8Array): void {
    if (this.signal.aborted) return;
    for (let at = 0; at < bytes.length; at += this.#maxPieceBytes)
      this.#outgoing.push(bytes.subarray(at, at + this.#maxPieceBytes));
    this.#pump();
  }

  /** Resolves when all has gone out. */
  async end(): Promise<void> {
    if (this.signal.aborted) return;
    await new Promise<void>((resolve) => {
      this.#drained = resolve;
      this.#endsWhenSent = true;
      this.#pump();
    });
  }

  #pump(): void {
    if (this.#awaitsOkay) return;
    const piece = this.#outgoing.shift();
    if (piece) {
      this.#awaitsOkay = true;
      this.#send(piece);
      this.#onSent?.();
    } else if (this.#endsWhenSent) {
      this.#endsWhenSent = false;
      this.#onClosed();
      this.#drained?.();
    }
  }
}
