/**
 * Messages of the device bridge, as the computer's side codes them: six little-endian words, then a payload.
 * (Android Open Source Project, packages/modules/adb, protocol.txt)
 *
 *     command | arg0 | arg1 | payload length | checksum | command, inverted
 */
import type { AdbPacketData, AdbPacketInit } from '@yume-chan/adb';

const HEADER_BYTES = 24;
const LENGTH_AT = 12;

export function encodePacket({ arg0, arg1, checksum, command, magic, payload }: AdbPacketInit): Buffer {
  const bytes = Buffer.allocUnsafe(HEADER_BYTES + payload.length);
  for (const [i, word] of [command, arg0, arg1, payload.length, checksum, magic].entries())
    bytes.writeUInt32LE(word >>> 0, i * 4);
  bytes.set(payload, HEADER_BYTES);
  return bytes;
}

/** Cuts what arrives into messages, however it is pieced together. */
export class PacketCutter {
  #pending: Buffer = Buffer.alloc(0);

  *push(bytes: Buffer): Generator<AdbPacketData> {
    this.#pending = this.#pending.length === 0 ? bytes : Buffer.concat([this.#pending, bytes]);
    while (this.#pending.length >= HEADER_BYTES) {
      const end = HEADER_BYTES + this.#pending.readUInt32LE(LENGTH_AT);
      if (this.#pending.length < end) return;
      yield {
        command: this.#pending.readUInt32LE(0),
        arg0: this.#pending.readUInt32LE(4),
        arg1: this.#pending.readUInt32LE(8),
        payload: new Uint8Array(this.#pending.subarray(HEADER_BYTES, end)),
      };
      this.#pending = this.#pending.subarray(end);
    }
  }
}
