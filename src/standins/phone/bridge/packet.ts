/**
 * Messages of the device bridge: a header of six little-endian words, then a payload.
 * (Android Open Source Project, packages/modules/adb, protocol.txt)
 */
export const COMMANDS = {
  CNXN: 0x4e584e43,
  AUTH: 0x48545541,
  OPEN: 0x4e45504f,
  OKAY: 0x59414b4f,
  WRTE: 0x45545257,
  CLSE: 0x45534c43,
} as const;
export type Command = keyof typeof COMMANDS;

export interface Packet {
  command: Command;
  arg0: number;
  arg1: number;
  payload: Uint8Array;
}

/** From this version on checksums are neither made nor looked at. */
export const VERSION_WITHOUT_CHECKSUM = 0x01000001;
export const MAX_PAYLOAD_BYTES = 256 * 1024;
const HEADER_BYTES = 24;

const NAMES = new Map<number, Command>(
  Object.entries(COMMANDS).map(([name, value]) => [value, name as Command]),
);

export function encodePacket({ arg0, arg1, command, payload }: Packet): Buffer {
  const bytes = Buffer.allocUnsafe(HEADER_BYTES + payload.length);
  const word = COMMANDS[command];
  bytes.writeUInt32LE(word, 0);
  bytes.writeUInt32LE(arg0 >>> 0, 4);
  bytes.writeUInt32LE(arg1 >>> 0, 8);
  bytes.writeUInt32LE(payload.length, 12);
  bytes.writeUInt32LE(checksum(payload), 16);
  bytes.writeUInt32LE((word ^ 0xffffffff) >>> 0, 20);
  bytes.set(payload, HEADER_BYTES);
  return bytes;
}

function checksum(payload: Uint8Array): number {
  let sum = 0;
  for (const byte of payload) sum = (sum + byte) >>> 0;
  return sum;
}

/** Bytes that are no message: the connection cannot go on. */
export class ProtocolTrouble extends Error {}

/** Cuts a stream of bytes into messages. */
export class PacketReader {
  #pending: Buffer = Buffer.alloc(0);

  /** A message has begun, and is not whole. */
  get isWithin(): boolean {
    return this.#pending.length > 0;
  }

  /** @throws ProtocolTrouble */
  *push(bytes: Uint8Array): Generator<Packet> {
    this.#pending = this.#pending.length === 0 ? Buffer.from(bytes) : Buffer.concat([this.#pending, bytes]);
    while (this.#pending.length >= HEADER_BYTES) {
      const word = this.#pending.readUInt32LE(0);
      const command = NAMES.get(word);
      const length = this.#pending.readUInt32LE(12);
      if (!command || this.#pending.readUInt32LE(20) !== (word ^ 0xffffffff) >>> 0)
        throw new ProtocolTrouble(`no message begins with 0x${word.toString(16).padStart(8, '0')}`);
      if (length > 2 ** 20) throw new ProtocolTrouble(`a payload of ${length} bytes`);
      if (this.#pending.length < HEADER_BYTES + length) return;
      yield {
        command,
        arg0: this.#pending.readUInt32LE(4),
        arg1: this.#pending.readUInt32LE(8),
        payload: this.#pending.subarray(HEADER_BYTES, HEADER_BYTES + length),
      };
      this.#pending = this.#pending.subarray(HEADER_BYTES + length);
    }
  }
}
