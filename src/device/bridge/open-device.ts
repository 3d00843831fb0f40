/** Ways to a device: through the bridge's server (a phone over USB), or straight to it over TCP. */
import { createConnection, type Socket } from 'node:net';
import {
  ADB_DAEMON_DEFAULT_FEATURES,
  Adb,
  type AdbDaemonConnection,
  AdbDaemonTransport,
  AdbFeature,
  type AdbPacketData,
  type AdbPacketInit,
  AdbServerClient,
} from '@yume-chan/adb';
import { AdbServerNodeTcpConnector } from '@yume-chan/adb-server-node-tcp';
import { Consumable, PushReadableStream } from '@yume-chan/stream-extra';
import { AndroidDevice } from '../android/android-device.ts';
import { OutOfReach } from '../out-of-reach.ts';
import { bridgeKey } from './bridge-key.ts';
import type { ListedDevice } from './bridge-line.ts';
import { lineOn } from './line-on.ts';
import { encodePacket, PacketCutter } from './packets.ts';

export interface BridgeOptions {
  /** Where the bridge's server listens; its own default is port 5037 of this machine. */
  server?: { host: string; port: number };
  /** Keeps the key by which phones know this computer. */
  stateFolder: string;
}

const SERVER = { host: '127.0.0.1', port: 5037 };
const CONNECT_MS = 10_000;

/** `host:port`, with a name, an IPv4 or a bracketed IPv6 address. */
const ADDRESS = /^(\[[0-9a-f:]+\]|[\w.-]+):(\d{1,5})$/i;

/** The devices that the bridge's server knows. @throws OutOfReach */
export async function listDevices({ server = SERVER }: BridgeOptions): Promise<ListedDevice[]> {
  const client = new AdbServerClient(new AdbServerNodeTcpConnector(server));
  const devices = await client.getDevices(['device', 'offline', 'unauthorized']).catch((cause: Error) => {
    throw noServer(server, cause);
  });
  return devices.map(({ model, serial, state }) => ({ serial, state, model }));
}

/**
 * Opens a device: one at an address straight over TCP, one with a serial number through the bridge's server. Without a name, the
 * only one that the server has.
 *
 * @param through `server` for an address too
 * @throws OutOfReach
 */
export async function openDevice(
  serial: string | undefined,
  options: BridgeOptions,
  through: 'direct' | 'server' = serial && ADDRESS.test(serial) ? 'direct' : 'server',
): Promise<AndroidDevice> {
  if (through === 'direct')
    return new AndroidDevice(await lineOn(serial!, () => connectDirectly(serial!, options.stateFolder)));
  const chosen = await choose(serial, options);
  return new AndroidDevice(
    await lineOn(chosen, () => connectThroughServer(chosen, options.server ?? SERVER)),
  );
}

async function choose(serial: string | undefined, options: BridgeOptions): Promise<string> {
  const devices = await listDevices(options);
  const say = devices.map((device) => `${device.serial} (${device.state})`).join(', ');
  const found = serial ? devices.find((device) => device.serial === serial) : devices[0];
  if (!found)
    throw new OutOfReach(
      'unknown',
      serial
        ? `no device ${serial} on the bridge; there ${devices.length > 0 ? `are ${say}` : 'are none'}`
        : 'no device on the bridge. Attach a phone with USB debugging on, or name one: --device host:port',
    );
  if (!serial && devices.length > 1)
    throw new OutOfReach('unknown', `several devices are attached: ${say}. Choose with --device SERIAL`);
  if (found.state === 'unauthorized') throw unauthorised(found.serial);
  if (found.state === 'offline')
    throw new OutOfReach('offline', `${found.serial} is offline: unplug it, plug it in again, and unlock it`);
  return found.serial;
}

async function connectThroughServer(serial: string, server: { host: string; port: number }): Promise<Adb> {
  const client = new AdbServerClient(new AdbServerNodeTcpConnector(server));
  return client.createAdb({ serial }).catch((cause: Error) => {
    if (cause instanceof AdbServerClient.UnauthorizedError) throw unauthorised(serial, cause);
    if ((cause as NodeJS.ErrnoException).code === 'ECONNREFUSED') throw noServer(server, cause);
    throw new OutOfReach('gone', `${serial} does not answer: ${cause.message}`, { cause });
  });
}

async function connectDirectly(address: string, stateFolder: string): Promise<Adb> {
  const [, host = '', port = ''] = ADDRESS.exec(address) ?? [];
  const socket = await dial(address, host.replace(/^\[|\]$/g, ''), Number(port));
  let timer: NodeJS.Timeout | undefined;
  const tooLate = new Promise<never>((_, reject) => {
    const fail = (error: OutOfReach) => {
      socket.destroy();
      reject(error);
    };
    timer = setTimeout(() => fail(unauthorised(address)), CONNECT_MS);
    socket.once('close', () =>
      fail(new OutOfReach('no-answer', `${address} hung up: is it a phone's bridge port?`)),
    );
  });
  try {
    const transport = AdbDaemonTransport.authenticate({
      serial: address,
      connection: connectionOver(socket),
      credentialStore: bridgeKey(stateFolder),
      features: ADB_DAEMON_DEFAULT_FEATURES.filter((feature) => feature !== AdbFeature.DelayedAck),
      initialDelayedAckBytes: 0,
    });
    return new Adb(await Promise.race([transport, tooLate]));
  } finally {
    clearTimeout(timer);
    tooLate.catch(() => {});
  }
}

function dial(address: string, host: string, port: number): Promise<Socket> {
  return new Promise((resolve, reject) => {
    const socket = createConnection({ host, port, noDelay: true, timeout: CONNECT_MS });
    const fail = (cause?: Error) => {
      socket.destroy();
      const why = (cause as NodeJS.ErrnoException | undefined)?.code ?? 'no answer';
      reject(
        new OutOfReach(
          'no-answer',
          `nothing answers at ${address} (${why}). Is the phone on, and its port right?`,
          { cause },
        ),
      );
    };
    socket.once('error', fail);
    socket.once('timeout', fail);
    socket.once('connect', () => {
      socket.off('error', fail).off('timeout', fail).setTimeout(0);
      // what goes wrong later shows in the closing of the line
      socket.on('error', () => socket.destroy());
      resolve(socket);
    });
  });
}

/**
 * Packets over the socket, coded here: the library's own stages of streams take longer than the phone does. No more than a packet a
 * stream is ever on its way, since each waits to be acknowledged; so nothing need slow the socket down.
 */
function connectionOver(socket: Socket): AdbDaemonConnection {
  const packets = new PacketCutter();
  const readable = new PushReadableStream<AdbPacketData>((controller) => {
    socket.on('data', (bytes: Buffer) => {
      for (const packet of packets.push(bytes)) void controller.enqueue(packet).catch(() => {});
    });
    socket.on('close', () => controller.close());
  });
  const writable = new Consumable.WritableStream<AdbPacketInit>({
    write: (packet) => {
      socket.write(encodePacket(packet));
    },
    close: () => {
      socket.end();
    },
    abort: () => {
      socket.destroy();
    },
  });
  return { readable, writable };
}

const unauthorised = (serial: string, cause?: Error): OutOfReach =>
  new OutOfReach(
    'unauthorised',
    `${serial} does not let this computer in: unlock it, and accept the question about debugging`,
    { cause },
  );

const noServer = ({ host, port }: { host: string; port: number }, cause: Error): OutOfReach =>
  new OutOfReach(
    'no-answer',
    `no bridge server answers at ${host}:${port}. Start it with  adb start-server , or name a phone by its address: --device host:port`,
    { cause },
  );
