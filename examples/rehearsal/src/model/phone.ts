/** A phone as far as a purchase or an ad needs one: an app on it, the store's sheet, the networks' libraries. */
import type { TraceLine } from 'fenlok';
import {
  type AdExchange,
  type AdRequest,
  askExchange,
  formatAnswer,
  formatRequest,
  logTagOf,
  type Offer,
  type OwnedSale,
  type Store,
  type StoreOrder,
  StoreRefusal,
  type StoreReply,
  type Transaction,
} from 'fenlok/standins/models';
import type { AppHost, RehearsedApp } from './app.ts';

/** What the rest of the rehearsal does for a phone. */
export interface Surroundings {
  store: Store;
  exchange: AdExchange;
  account: string;
  appId: string;
  app(): RehearsedApp;
  write(line: { kind: string } & Record<string, unknown>): void;
}

/** What lies over the app until its user answers it. */
export type Cover =
  | { is: 'sheet'; order: string; product: string; isTrial: boolean; offer?: Offer }
  | { is: 'consent' }
  | { is: 'ad'; placement: string; network: string; words: string };

/** So long after something happened its user looks at the next screen. */
const LOOKS_AFTER_MS = 6_000;

export class Phone {
  readonly device: string;
  readonly advertisingId: string;
  state: 'absent' | 'closed' | 'front' | 'background' = 'absent';
  isOnline = true;
  covers: Cover[] = [];
  /** What the store offered last. */
  offers: readonly Offer[] = [];
  /** What the app said last that it gives. */
  gives: readonly string[] = [];
  /** Placements whose ad is loaded and was not shown yet. */
  readonly loaded = new Set<string>();
  readonly #on: Surroundings;
  readonly #storage = new Map<string, string>();
  readonly #memory = new Map<string, unknown>();
  readonly #registered = new Set<string>();
  #looksAtMs?: number;
  #wakesAtMs?: number;

  constructor(device: string, surroundings: Surroundings) {
    this.device = device;
    this.advertisingId = `advertising-id-of-${device.replaceAll(' ', '-')}`;
    this.#on = surroundings;
  }

  // --- what its user does

  open(): void {
    if (this.state === 'front') return;
    const isRunning = this.state === 'background';
    if (this.state === 'absent') this.#formatDevice();
    this.state = 'front';
    this.#wakesAtMs = undefined;
    this.#write({ kind: 'app.opened', account: this.#on.account });
    if (isRunning) this.#run((host) => this.#on.app().resumed(host));
    else this.#run((host) => this.#on.app().launched(host));
  }

  leave(): void {
    if (this.state !== 'front') return;
    this.state = 'background';
    this.#looksAtMs = undefined;
    const { background } = this.#on.app();
    this.#wakesAtMs = background && this.#on.store.nowMs + background.everyMs;
    this.#write({ kind: 'app.left', account: this.#on.account });
  }

  /** Its process ends, and what lay over it is gone. */
  end(): void {
    this.leave();
    if (this.state === 'absent') return;
    this.state = 'closed';
    this.#wakesAtMs = undefined;
    this.covers = [];
    this.loaded.clear();
    this.#memory.clear();
  }

  /** Afresh: it remembers nothing. */
  remove(): void {
    this.end();
    this.state = 'absent';
    this.#storage.clear();
    this.offers = [];
    this.gives = [];
  }

  goOnline(isOnline: boolean): void {
    if (this.isOnline === isOnline) return;
    this.isOnline = isOnline;
    this.#write({ kind: isOnline ? 'store.back' : 'store.away', account: this.#on.account });
    this.toldOfChange();
  }

  buy(product: string): void {
    this.#run((host) => this.#on.app().buying(host, product));
  }

  restore(): void {
    this.#run((host) => this.#on.app().restoring(host));
  }

  /** Answers what lies on top, which is seen as long as the app is in front. */
  answer(isYes: boolean): void {
    if (this.state !== 'front') return;
    const cover = this.covers.pop();
    switch (cover?.is) {
      case 'sheet':
        this.#answerSheet(cover, isYes);
        break;
      case 'consent':
        this.#run((host) => this.#on.app().consented(host, isYes));
        break;
      case 'ad':
        this.#run((host) => this.#on.app().ads.closed(host, cover.placement));
        break;
      case undefined:
        break;
      default:
        cover satisfies never;
    }
  }

  load(placement: string, place: number): void {
    this.#run((host) => this.#on.app().load(host, placement, place));
  }
  show(placement: string): void {
    this.#run((host) => this.#on.app().show(host, placement));
  }

  // --- what happens to it

  registerAt(networks: readonly string[]): void {
    for (const network of networks) {
      this.#on.exchange.register(network, this.advertisingId);
      this.#registered.add(network);
    }
    this.#formatDevice();
  }

  /** The store has changed what its user owns; an app in front is told of it at once. */
  toldOfChange(): void {
    if (this.state === 'front' && this.isOnline) this.#run((host) => host.store.refresh());
  }

  /** When the app, or its user, does something by itself next. */
  get nextMs(): number | undefined {
    return this.#looksAtMs ?? this.#wakesAtMs;
  }
  /** What is due now. */
  goOn(): void {
    const { nowMs } = this.#on.store;
    if (this.#looksAtMs !== undefined && this.#looksAtMs <= nowMs) {
      this.#looksAtMs = undefined;
      this.#on.app().looked(this.#host);
    }
    const { background } = this.#on.app();
    if (!background || this.#wakesAtMs === undefined || this.#wakesAtMs > nowMs) return;
    this.#wakesAtMs = nowMs + background.everyMs;
    background.run(this.#host);
  }

  // --- between the app, the store and the networks

  readonly #host: AppHost = {
    set: () => {},
    memory: this.#memory,
    storage: this.#storage,
    log: (tag, message) => this.#log(tag, message),
    finish: (transaction) => void this.#order({ do: 'finish', transaction }),
    askConsent: () => this.covers.push({ is: 'consent' }),
    store: {
      list: (products) => this.#list(products),
      buy: (product) => this.#ask(product),
      refresh: () => this.#owned(false),
      restore: () => this.#owned(true),
    },
    ads: {
      isThere: true,
      load: (placement, request) => this.#load(placement, request),
      show: (placement, network, words) => {
        this.loaded.delete(placement);
        this.covers.push({ is: 'ad', placement, network, words });
      },
    },
  };

  #run(code: (host: AppHost) => void): void {
    if (this.state !== 'front') return;
    code(this.#host);
    this.#looksAtMs = this.#on.store.nowMs + LOOKS_AFTER_MS;
  }

  #list(products: readonly string[]): void {
    const listed = this.#order({ do: 'list', products: [...products], locale: 'en' });
    if (typeof listed !== 'string') this.offers = listed.offers ?? [];
    this.#on.app().store.listed(this.#host, this.offers, typeof listed === 'string' ? listed : undefined);
  }

  #ask(product: string): void {
    const asked = this.#order({ do: 'ask', product });
    if (typeof asked === 'string')
      this.#on.app().store.answered(this.#host, { product, outcome: 'failed', why: asked });
    else
      this.covers.push({
        is: 'sheet',
        order: asked.order!,
        product,
        isTrial: asked.isTrial ?? false,
        offer: this.offers.find(({ id }) => id === product),
      });
  }

  #answerSheet({ order, product }: Extract<Cover, { is: 'sheet' }>, buys: boolean): void {
    const answered = this.#order({ do: 'answer', order, buys });
    const answer =
      typeof answered === 'string' ? { outcome: 'failed' as const, reason: answered } : answered.answer!;
    this.#run((host) => {
      const { store } = this.#on.app();
      if (answer.outcome === 'bought')
        store.answered(host, { product, outcome: 'bought', sale: saleOf(answer.transaction, true, false) });
      else if (answer.outcome === 'failed')
        store.answered(host, { product, outcome: 'failed', why: answer.reason });
      else store.answered(host, { product, outcome: answer.outcome });
    });
  }

  #owned(isAsked: boolean): void {
    const restored = this.#order({ do: 'restore' });
    const { store } = this.#on.app();
    if (typeof restored === 'string') {
      store.unreachable?.(this.#host, restored);
      return;
    }
    const { held = [], transactions = [], unfinished = [] } = restored;
    const sales = transactions
      .map((one) => saleOf(one, held.includes(one.id), !unfinished.includes(one.id)))
      .filter(({ isFinished, isHeld }) => isHeld || !isFinished);
    store.owned(this.#host, sales, isAsked);
  }

  /** @returns why not, where the store does not do it */
  #order(order: DeviceOrder): StoreReply | string {
    if (!this.isOnline) return 'offline';
    try {
      return this.#on.store.take({ ...order, account: this.#on.account, device: this.device } as StoreOrder);
    } catch (error) {
      if (error instanceof StoreRefusal) return error.code;
      throw error;
    }
  }

  #load(placement: string, request: AdRequest): void {
    const { appId, exchange } = this.#on;
    this.#log(logTagOf(request), formatRequest(request));
    const seen = exchange.asked.length;
    const answer = this.isOnline
      ? askExchange(exchange, request, { advertisingId: this.advertisingId, bundle: appId })
      : ({ outcome: 'failed', reason: 'no connection' } as const);
    for (const { isRegistered, network, test } of exchange.asked.slice(seen))
      this.#write({ kind: 'ad.asked', network, test, isRegistered });
    this.#log(logTagOf(request), formatAnswer(request, answer));
    if (answer.outcome === 'loaded') this.loaded.add(placement);
    this.#on.app().ads.answered(this.#host, placement, request, answer);
  }

  // --- what is written down

  /** What an app prints under its own tag is a line of the trace; all else is a line of the log. */
  #log(tag: string, message: string): void {
    if (tag !== 'Fenlok') {
      this.#write({ kind: 'log.line', tag, pid: 1, message });
      return;
    }
    const line = JSON.parse(message) as TraceLine & { products?: string[] };
    if (line.kind === 'access.now') this.gives = line.products ?? [];
    this.#write(line);
  }

  #formatDevice(): void {
    this.#write({ kind: 'ad.device', isDevelopment: true, registered: [...this.#registered] });
  }

  #write(line: { kind: string } & Record<string, unknown>): void {
    this.#on.write({ ...line, device: this.device });
  }
}

type DeviceOrder = StoreOrder extends infer O
  ? O extends { device?: string }
    ? Omit<O, 'account' | 'device'>
    : never
  : never;

const saleOf = ({ id, original, product }: Transaction, isHeld: boolean, isFinished: boolean): OwnedSale => ({
  transaction: id,
  original,
  product,
  isHeld,
  isFinished,
});
