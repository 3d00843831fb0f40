/** The iOS phone with a lookout on it, at a port of loopback: one JSON object a line, after a hello with its token. */
import { randomBytes, timingSafeEqual } from 'node:crypto';
import { type AddressInfo, createServer, type Socket } from 'node:net';
import type { Ports } from '../../../core/model/ports.ts';
import type { SiteFile } from '../../../core/model/site-file.ts';
import { readLines } from '../../json-lines.ts';
import { StoreLink } from '../../store/store-link.ts';
import type { PhoneApp } from '../app-model.ts';
import { IosPhone } from './ios-phone.ts';
import type { IosShape } from './ios-shapes.ts';
import { answerRequest, introduce, LOOKOUT_VERSION, NotDone } from './lookout.ts';

export interface LookoutOptions {
  shape: IosShape;
  ports: Ports;
  apps: readonly PhoneApp[];
  /** 0 takes a free one. */
  port?: number;
  sites?: readonly SiteFile[];
  /** The push gateway that it is a device of. */
  push?: { devices: string; secret: string } | undefined;
  /** The store that it buys from, and the tester who is signed in there. */
  store?: { store: string; secret: string; account: string } | undefined;
  /** Address of the ad networks of its apps. */
  ads?: string | undefined;
}

export interface ServedLookout {
  phone: IosPhone;
  /** `127.0.0.1:PORT` */
  address: string;
  token: string;
  close(): Promise<void>;
}

export async function serveLookout({
  ads,
  apps,
  port = 0,
  ports,
  push,
  shape,
  sites,
  store,
}: LookoutOptions): Promise<ServedLookout> {
  const phone = new IosPhone(shape, ports, apps, sites);
  if (store) phone.store.connect(new StoreLink(store), store.account);
  if (ads !== undefined) phone.ads.connect(ads);
  if (push) await phone.messages.connect(push, phone.id);
  const token = randomBytes(16).toString('hex');
  const sockets = new Set<Socket>();
  const server = createServer((socket) => {
    sockets.add(socket);
    socket.on('close', () => sockets.delete(socket));
    converse(socket, phone, token);
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  return {
    phone,
    address: `127.0.0.1:${(server.address() as AddressInfo).port}`,
    token,
    close: async () => {
      for (const socket of sockets) socket.destroy();
      await new Promise((resolve) => server.close(resolve));
      phone.close();
    },
  };
}

const LONGEST_REQUEST = 2 ** 20;

interface Line {
  app?: unknown;
  line?: unknown;
  id?: unknown;
  ask?: unknown;
  token?: unknown;
  lookout?: unknown;
}

function converse(socket: Socket, phone: IosPhone, token: string): void {
  let isKnown = false;
  // one after another, as a UI test runs
  let work: Promise<void> = Promise.resolve();
  const say = (line: object) => {
    if (!socket.destroyed) socket.write(`${JSON.stringify(line)}\n`);
  };
  socket.on('error', () => socket.destroy());
  const answer = async ({ id, ...request }: Line) => {
    if (request.ask === 'hello') {
      if (request.lookout !== LOOKOUT_VERSION)
        return say({ id, refused: `this is lookout ${LOOKOUT_VERSION}`, code: 'version' });
      if (!isSame(request.token, token)) {
        say({ id, refused: 'the token is another one', code: 'token' });
        socket.end();
        return;
      }
      isKnown = true;
      return say({ id, done: introduce(phone) });
    }
    if (request.ask === 'bye' && isKnown) {
      say({ id, done: {} });
      socket.end();
      return;
    }
    if (!isKnown) return say({ id, refused: 'say hello first', code: 'hello' });
    try {
      say({ id, done: await answerRequest(phone, request) });
    } catch (error) {
      const code = error instanceof NotDone ? error.code : 'failed';
      say({ id, refused: (error as Error).message, code });
    }
  };
  readLines<Line>(
    socket,
    (line) => {
      // what an app tells is taken at once, and needs no hello
      if (line.ask === 'tell') phone.tell(String(line.app ?? ''), String(line.line ?? ''));
      else work = work.then(() => answer(line));
    },
    LONGEST_REQUEST,
  );
}

const isSame = (given: unknown, wanted: string): boolean =>
  typeof given === 'string' &&
  given.length === wanted.length &&
  timingSafeEqual(Buffer.from(given), Buffer.from(wanted));
