import { readFile } from 'node:fs/promises';
import { createConnection, createServer } from 'node:net';
import { join } from 'node:path';
import { makeKnown } from '../../src/device/ios/known-lookouts.ts';
import { nodePorts } from '../../src/node/ports.ts';
import { openSiteFile } from '../../src/node/site-files.ts';
import type { PhoneApp } from '../../src/standins/phone/app-model.ts';
import { kelplineIos } from '../../src/standins/phone/apps/kelpline/ios.ts';
import { iosShapes } from '../../src/standins/phone/ios/ios-shapes.ts';
import {
  type LookoutOptions,
  type ServedLookout,
  serveLookout,
} from '../../src/standins/phone/ios/serve-lookout.ts';
import { serveTools } from '../../src/standins/phone/ios/serve-tools.ts';
import { demoApk, demoFolder } from './paths.ts';

export const demoIpa = join(demoFolder, 'kelpline.ipa');

/** An iOS phone with a lookout and the demo app on it, closed by the caller. */
export async function bootLookout(
  shape = 'small-phone',
  app: PhoneApp = kelplineIos,
  around: Pick<LookoutOptions, 'ads' | 'push' | 'store'> = {},
): Promise<ServedLookout> {
  const sites = ['kelpline.example', 'www.kelpline.example'].map((host) =>
    openSiteFile(join(demoFolder, 'site', host, '.well-known/apple-app-site-association')),
  );
  const served = await serveLookout({
    shape: iosShapes[shape]!,
    ports: nodePorts,
    apps: [app],
    ...around,
    sites: await Promise.all(sites),
  });
  await installKelpline(served);
  return served;
}

export async function installKelpline({ phone }: Pick<ServedLookout, 'phone'>): Promise<void> {
  const [ipa, apk] = await Promise.all([demoIpa, demoApk].map((file) => readFile(file)));
  await phone.install(new Uint8Array(ipa!), new Uint8Array(apk!));
}

/** The same with what a team's tools do, which `standinTools` of that state folder names. */
export async function bootWithTools(
  stateFolder: string,
  ...phone: Parameters<typeof bootLookout>
): Promise<ServedLookout> {
  const served = await bootLookout(...phone);
  const tools = await serveTools(served, new Uint8Array(await readFile(demoApk)));
  const { address, token } = served;
  await makeKnown(stateFolder, { address, token, pid: process.pid, name: 'd', tools: tools.address });
  const close = async () => {
    await tools.close();
    await served.close();
  };
  return { ...served, close };
}

export interface Said {
  id: number;
  done?: Record<string, unknown>;
  refused?: string;
  code?: string;
}

/** A client written from docs/ios.md alone: lines of JSON, and nothing of Fenlok. */
export class PlainClient {
  readonly #socket;
  #rest = '';
  #waiting = new Map<number, (said: Said) => void>();
  #next = 1;
  readonly closed: Promise<void>;

  constructor(address: string) {
    const [host, port] = address.split(':');
    this.#socket = createConnection({ host: host!, port: Number(port) });
    this.#socket.setEncoding('utf8');
    this.#socket.on('error', () => {});
    this.#socket.on('data', (text: string) => {
      const lines = (this.#rest + text).split('\n');
      this.#rest = lines.pop()!;
      for (const line of lines) {
        const said = JSON.parse(line) as Said;
        this.#waiting.get(said.id)?.(said);
      }
    });
    this.closed = new Promise((resolve) => this.#socket.once('close', () => resolve()));
  }

  say(ask: string, fields: object = {}): Promise<Said> {
    const id = this.#next++;
    this.raw(JSON.stringify({ id, ask, ...fields }));
    return new Promise((resolve) => this.#waiting.set(id, resolve));
  }
  raw(line: string): void {
    this.#socket.write(`${line}\n`);
  }
  close(): void {
    this.#socket.destroy();
  }
}

/** A lookout of the test's own: each line is answered, or not, as the test says. */
export async function scriptedLookout(
  answer: (request: { id: number; ask: string } & Record<string, unknown>) => object | string | undefined,
): Promise<{ address: string; close(): Promise<void> }> {
  const sockets = new Set<import('node:net').Socket>();
  const server = createServer((socket) => {
    sockets.add(socket);
    socket.setEncoding('utf8');
    socket.on('error', () => {});
    let rest = '';
    socket.on('data', (text: string) => {
      const lines = (rest + text).split('\n');
      rest = lines.pop()!;
      for (const line of lines) {
        const said = answer(JSON.parse(line));
        if (said === undefined) socket.destroy();
        else socket.write(typeof said === 'string' ? said : `${JSON.stringify(said)}\n`);
      }
    });
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return {
    address: `127.0.0.1:${(server.address() as { port: number }).port}`,
    close: async () => {
      for (const socket of sockets) socket.destroy();
      await new Promise((resolve) => server.close(resolve));
    },
  };
}
