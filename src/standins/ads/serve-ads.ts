/** The exchange on a port of this machine: apps ask at `/bid/NETWORK`, the tester tells it how to behave. */
import { randomBytes } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { z } from 'zod';
import { isBearer, listen, readBody, stopListening } from '../http.ts';
import { objectIn } from '../json-lines.ts';
import { bodyIn } from './bid-forms.ts';
import { AdExchange, bidRequestSchema, type ExchangeSetup, responseModes } from './exchange.ts';

export interface AdsAddress {
  /** `http://127.0.0.1:PORT` */
  ads: string;
  /** For the tester alone. */
  secret: string;
  networks: string[];
}

export interface ServedAds {
  address: AdsAddress;
  exchange: AdExchange;
  close(): Promise<void>;
}

const controlSchema = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('mode'), network: z.string(), mode: z.enum(responseModes) }),
  z.strictObject({
    do: z.literal('register'),
    network: z.string(),
    advertisingId: z.string().min(1).max(256),
  }),
]);

const LARGEST_BODY_BYTES = 256 * 1024;

export interface AdsOptions {
  setup: ExchangeSetup;
  port?: number;
  slowMs?: number;
  onRequest?(did: string, status: number): void;
}

export async function serveAds({
  onRequest,
  port = 0,
  setup,
  slowMs = 2_000,
}: AdsOptions): Promise<ServedAds> {
  const exchange = new AdExchange(setup);
  const secret = randomBytes(24).toString('hex');
  const timers = new Set<NodeJS.Timeout>();
  const wait = () =>
    new Promise<void>((resolve) => {
      const timer = setTimeout(() => {
        timers.delete(timer);
        resolve();
      }, slowMs);
      timers.add(timer);
    });
  const { server, url } = await listen((request, response) => {
    const did = `${request.method} ${request.url?.split('?')[0]}`;
    response.on('finish', () => onRequest?.(did, response.statusCode));
    // who hangs up in the middle gets nothing, and disturbs nobody
    request.on('error', () => {});
    response.on('error', () => {});
    answer(request, response, did, exchange, secret, wait).catch(() => response.destroy());
  }, port);
  return {
    address: { ads: url, secret, networks: exchange.networks },
    exchange,
    close: () => {
      for (const timer of timers) clearTimeout(timer);
      return stopListening(server);
    },
  };
}

async function answer(
  request: IncomingMessage,
  response: ServerResponse,
  did: string,
  exchange: AdExchange,
  secret: string,
  wait: () => Promise<void>,
): Promise<void> {
  const [, network = ''] = /^POST \/bid\/([a-z0-9-]+)$/.exec(did) ?? [];
  const body = await readBody(request, LARGEST_BODY_BYTES);
  if (body === undefined) return reply(response, 413, { error: 'too-large' });
  if (network !== '') {
    if (!exchange.has(network)) return reply(response, 404, { error: 'unknown-network' });
    return bid(response, exchange, network, body, wait);
  }
  if (!isBearer(request, secret)) return reply(response, 401, { error: 'no-secret' });
  if (did === 'GET /asked') {
    const after = Number(new URL(request.url!, 'http://127.0.0.1').searchParams.get('after') ?? 0) || 0;
    return reply(response, 200, { asked: exchange.asked.slice(after), next: exchange.asked.length });
  }
  if (did !== 'POST /control') return reply(response, 404, { error: 'no-such-place' });
  const order = controlSchema.safeParse(objectIn(body));
  if (!order.success || !exchange.has(order.data.network))
    return reply(response, 400, {
      error: 'wrong-order',
      says: order.error?.issues[0]?.message ?? 'no such network',
    });
  if (order.data.do === 'mode') exchange.setMode(order.data.network, order.data.mode);
  else exchange.register(order.data.network, order.data.advertisingId);
  return reply(response, 200, {});
}

async function bid(
  response: ServerResponse,
  exchange: AdExchange,
  network: string,
  body: string,
  wait: () => Promise<void>,
): Promise<void> {
  const parsed = bidRequestSchema.safeParse(objectIn(body));
  if (!parsed.success) {
    const [issue] = parsed.error.issues;
    return reply(response, 400, {
      error: 'wrong-request',
      says: `${issue!.path.join('.')}: ${issue!.message}`,
    });
  }
  const mode = exchange.modeOf(network);
  const answered = exchange.bid(network, parsed.data);
  if (mode === 'slow') await wait();
  if (mode === 'drop') {
    response.destroy();
    return;
  }
  if (!answered) {
    response.writeHead(204).end();
    return;
  }
  send(response, 200, bodyIn(mode, answered));
}

const reply = (response: ServerResponse, status: number, answered: object): void =>
  send(response, status, JSON.stringify(answered));

function send(response: ServerResponse, status: number, text: string): void {
  const body = Buffer.from(text);
  response.writeHead(status, { 'content-type': 'application/json', 'content-length': body.length }).end(body);
}
