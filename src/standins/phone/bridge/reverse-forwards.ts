/**
 * Ports of the phone that lead to the computer (`adb reverse`): the phone listens on loopback, and opens a stream to the
 * computer for each connection. Phone and computer share this machine's loopback, so a port that the computer itself
 * listens on already leads there.
 */

import type { AddressInfo } from 'node:net';
import { createServer, type Server } from 'node:net';
import type { BridgeStream } from './bridge-stream.ts';

interface Forward {
  /** `tcp:8080` */
  from: string;
  to: string;
  /** None where the computer itself listens on that port. */
  server?: Server;
}

/** Opens a stream to the computer; undefined where it refuses. */
type OpenToHost = (service: string) => Promise<BridgeStream | undefined>;

const TCP = /^tcp:(\d{1,5})$/;

export class ReverseForwards {
  readonly #open: OpenToHost;
  #all: Forward[] = [];

  constructor(open: OpenToHost) {
    this.#open = open;
  }

  close(): void {
    for (const { server } of this.#all.splice(0)) server?.close();
  }

  /** @param line `forward:[norebind:]FROM;TO`, `killforward:FROM`, `killforward-all` or `list-forward` */
  async answer(line: string, stream: BridgeStream): Promise<void> {
    stream.write(Buffer.from(await this.#reply(line)));
    await stream.end();
  }

  async #reply(line: string): Promise<string> {
    if (line === 'list-forward')
      return sized(this.#all.map(({ from, to }) => `host-1 ${from} ${to}\n`).join(''));
    if (line === 'killforward-all') {
      this.close();
      return 'OKAY';
    }
    const [, gone] = /^killforward:(.+)$/.exec(line) ?? [];
    if (gone !== undefined) return this.#remove(gone) ? 'OKAY' : refused(`listener '${gone}' not found`);
    const [, keeps, from = '', to = ''] = /^forward:(norebind:)?([^;]+);(.+)$/.exec(line) ?? [];
    const [, port] = TCP.exec(from) ?? [];
    if (port === undefined || Number(port) > 65535) return refused(`unknown local part of forward '${from}'`);
    if (keeps && this.#all.some((one) => one.from === from)) return refused('cannot rebind existing socket');
    this.#remove(from);
    return this.#add(Number(port), from, to);
  }

  async #add(port: number, from: string, to: string): Promise<string> {
    const server = createServer((socket) => {
      socket.on('error', () => socket.destroy());
      socket.pause();
      this.#open(to)
        .then(async (stream) => {
          if (stream) await stream.join(socket);
          else socket.destroy();
        })
        .catch(() => socket.destroy());
    });
    const code = await new Promise<string | undefined>((resolve) => {
      server.once('error', (error: NodeJS.ErrnoException) => resolve(error.code));
      server.listen(port, '127.0.0.1', () => resolve(undefined));
    });
    if (code === 'EADDRINUSE') {
      this.#all.push({ from, to });
      return 'OKAY';
    }
    if (code !== undefined) return refused(`cannot bind listener: ${code}`);
    const taken = (server.address() as AddressInfo).port;
    this.#all.push({ from: `tcp:${taken}`, to, server });
    return port === 0 ? `OKAY${sized(String(taken))}` : 'OKAY';
  }

  #remove(from: string): boolean {
    const found = this.#all.find((one) => one.from === from);
    found?.server?.close();
    this.#all = this.#all.filter((one) => one !== found);
    return found !== undefined;
  }
}

const sized = (text: string): string => text.length.toString(16).padStart(4, '0') + text;
const refused = (why: string): string => `FAIL${sized(why)}`;
