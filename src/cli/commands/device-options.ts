/** Options of every command that works on a phone, and how it is opened. */
import { homedir } from 'node:os';
import { join } from 'node:path';
import type { Command } from 'commander';
import type { Device } from '../../device/device.ts';
import { openPhone, type PhoneOptions } from '../../device/open-phone.ts';
import { readIosCommands } from '../../node/project.ts';
import { type Io, UsageError } from '../io.ts';

export interface BridgeCall {
  bridge?: string;
  server?: string;
}

export interface DeviceCall extends BridgeCall {
  device?: string;
}

/** How the bridge is reached. */
export const withBridge = (command: Command): Command =>
  command
    .option(
      '--bridge <way>',
      "server (the bridge's own) or direct (straight over TCP); a host:port goes directly",
    )
    .option('--server <host:port>', "where the bridge's server listens (default: 127.0.0.1:5037)");

/** Of commands that work on one phone. */
export const withDevice = (command: Command): Command =>
  withBridge(
    command.option(
      '--device <serial>',
      'a serial number, host:port, or ios:host:port of a lookout (default: the one phone that is there)',
    ),
  );

/** Opens the phone, and closes it whatever comes of the work. @throws OutOfReach */
export async function onDevice<T>(
  call: DeviceCall,
  io: Io,
  work: (device: Device, stateFolder: string) => Promise<T>,
): Promise<T> {
  const bridge = bridgeOf(call, io);
  const serial = call.device ?? io.env.ANDROID_SERIAL;
  const [device] = await openAll(serial ? [serial] : [], bridge, wayOf(call));
  try {
    await giveTools(device!, io);
    return await work(device!, bridge.stateFolder);
  } finally {
    await device!.close().catch(() => {});
  }
}

/** The programs that the project of this folder names for its devices. */
async function giveTools(device: Device, io: Io): Promise<void> {
  if (!device.useTools) return;
  const commands = await readIosCommands(io.cwd);
  if (commands) device.useTools({ commands, signal: io.signal });
}

/** Where what outlives a dossier is kept: journals of overridden settings, the key for phones. */
export const stateFolderOf = ({ env }: Io): string =>
  env.FENLOK_STATE ?? join(env.XDG_STATE_HOME ?? join(homedir(), '.local/state'), 'fenlok');

export function bridgeOf({ server: named }: BridgeCall, io: Io): PhoneOptions {
  const { from, server } =
    named === undefined ? serverFromEnvironment(io.env) : { from: '--server', server: named };
  const [, host = '', port = ''] = /^(?:tcp:)?(.+):(\d{1,5})$/.exec(server) ?? [];
  if (!host) throw new UsageError(`${from} ${server}: expected host:port, such as 127.0.0.1:5037`);
  return {
    server: { host, port: Number(port) },
    stateFolder: stateFolderOf(io),
    lookoutToken: io.env.FENLOK_LOOKOUT_TOKEN,
  };
}

/** What the bridge's own client goes by (Android Debug Bridge, `adb help`, "Environment variables"). */
function serverFromEnvironment(env: Io['env']): { from: string; server: string } {
  const {
    ADB_SERVER_SOCKET: socket,
    ANDROID_ADB_SERVER_ADDRESS: address,
    ANDROID_ADB_SERVER_PORT: port,
  } = env;
  if (socket) return { from: 'ADB_SERVER_SOCKET', server: socket.replace(/^tcp:(\d+)$/, 'tcp:127.0.0.1:$1') };
  const from = port ? 'ANDROID_ADB_SERVER_PORT' : 'ANDROID_ADB_SERVER_ADDRESS';
  return { from, server: `${address || '127.0.0.1'}:${port || 5037}` };
}

export function wayOf({ bridge }: BridgeCall): 'server' | 'direct' | undefined {
  if (bridge === undefined || bridge === 'server' || bridge === 'direct') return bridge;
  throw new UsageError(`--bridge ${bridge}: say server or direct`);
}

/** Several phones; where one cannot be opened, none stays open. @throws OutOfReach */
export async function openAll(
  serials: readonly string[],
  options: PhoneOptions,
  way: 'server' | 'direct' | undefined,
): Promise<Device[]> {
  if (serials.length === 0) return [await openPhone(undefined, options)];
  const opened = await Promise.allSettled(
    [...new Set(serials)].map((serial) => openPhone(serial, options, way)),
  );
  const failed = opened.find((one) => one.status === 'rejected');
  const devices = opened.flatMap((one) => (one.status === 'fulfilled' ? [one.value] : []));
  if (!failed) return devices;
  await Promise.all(devices.map((device) => device.close().catch(() => {})));
  throw failed.reason;
}
