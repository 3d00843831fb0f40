/**
 * What a computer may ask of the bridge's end on a phone (Android Open Source Project, packages/modules/adb, SERVICES.TXT),
 * answered as on a user's build.
 */
import { connect } from 'node:net';
import type { PhoneOs } from '../os/phone-os.ts';
import type { BridgeStream } from './bridge-stream.ts';
import type { ReverseForwards } from './reverse-forwards.ts';
import { runFramed, runPlain } from './shell-service.ts';
import { serveFiles } from './sync-service.ts';

interface BridgeHost {
  os: PhoneOs;
  reverse: ReverseForwards;
}

export type Service = (stream: BridgeStream) => Promise<void>;

/** What a user's build says to those who want to be more than a user; a service's name is with its colon. */
const SAID: Readonly<Record<string, string>> = {
  'root:': 'adbd cannot run as root in production builds\n',
  'unroot:': 'adbd not running as root\n',
  'remount:': 'Not running as root. Try "adb root" first.\n',
  'disable-verity:': 'verity cannot be disabled/enabled - USER build\n',
  'enable-verity:': 'verity cannot be disabled/enabled - USER build\n',
  'usb:': 'restarting in USB mode\n',
};

/** @returns undefined where a phone has no such service, or nothing listens there */
export async function serviceFor(name: string, { os, reverse }: BridgeHost): Promise<Service | undefined> {
  const line = name.slice(name.indexOf(':') + 1);
  const isOld = os.quirks.has('old-shell');
  if (name.startsWith('shell,v2')) return isOld ? undefined : (stream) => runFramed(os, line, stream);
  if (name.startsWith('exec:')) return (stream) => runPlain(os, line, stream);
  if (/^shell\b[^:]*:/.test(name)) return (stream) => runPlain(os, line, stream, isOld);
  if (name === 'sync:') return (stream) => serveFiles(os, stream);
  if (SAID[name] !== undefined) return say(SAID[name]);
  if (/^tcpip:\d+$/.test(name)) return say(`restarting in TCP mode port: ${line}\n`);
  if (name.startsWith('reboot:')) return (stream) => reboot(os, line, stream);
  if (name.startsWith('reverse:')) return (stream) => reverse.answer(line, stream);
  // no app here may be debugged: the list is empty, and stays so
  if (name === 'jdwp' || name === 'track-jdwp' || name === 'track-app') return listProcesses(name);
  if (/^tcp:(?:127\.0\.0\.1:|localhost:)?\d+$/.test(name)) return forwardTo(Number(/\d+$/.exec(name)![0]));
  return undefined;
}

const say =
  (text: string): Service =>
  async (stream) => {
    stream.write(Buffer.from(text));
    await stream.end();
  };

/** It ends every connection, this one as well. */
async function reboot(os: PhoneOs, how: string, stream: BridgeStream): Promise<void> {
  if (!/^(|bootloader|recovery|fastboot|sideload|sideload-auto-reboot)$/.test(how)) {
    stream.write(Buffer.from(`reboot (${how}) failed\n`));
    await stream.end();
    return;
  }
  await stream.end();
  os.reboot();
}

const listProcesses =
  (name: string): Service =>
  async (stream) => {
    if (name !== 'jdwp') stream.write(Buffer.from('0000'));
    else {
      await stream.end();
      return;
    }
    await new Promise<void>((resolve) =>
      stream.signal.addEventListener('abort', () => resolve(), { once: true }),
    );
  };

/** What listens on the phone's loopback is what listens on this machine's. */
async function forwardTo(port: number): Promise<Service | undefined> {
  const socket = connect({ port, host: '127.0.0.1', noDelay: true });
  const isOpen = await new Promise<boolean>((resolve) => {
    socket.once('connect', () => resolve(true));
    socket.once('error', () => resolve(false));
  });
  return isOpen ? (stream) => stream.join(socket) : undefined;
}
