/** The phone on a TCP port: the device's side of the bridge, for any bridge client. */
import { randomBytes } from 'node:crypto';
import { createServer, type Socket } from 'node:net';
import type { Ports } from '../../../core/model/ports.ts';
import { DeviceLink } from '../../device-link.ts';
import type { DeletedMessages, DeliveredMessage } from '../../messages/message-service.ts';
import { StoreLink } from '../../store/store-link.ts';
import type { PhoneApp } from '../app-model.ts';
import { PhoneOs } from '../os/phone-os.ts';
import { quirkyShape, setUpQuirks } from '../os/quirky-phone.ts';
import type { Sites } from '../os/verify-hosts.ts';
import type { Quirk } from '../quirks.ts';
import type { PhoneShape } from '../shapes.ts';
import { BridgeStream } from './bridge-stream.ts';
import {
  encodePacket,
  MAX_PAYLOAD_BYTES,
  type Packet,
  PacketReader,
  ProtocolTrouble,
  VERSION_WITHOUT_CHECKSUM,
} from './packet.ts';
import { ReverseForwards } from './reverse-forwards.ts';
import { serviceFor } from './services.ts';

export interface PhoneOptions {
  shape: PhoneShape;
  /** What the package reader asks of its surroundings: `nodePorts` of `fenlok/node`. */
  ports: Ports;
  /** Apps whose code the phone knows; what else is installed shows a blank screen. */
  apps?: readonly PhoneApp[];
  /** 0 takes a free one. Ports 5555 to 5585 are those of emulators, and are refused. */
  port?: number;
  /** What sites serve at `/.well-known/assetlinks.json`, by host. */
  sites?: Sites;
  /** The messaging service that the phone is a device of. */
  push?: { devices: string; secret: string };
  /** The store that its user is signed in to, as one of its testers. */
  store?: { store: string; secret: string; account: string };
  /** Where its apps' ad networks answer: `http://127.0.0.1:PORT`. */
  ads?: string;
  /** What it does as phones in the field do. */
  quirks?: readonly Quirk[];
  /** Whether a computer is let in at once, after its user has said so on the phone, or never. */
  access?: 'open' | 'asked' | 'refused';
  /** For so long a message of a client that has begun may stay half. */
  halfMessageMs?: number;
}

export interface ServedPhone {
  os: PhoneOs;
  /** `127.0.0.1:PORT`, as bridge clients name it. */
  address: string;
  port: number;
  /** Once it lets clients in: at once, unless it reboots. */
  booted(): Promise<void>;
  /** Cuts every connection, as when the cable is pulled; new ones are taken. */
  cutOff(): void;
  close(): Promise<void>;
}

/** For so long it lets nobody in while it boots. */
const BOOT_MS = 500;

const isEmulatorPort = (port: number): boolean => port >= 5554 && port <= 5585;

/** Boots a phone and listens on loopback. */
export async function servePhone(options: PhoneOptions): Promise<ServedPhone> {
  const { access = 'open', ads, apps = [], halfMessageMs = HALF_MESSAGE_MS, port = 0 } = options;
  const { ports, push, shape, sites, store } = options;
  if (isEmulatorPort(port))
    throw new RangeError(`port ${port} is taken for an emulator by the bridge's server`);
  const quirks = new Set(options.quirks);
  const os = new PhoneOs(quirkyShape(shape, quirks), ports, apps, sites);
  setUpQuirks(os, quirks);
  if (push) {
    const onMessage = (message: DeliveredMessage | DeletedMessages) => os.messages.receive(message);
    os.messages.connect(new DeviceLink({ ...push, deviceId: os.serial, onMessage }));
  }
  if (ads !== undefined) os.ads.connect(ads);
  if (store) os.store.connect(new StoreLink(store), store.account);
  const sockets = new Set<Socket>();
  let isDown = false;
  let up = Promise.resolve();
  const server = createServer({ noDelay: true }, (socket) => {
    sockets.add(socket);
    socket.on('close', () => sockets.delete(socket));
    if (isDown) {
      socket.destroy();
      return;
    }
    new Conversation(socket, os, access, halfMessageMs);
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  const address = server.address();
  const taken = typeof address === 'object' && address ? address.port : port;
  const cutOff = () => {
    for (const socket of sockets) socket.destroy();
  };
  os.onReboot = () => {
    isDown = true;
    cutOff();
    up = new Promise((resolve) => {
      setTimeout(() => {
        isDown = false;
        resolve();
      }, BOOT_MS).unref();
    });
  };
  return {
    os,
    address: `127.0.0.1:${taken}`,
    port: taken,
    cutOff,
    booted: () => up,
    close: async () => {
      os.close();
      cutOff();
      await new Promise((resolve) => server.close(resolve));
    },
  };
}

const AUTH_TOKEN = 1;
const AUTH_PUBLIC_KEY = 3;
const TOKEN_BYTES = 20;
/** As the first version of the protocol had it; less is no client. */
const LEAST_PAYLOAD_BYTES = 64;
/** For so long a message that has begun may stay half. */
const HALF_MESSAGE_MS = 30_000;
const NOTHING = new Uint8Array();

/** One connection: greeting, then streams. */
class Conversation {
  readonly #socket: Socket;
  readonly #os: PhoneOs;
  readonly #access: NonNullable<PhoneOptions['access']>;
  readonly #streams = new Map<number, BridgeStream>();
  /** Asked for by the phone; the computer answers OKAY or CLSE. */
  readonly #asked = new Map<number, (theirId: number | undefined) => void>();
  readonly #reverse = new ReverseForwards((name) => this.#openToHost(name));
  #isIn: boolean;
  #nextId = 1;
  #maxPieceBytes = 4096;

  constructor(
    socket: Socket,
    os: PhoneOs,
    access: NonNullable<PhoneOptions['access']>,
    halfMessageMs: number,
  ) {
    this.#socket = socket;
    this.#os = os;
    this.#access = access;
    this.#isIn = access === 'open';
    const reader = new PacketReader();
    socket.on('data', (bytes) => {
      try {
        for (const packet of reader.push(bytes)) this.#answer(packet);
        socket.setTimeout(reader.isWithin ? halfMessageMs : 0);
      } catch (error) {
        if (!(error instanceof ProtocolTrouble)) throw error;
        socket.destroy();
      }
    });
    socket.on('timeout', () => socket.destroy());
    socket.on('error', () => socket.destroy());
    socket.on('close', () => this.#end());
  }

  #send(packet: Packet): void {
    if (!this.#socket.destroyed) this.#socket.write(encodePacket(packet));
  }

  #greet(): void {
    this.#send({
      command: 'CNXN',
      arg0: VERSION_WITHOUT_CHECKSUM,
      arg1: MAX_PAYLOAD_BYTES,
      payload: Buffer.from(banner(this.#os)),
    });
  }

  /** Keys are not kept, so that a signature is of nobody known, and the public key asks the user. */
  #askForKey(): void {
    this.#send({ command: 'AUTH', arg0: AUTH_TOKEN, arg1: 0, payload: randomBytes(TOKEN_BYTES) });
  }

  #streamTo(ourId: number, theirId: number): BridgeStream {
    const to = (command: 'OKAY' | 'WRTE' | 'CLSE', payload: Uint8Array = NOTHING) =>
      this.#send({ command, arg0: ourId, arg1: theirId, payload });
    const stream = new BridgeStream({
      send: (piece) => to('WRTE', piece),
      acknowledge: () => to('OKAY'),
      onClosed: () => {
        this.#streams.delete(ourId);
        to('CLSE');
      },
      maxPieceBytes: this.#maxPieceBytes,
    });
    this.#streams.set(ourId, stream);
    return stream;
  }

  async #open(theirId: number, name: string): Promise<void> {
    const serve = await serviceFor(name, { os: this.#os, reverse: this.#reverse });
    if (!serve) {
      // a failed OPEN is the only message whose first id may be 0 (protocol.txt)
      this.#send({ command: 'CLSE', arg0: 0, arg1: theirId, payload: NOTHING });
      return;
    }
    const ourId = this.#nextId++;
    const stream = this.#streamTo(ourId, theirId);
    this.#send({ command: 'OKAY', arg0: ourId, arg1: theirId, payload: NOTHING });
    await serve(stream).catch((error: Error) => {
      stream.write(Buffer.from(`${error.message}\n`));
      void stream.end();
    });
  }

  #openToHost(name: string): Promise<BridgeStream | undefined> {
    const ourId = this.#nextId++;
    return new Promise((resolve) => {
      this.#asked.set(ourId, (theirId) =>
        resolve(theirId === undefined ? undefined : this.#streamTo(ourId, theirId)),
      );
      this.#send({ command: 'OPEN', arg0: ourId, arg1: 0, payload: Buffer.from(`${name}\0`) });
    });
  }

  #settle(ourId: number, theirId: number | undefined): boolean {
    const waits = this.#asked.get(ourId);
    this.#asked.delete(ourId);
    waits?.(theirId);
    return waits !== undefined;
  }

  #answer({ arg0, arg1, command, payload }: Packet): void {
    if (command === 'CNXN') this.#connect(arg1);
    else if (command === 'AUTH') {
      if (arg0 !== AUTH_PUBLIC_KEY) this.#askForKey();
      else if (this.#access === 'asked') {
        this.#isIn = true;
        this.#greet();
      }
    } else if (!this.#isIn) this.#socket.destroy();
    else if (command === 'OPEN') {
      const name = Buffer.from(payload).toString('utf8').replace(/\0$/, '');
      this.#open(arg0, name).catch(() => this.#socket.destroy());
    } else if (command === 'OKAY') {
      if (!this.#settle(arg1, arg0)) this.#streams.get(arg1)?.okay();
    } else if (command === 'WRTE') this.#streams.get(arg1)?.received(Buffer.from(payload));
    else if (command === 'CLSE') {
      this.#settle(arg1, undefined);
      this.#streams.get(arg1)?.closedByPeer();
      this.#streams.delete(arg1);
    }
  }

  #connect(largestPayloadBytes: number): void {
    if (largestPayloadBytes < LEAST_PAYLOAD_BYTES) {
      // nothing could ever be sent
      this.#socket.destroy();
      return;
    }
    this.#maxPieceBytes = Math.min(largestPayloadBytes, MAX_PAYLOAD_BYTES);
    if (this.#isIn) this.#greet();
    else this.#askForKey();
  }

  #end(): void {
    this.#reverse.close();
    for (const ourId of [...this.#asked.keys()]) this.#settle(ourId, undefined);
    for (const stream of this.#streams.values()) stream.closedByPeer();
  }
}

const banner = ({ quirks, shape: { model, name } }: PhoneOs): string =>
  `device::ro.product.name=standin_${name};ro.product.model=${model};ro.product.device=${name};features=${quirks.has('old-shell') ? '' : 'shell_v2,'}cmd`;
