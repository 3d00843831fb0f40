/**
 * The store on a port of this machine: HTTP and JSON, described in docs/purchases-and-ads.md. What was sold is handed out
 * signed, as the platform does it. The store itself is in store.ts.
 */
import { randomBytes } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { z } from 'zod';
import type { LedgerLine } from '../../core/model/ledger.ts';
import { isBearer, listen, readBody, readBytes, stopListening } from '../http.ts';
import type { StoreCatalogue } from './catalogue.ts';
import { answerStatus } from './certificate-status.ts';
import { type JournaledStore, openJournal } from './journal.ts';
import type { StoreSettings } from './sales.ts';
import { makePurchaseKey, type PurchaseKey, type SignedSale, signPurchase } from './sign-purchase.ts';
import { signRenewal, signTransaction } from './sign-transaction.ts';
import { makeSigningChain, type SigningChain } from './signing-chain.ts';
import type { Answer, Store, StoreReply } from './store.ts';
import { StoreClock } from './store-clock.ts';
import { StoreRefusal, storeOrderSchema } from './store-order.ts';
import type { Transaction } from './transaction.ts';

export const storeFaults = ['slow', 'offline', 'half', 'twice', 'disorder'] as const;
export type StoreFault = (typeof storeFaults)[number];

/** What a client needs; its file is for nobody else to read. */
export interface StoreAddress {
  /** `http://127.0.0.1:PORT` */
  store: string;
  secret: string;
  app: string;
  /** Base64 of the certificate that vouches for what it signs. */
  root: string;
  /** Base64 of the key that Android's purchases are verified with. */
  licenseKey: string;
}

/** A transaction in an answer, and the same signed. */
export interface StoreAnswer extends Omit<StoreReply, 'transactions' | 'answer'> {
  answer?: { outcome: Answer['outcome']; reason?: string; transaction?: string; purchase?: SignedSale };
  /** Signed as on iOS, each a JWS. */
  transactions?: string[];
  /** The same signed as on Android. */
  purchases?: SignedSale[];
  /** Of the subscriptions among them, each a JWS. */
  renewals?: string[];
}

interface ClockAnswer {
  now: string;
  rate: number;
}

export interface EventsAnswer {
  /** From the one asked for; doubled or in another order where that was wanted. */
  events: LedgerLine[];
  /** What to ask for next. */
  next: number;
}

export interface StoreOptions {
  catalogue: StoreCatalogue;
  settings: StoreSettings;
  /** Kept there over a restart. */
  journal?: string;
  /** Seconds of the store in a real one; 0 stands still. */
  rate?: number;
  port?: number;
  slowMs?: number;
  onRequest?(did: string, status: number): void;
}

export interface ServedStore {
  address: StoreAddress;
  store: Store;
  fail(fault: StoreFault, times: number): void;
  close(): Promise<void>;
}

const LARGEST_BODY_BYTES = 1024 * 1024;
const EVENTS_AT_ONCE = 5_000;
const LONGEST_STEP_S = 10 * 366 * 24 * 3600;
const SLOW_MS = 2_000;
const STATUS_PATH = '/certificate-status';
const LARGEST_STATUS_BYTES = 4096;

const clockSchema = z.union([
  z.strictObject({ stepS: z.number().nonnegative().max(LONGEST_STEP_S) }),
  z.strictObject({ rate: z.number().nonnegative().max(1_000_000) }),
]);
const faultSchema = z.strictObject({
  fault: z.enum(storeFaults),
  /** 0 puts an end to it. */
  times: z.number().int().min(0).max(1000).default(1),
});

/** @throws UnreadableError where the journal cannot be played again */
export async function serveStore(options: StoreOptions): Promise<ServedStore> {
  const { catalogue, journal, port = 0, rate = 1, settings } = options;
  const journaled = openJournal(journal, catalogue, settings, Date.now());
  const clock = new StoreClock(journaled.store.nowMs, Date.now(), rate);
  const secret = randomBytes(24).toString('hex');
  let desk: Desk;
  const { server, url } = await listen((request, response) => {
    const did = `${request.method} ${request.url?.split('?')[0]}`;
    response.on('finish', () => options.onRequest?.(did, response.statusCode));
    // who hangs up in the middle gets nothing, and disturbs nobody
    request.on('error', () => {});
    response.on('error', () => {});
    desk.serve(request, response, secret).catch(() => response.destroy());
  }, port);
  // its certificates name the address that says whether they are still good
  const [chain, purchaseKey] = await Promise.all([
    makeSigningChain(`${url}${STATUS_PATH}`),
    makePurchaseKey(),
  ]);
  desk = new Desk(journaled, clock, { chain, purchaseKey }, catalogue, options.slowMs ?? SLOW_MS);
  return {
    address: {
      store: url,
      secret,
      app: catalogue.app,
      root: chain.x5c.at(-1)!,
      licenseKey: purchaseKey.licenseKey,
    },
    store: journaled.store,
    fail: (fault, times) => desk.fail(fault, times),
    close: () => {
      desk.close();
      return stopListening(server);
    },
  };
}

class Refused extends Error {
  readonly status: number;
  readonly code: string;
  constructor(status: number, code: string, message: string) {
    super(message);
    this.status = status;
    this.code = code;
  }
}

interface SigningKeys {
  chain: SigningChain;
  purchaseKey: PurchaseKey;
}

class Desk {
  readonly #journaled: JournaledStore;
  readonly #clock: StoreClock;
  readonly #keys: SigningKeys;
  readonly #catalogue: StoreCatalogue;
  readonly #slowMs: number;
  readonly #faults = new Map<StoreFault, number>();
  readonly #timers = new Set<NodeJS.Timeout>();

  constructor(
    journaled: JournaledStore,
    clock: StoreClock,
    keys: SigningKeys,
    catalogue: StoreCatalogue,
    slowMs: number,
  ) {
    this.#journaled = journaled;
    this.#clock = clock;
    this.#keys = keys;
    this.#catalogue = catalogue;
    this.#slowMs = slowMs;
  }

  close(): void {
    for (const timer of this.#timers) clearTimeout(timer);
  }

  fail(fault: StoreFault, times: number): void {
    this.#faults.set(fault, times);
  }

  #isDue(fault: StoreFault): boolean {
    const left = this.#faults.get(fault) ?? 0;
    if (left > 0) this.#faults.set(fault, left - 1);
    return left > 0;
  }

  async serve(request: IncomingMessage, response: ServerResponse, secret: string): Promise<void> {
    const url = new URL(request.url ?? '/', 'http://127.0.0.1');
    if (url.pathname === STATUS_PATH) {
      await this.#tellStatus(request, response);
      return;
    }
    const isControl = url.pathname === '/faults' || url.pathname === '/clock';
    if (!isControl && this.#isDue('offline')) {
      request.destroy();
      return;
    }
    if (!isControl && this.#isDue('slow')) await this.#wait();
    let status = 200;
    let answer: object;
    try {
      if (!isBearer(request, secret))
        throw new Refused(401, 'no-secret', 'Send the secret of the store as a bearer token.');
      answer = await this.#answer(`${request.method} ${url.pathname}`, url, request);
    } catch (error) {
      if (error instanceof StoreRefusal) status = 409;
      else if (error instanceof Refused) status = error.status;
      else throw error;
      answer = { error: error.code, says: error.message };
    }
    const body = Buffer.from(JSON.stringify(answer));
    response.writeHead(status, { 'content-type': 'application/json', 'content-length': body.length });
    if (isControl || !this.#isDue('half')) response.end(body);
    else response.write(body.subarray(0, Math.floor(body.length / 2)), () => response.destroy());
  }

  async #answer(what: string, url: URL, request: IncomingMessage): Promise<object> {
    const nowMs = this.#clock.nowMs(Date.now());
    switch (what) {
      case 'POST /orders': {
        const order = parse(storeOrderSchema, await bodyOf(request));
        return this.#signed(this.#journaled.take(order, nowMs));
      }
      case 'GET /events':
        this.#journaled.advanceTo(nowMs);
        return this.#eventsFrom(Number(url.searchParams.get('after') ?? 0));
      case 'GET /entitlements':
        this.#journaled.advanceTo(nowMs);
        return {
          now: iso(nowMs),
          entitled: this.#journaled.store.entitled(url.searchParams.get('account') ?? ''),
        };
      case 'GET /clock':
        return this.#time(nowMs);
      case 'POST /clock': {
        const wanted = parse(clockSchema, await bodyOf(request));
        if ('rate' in wanted) this.#clock.setRate(wanted.rate, Date.now());
        else this.#clock.step(wanted.stepS * 1000, Date.now());
        return this.#time(this.#clock.nowMs(Date.now()));
      }
      case 'POST /faults': {
        const { fault, times } = parse(faultSchema, await bodyOf(request));
        this.fail(fault, times);
        return {};
      }
      default:
        throw new Refused(404, 'no-such-place', `There is nothing at ${what}.`);
    }
  }

  #time(nowMs: number): ClockAnswer {
    this.#journaled.advanceTo(nowMs);
    return { now: iso(this.#journaled.store.nowMs), rate: this.#clock.rate };
  }

  #eventsFrom(after: number): EventsAnswer {
    if (!Number.isInteger(after) || after < 0)
      throw new Refused(400, 'wrong-query', 'after: a number from 0 on');
    const events = this.#journaled.store.events.slice(after, after + EVENTS_AT_ONCE);
    const next = after + events.length;
    if (this.#isDue('twice')) events.push(...events);
    if (this.#isDue('disorder')) events.reverse();
    return { events, next };
  }

  /** Whoever verifies what was signed asks this, without a secret. */
  async #tellStatus(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const asked = await readBytes(request, LARGEST_STATUS_BYTES);
    const answer = answerStatus(asked ?? new Uint8Array(), this.#keys.chain);
    response.writeHead(200, { 'content-type': 'application/ocsp-response' });
    response.end(answer);
  }

  async #signed({ answer, transactions, ...rest }: StoreReply): Promise<StoreAnswer> {
    const bought = answer?.outcome === 'bought' ? answer.transaction : undefined;
    const all = [...(bought ? [bought] : []), ...(transactions ?? [])];
    const renewals = await this.#renewalsOf(all);
    return {
      ...rest,
      ...(answer && {
        answer: bought
          ? {
              outcome: 'bought',
              transaction: await this.#transaction(bought),
              purchase: this.#purchase(bought),
            }
          : (answer as Exclude<Answer, { outcome: 'bought' }>),
      }),
      ...(transactions && {
        transactions: await Promise.all(transactions.map((one) => this.#transaction(one))),
        purchases: transactions.map((one) => this.#purchase(one)),
      }),
      ...(renewals.length > 0 && { renewals }),
    };
  }

  #transaction(one: Transaction): Promise<string> {
    const { store } = this.#journaled;
    return signTransaction(one, store.contextOf(one), this.#catalogue, this.#keys.chain, store.nowMs);
  }

  #purchase(one: Transaction): SignedSale {
    const { store } = this.#journaled;
    const period = store.periodsOf(one).indexOf(one);
    return signPurchase(one, store.contextOf(one), period, this.#catalogue, this.#keys.purchaseKey);
  }

  /** One for each subscription. */
  #renewalsOf(all: readonly Transaction[]): Promise<string[]> {
    const { store } = this.#journaled;
    const firsts = new Map(all.map((one) => [one.original, one]));
    return Promise.all(
      [...firsts.values()].flatMap((one) => {
        const { subscription } = store.contextOf(one);
        const began = store.periodsOf(one).findLast(({ isAutomatic }) => !isAutomatic)!.boughtMs;
        return subscription ? [signRenewal(subscription, began, this.#keys.chain, store.nowMs)] : [];
      }),
    );
  }

  #wait = (): Promise<void> =>
    new Promise((resolve) => {
      const timer = setTimeout(() => {
        this.#timers.delete(timer);
        resolve();
      }, this.#slowMs);
      this.#timers.add(timer);
    });
}

const iso = (ms: number): string => new Date(ms).toISOString();

function parse<T>(schema: z.ZodType<T>, text: string): T {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (cause) {
    throw new Refused(400, 'not-json', (cause as Error).message);
  }
  const parsed = schema.safeParse(value);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  throw new Refused(400, 'wrong-order', `${issue!.path.join('.') || 'the order'}: ${issue!.message}`);
}

async function bodyOf(request: IncomingMessage): Promise<string> {
  const body = await readBody(request, LARGEST_BODY_BYTES);
  if (body === undefined) throw new Refused(413, 'too-large', `more than ${LARGEST_BODY_BYTES} bytes`);
  return body;
}
