/**
 * The store: what it sells, to whom, and what becomes of it as its clock goes on. Pure: its time is given with each order,
 * so the same orders at the same times always come out the same, in Node as in a page.
 */
import type { LedgerLine } from '../../core/model/ledger.ts';
import { addPeriod, DAY_MS, parsePeriod } from '../../core/platform/purchases/period.ts';
import { findTestClock, type TestClock } from '../../core/platform/purchases/test-clocks.ts';
import { type Offer, offerOf, type StoreCatalogue, type StoreProduct } from './catalogue.ts';
import { type StoreOrder, StoreRefusal } from './store-order.ts';

export interface StoreSettings {
  /** Id of a table that shortens time; without one, a month is a month. */
  testClock?: string;
  /** After so many renewals a subscription ends by itself; without a table it goes on. */
  renewals?: number;
  /** A sale that is not finished for so long is given back; 0 keeps it. */
  acknowledgeMs?: number;
  /** So long the goods stay while the store tries to be paid; 0 takes them at once. */
  graceMs?: number;
  /** So long it tries at all. */
  retryMs?: number;
}

export interface Transaction {
  id: string;
  original: string;
  account: string;
  product: string;
  device?: string;
  boughtMs: number;
  untilMs?: number;
  isRenewal: boolean;
  isElsewhere: boolean;
  finishedMs?: number;
  refundedMs?: number;
  revokedMs?: number;
  /** Another plan took its place. */
  replacedMs?: number;
  /** Its subscription ended before its time. */
  endedMs?: number;
  isDeleted: boolean;
}

interface Subscription {
  original: string;
  account: string;
  product: StoreProduct;
  /** The period that runs, or ran last. */
  current: Transaction;
  renewals: number;
  renews: boolean;
  paymentFails: boolean;
  /** While the store tries to be paid. */
  unpaid?: { sinceMs: number; graceUntilMs: number };
  endedMs?: number;
}

interface Order {
  id: string;
  account: string;
  device?: string;
  product: StoreProduct;
}

export type Answer =
  | { outcome: 'bought'; transaction: Transaction }
  | { outcome: 'cancelled' | 'deferred' }
  | { outcome: 'failed'; reason: string };

/** What an order comes to; which of the fields are there follows from the order. */
export interface StoreReply {
  offers?: Offer[];
  order?: string;
  answer?: Answer;
  transactions?: Transaction[];
  /** Of them, those whose goods are had now, and those that were not finished. */
  held?: string[];
  unfinished?: string[];
}

const FIRST_NUMBER = 1_000_001;
const RETRY_DAYS = 60;
const GRACE_DAYS = 16;
const ACKNOWLEDGE_DAYS = 3;

export class Store {
  readonly catalogue: StoreCatalogue;
  /** Everything that happened, in the words of the ledger. */
  readonly events: LedgerLine[] = [];
  readonly #settings: Required<Pick<StoreSettings, 'acknowledgeMs' | 'graceMs' | 'retryMs'>> & StoreSettings;
  readonly #clock?: TestClock;
  readonly #products: ReadonlyMap<string, StoreProduct>;
  readonly #countries = new Map<string, string>();
  readonly #transactions = new Map<string, Transaction>();
  readonly #subscriptions = new Map<string, Subscription>();
  readonly #orders = new Map<string, Order>();
  /** Waiting for somebody who has to agree. */
  readonly #deferred = new Map<string, Order>();
  readonly #next = new Map<string, ('buy' | 'cancel' | 'fail' | 'defer')[]>();
  #nowMs: number;
  #number = FIRST_NUMBER;

  /** @throws RangeError where there is no such table */
  constructor(catalogue: StoreCatalogue, settings: StoreSettings, startMs: number) {
    this.catalogue = catalogue;
    this.#clock = settings.testClock === undefined ? undefined : findTestClock(settings.testClock);
    if (settings.testClock !== undefined && !this.#clock)
      throw new RangeError(`there is no table "${settings.testClock}" of shortened time`);
    const seconds = (own: number | undefined, table: number | undefined, usually: number) =>
      own ?? (this.#clock ? (table ?? 0) * 1000 : usually);
    this.#settings = {
      ...settings,
      acknowledgeMs: seconds(settings.acknowledgeMs, this.#clock?.acknowledgeS, ACKNOWLEDGE_DAYS * DAY_MS),
      graceMs: seconds(settings.graceMs, this.#clock?.graceS, GRACE_DAYS * DAY_MS),
      retryMs: seconds(settings.retryMs, this.#clock?.holdS ?? this.#clock?.graceS, RETRY_DAYS * DAY_MS),
    };
    this.#products = new Map(catalogue.products.map((one) => [one.id, one]));
    for (const { account, country } of catalogue.testers) this.#countries.set(account, country);
    this.#nowMs = startMs;
  }

  get nowMs(): number {
    return this.#nowMs;
  }
  get transactions(): Transaction[] {
    return [...this.#transactions.values()];
  }
  /** When something happens by itself next: a renewal, an end, a sale that is given back. */
  get nextDueMs(): number | undefined {
    return this.#nextDue()?.atMs;
  }

  /** Lets time go on; what falls due meanwhile happens at its own moment. @throws StoreRefusal where it would go back */
  advanceTo(ms: number): void {
    if (ms < this.#nowMs)
      throw new StoreRefusal(
        'clock-goes-back',
        `the store's clock is at ${iso(this.#nowMs)} and cannot go back to ${iso(ms)}`,
      );
    for (;;) {
      const due = this.#nextDue();
      if (!due || due.atMs > ms) break;
      this.#nowMs = Math.max(this.#nowMs, due.atMs);
      due.happen();
    }
    this.#nowMs = ms;
  }

  /** No two orders fall on one moment, nor on that of what happens by itself. @throws StoreRefusal */
  take(order: StoreOrder, atMs = this.#nowMs): StoreReply {
    let told: number;
    do {
      told = this.events.length;
      this.advanceTo(Math.max(atMs, this.#nowMs + 1));
    } while (this.events.length > told);
    switch (order.do) {
      case 'list':
        return { offers: this.#list(order) };
      case 'ask':
        return { order: this.#ask(order) };
      case 'answer':
        return { answer: this.#answer(order) };
      case 'finish':
        return this.#finish(order);
      case 'restore':
        return this.#restore(order);
      case 'tester':
        this.#countries.set(order.account, order.country);
        return {};
      case 'next':
        this.#next.set(order.account, [
          ...(this.#next.get(order.account) ?? []),
          ...Array<typeof order.outcome>(order.times).fill(order.outcome),
        ]);
        return {};
      case 'elsewhere': {
        const product = this.#product(order.product);
        this.#refuseOwner(order.account, product);
        return { transactions: [this.#sell({ id: '', account: order.account, product }, true)] };
      }
      case 'agree':
      case 'decline':
        return this.#decide(order.transaction, order.do === 'agree');
      case 'refund':
      case 'revoke':
        return this.#takeBack(this.#transaction(order.transaction), order.do);
      case 'renew':
        this.#renew(this.#subscription(order.original));
        return {};
      case 'expire':
        this.#expire(this.#subscription(order.original));
        return {};
      case 'renewal':
        this.#subscription(order.original).renews = order.isOn;
        return {};
      case 'payment':
        return this.#payment(this.#subscription(order.original), order.fails);
      case 'reset':
        return this.#reset(order.account);
      default:
        return order satisfies never;
    }
  }

  /** What an account may use now, as this store sees it. */
  entitled(account: string): { product: string; untilMs?: number }[] {
    const found = new Map<string, number | undefined>();
    for (const one of this.#transactions.values())
      if (one.account === account && this.#isHeld(one)) found.set(one.product, this.#endOf(one));
    return [...found].map(([product, untilMs]) => ({ product, ...(untilMs !== undefined && { untilMs }) }));
  }

  #isHeld(one: Transaction): boolean {
    const untilMs = this.#endOf(one);
    return this.#isUsable(one) && (untilMs === undefined || untilMs > this.#nowMs);
  }

  #isUsable = ({ endedMs, isDeleted, refundedMs, replacedMs, revokedMs }: Transaction): boolean =>
    !isDeleted && [endedMs, refundedMs, replacedMs, revokedMs].every((ms) => ms === undefined);

  /** With the grace, while the store tries to be paid. */
  #endOf(one: Transaction): number | undefined {
    const subscription = this.#subscriptions.get(one.original);
    if (subscription?.current !== one) return one.untilMs;
    return subscription.unpaid?.graceUntilMs ?? one.untilMs;
  }

  // --- what a device asks

  #list({ account, device, locale, products }: OrderOf<'list'>): Offer[] {
    const country = this.#countries.get(account) ?? 'US';
    const offers = products.flatMap((id) => {
      const product = this.#products.get(id);
      const offer = product && offerOf(product, country, locale);
      return offer ? [offer] : [];
    });
    this.#tell('store.listed', account, device, {
      asked: products,
      returned: offers.map(({ id }) => id),
      country,
      locale,
    });
    return offers;
  }

  #ask({ account, device, product: id }: OrderOf<'ask'>): string {
    const product = this.#product(id);
    this.#tell('store.asked', account, device, { product: id });
    this.#refuseOwner(account, product);
    const order = { id: `order-${this.#number++}`, account, device, product };
    this.#orders.set(order.id, order);
    return order.id;
  }

  #refuseOwner(account: string, product: StoreProduct): void {
    if (this.#isOwned(account, product))
      throw new StoreRefusal('owned', `${account} already has ${product.id}`);
  }
  #isOwned = (account: string, { id, kind }: StoreProduct): boolean =>
    (kind === 'non-consumable' || kind === 'subscription') &&
    this.entitled(account).some(({ product }) => product === id);

  #answer({ account, buys, order: id }: OrderOf<'answer'>): Answer {
    const order = this.#orders.get(id);
    if (order?.account !== account)
      throw new StoreRefusal('unknown-order', `no order ${id} of ${account} is open`);
    this.#orders.delete(id);
    const [forced] = this.#next.get(account)?.splice(0, 1) ?? [];
    const does = forced ?? (buys ? 'buy' : 'cancel');
    const { device, product } = order;
    switch (does) {
      case 'buy':
        this.#refuseOwner(account, product);
        return { outcome: 'bought', transaction: this.#sell(order, false) };
      case 'cancel':
        this.#tell('store.cancelled', account, device, { product: product.id });
        return { outcome: 'cancelled' };
      case 'fail':
        this.#tell('store.failed', account, device, { product: product.id, reason: 'payment-refused' });
        return { outcome: 'failed', reason: 'payment-refused' };
      case 'defer': {
        const transaction = String(this.#number++);
        this.#deferred.set(transaction, order);
        this.#tell('store.deferred', account, device, { product: product.id, transaction });
        return { outcome: 'deferred' };
      }
      default:
        return does satisfies never;
    }
  }

  #finish({ account, device, transaction: id }: OrderOf<'finish'>): StoreReply {
    const transaction = this.#transaction(id);
    transaction.finishedMs ??= this.#nowMs;
    this.#tell('store.finished', account, device, { transaction: id });
    return { transactions: [transaction] };
  }

  /** All that was ever had; of what was used up, only what is not finished yet. */
  #restore({ account, device }: OrderOf<'restore'>): StoreReply {
    const isUnfinished = (one: Transaction) => one.finishedMs === undefined && this.#isUsable(one);
    const found = this.transactions.filter(
      (one) =>
        one.account === account &&
        !one.isDeleted &&
        (isUnfinished(one) || this.#products.get(one.product)?.kind !== 'consumable'),
    );
    this.#tell('store.restored', account, device, { transactions: found.map(({ id }) => id) });
    return {
      transactions: found,
      held: found.filter((one) => this.#isHeld(one)).map(({ id }) => id),
      unfinished: found.filter(isUnfinished).map(({ id }) => id),
    };
  }

  // --- what the tester does

  #decide(id: string, agrees: boolean): StoreReply {
    const order = this.#deferred.get(id);
    if (!order) throw new StoreRefusal('unknown-transaction', `nothing numbered ${id} waits for an answer`);
    this.#deferred.delete(id);
    // it may have been bought in another way meanwhile
    if (agrees && !this.#isOwned(order.account, order.product))
      return { transactions: [this.#sell(order, false, id)] };
    this.#tell('store.cancelled', order.account, order.device, { product: order.product.id });
    return {};
  }

  #takeBack(transaction: Transaction, how: 'refund' | 'revoke'): StoreReply {
    const { account, id, original } = transaction;
    if (how === 'refund') transaction.refundedMs = this.#nowMs;
    else transaction.revokedMs = this.#nowMs;
    this.#tell(how === 'refund' ? 'store.refunded' : 'store.revoked', account, undefined, {
      transaction: id,
    });
    const subscription = this.#subscriptions.get(original);
    if (subscription?.current === transaction) this.#expire(subscription);
    return { transactions: [transaction] };
  }

  #payment(subscription: Subscription, fails: boolean): StoreReply {
    subscription.paymentFails = fails;
    // the store tries again at once, and may be paid now
    if (!fails && subscription.unpaid && subscription.endedMs === undefined) this.#renew(subscription);
    return {};
  }

  #reset(account: string): StoreReply {
    for (const one of this.#transactions.values()) if (one.account === account) one.isDeleted = true;
    for (const one of this.#subscriptions.values()) if (one.account === account) one.endedMs ??= this.#nowMs;
    this.#next.delete(account);
    this.#tell('store.reset', account, undefined, {});
    return {};
  }

  // --- sales and subscriptions

  #sell(order: Order, isElsewhere: boolean, number?: string): Transaction {
    const { account, device, product } = order;
    const replaced = product.group && this.#inGroup(account, product.group);
    const before = this.#subscriptionOf(account, product);
    const id = number ?? String(this.#number++);
    const transaction = this.#addTransaction({
      id,
      // who comes back goes on with the same subscription
      original: before?.original ?? id,
      account,
      product,
      device,
      isRenewal: before !== undefined,
      isElsewhere,
    });
    this.#tellSale(transaction, product, replaced ? { replaces: replaced.current.id } : {});
    if (replaced) {
      replaced.current.replacedMs = this.#nowMs;
      this.#expire(replaced);
    }
    if (product.kind === 'subscription')
      this.#subscriptions.set(transaction.original, {
        original: transaction.original,
        account,
        product,
        current: transaction,
        renewals: 0,
        renews: true,
        paymentFails: false,
      });
    return transaction;
  }

  /** Another plan of the group that runs now. */
  #inGroup = (account: string, group: string): Subscription | undefined =>
    [...this.#subscriptions.values()].find(
      (one) => one.account === account && one.product.group === group && one.endedMs === undefined,
    );

  /** One that ended, of the same product. */
  #subscriptionOf = (account: string, { id }: StoreProduct): Subscription | undefined =>
    [...this.#subscriptions.values()].find(
      (one) =>
        one.account === account &&
        one.product.id === id &&
        one.endedMs !== undefined &&
        !one.current.isDeleted,
    );

  #addTransaction(of: {
    id: string;
    original: string;
    account: string;
    product: StoreProduct;
    device?: string;
    isRenewal: boolean;
    isElsewhere: boolean;
  }): Transaction {
    const { product, ...rest } = of;
    const transaction: Transaction = {
      ...rest,
      product: product.id,
      boughtMs: this.#nowMs,
      untilMs: this.#periodEnd(product, this.#nowMs),
      isDeleted: false,
    };
    this.#transactions.set(transaction.id, transaction);
    return transaction;
  }

  #periodEnd({ period }: StoreProduct, fromMs: number): number | undefined {
    if (period === undefined) return undefined;
    const seconds = this.#clock?.periodsS[period];
    return seconds === undefined ? addPeriod(fromMs, parsePeriod(period)!) : fromMs + seconds * 1000;
  }

  #renew(subscription: Subscription): void {
    const { current, original, product } = subscription;
    const next = this.#addTransaction({
      id: String(this.#number++),
      original,
      account: subscription.account,
      product,
      isRenewal: true,
      isElsewhere: current.isElsewhere,
    });
    subscription.current = next;
    subscription.renewals += 1;
    subscription.unpaid = undefined;
    subscription.endedMs = undefined;
    this.#tellSale(next, product, {});
  }

  #expire(subscription: Subscription): void {
    if (subscription.endedMs !== undefined) return;
    subscription.endedMs = this.#nowMs;
    for (const one of this.#transactions.values())
      if (one.original === subscription.original) one.endedMs ??= this.#nowMs;
    this.#tell('store.expired', subscription.account, undefined, { original: subscription.original });
  }

  #startRetry(subscription: Subscription): void {
    const { graceMs } = this.#settings;
    const graceUntilMs = this.#nowMs + graceMs;
    subscription.unpaid = { sinceMs: this.#nowMs, graceUntilMs };
    this.#tell('store.unpaid', subscription.account, undefined, {
      original: subscription.original,
      ...(graceMs > 0 && { until: iso(graceUntilMs) }),
    });
  }

  /** The first thing that happens by itself from now on. */
  #nextDue(): { atMs: number; happen(): void } | undefined {
    let next: { atMs: number; happen(): void } | undefined;
    const consider = (atMs: number, happen: () => void) => {
      if (!next || atMs < next.atMs) next = { atMs, happen };
    };
    for (const one of this.#subscriptions.values()) {
      if (one.endedMs !== undefined) continue;
      if (one.unpaid) consider(one.unpaid.sinceMs + this.#settings.retryMs, () => this.#expire(one));
      else if (!one.renews || this.#isLast(one)) consider(one.current.untilMs!, () => this.#expire(one));
      else
        consider(one.current.untilMs!, () => (one.paymentFails ? this.#startRetry(one) : this.#renew(one)));
    }
    const { acknowledgeMs } = this.#settings;
    if (acknowledgeMs > 0)
      for (const one of this.#transactions.values())
        if (one.finishedMs === undefined && !one.isRenewal && !one.isElsewhere && this.#isUsable(one))
          consider(one.boughtMs + acknowledgeMs, () => this.#takeBack(one, 'refund'));
    return next;
  }

  #isLast({ renewals }: Subscription): boolean {
    const most = this.#settings.renewals ?? this.#clock?.renewals;
    return most !== undefined && renewals >= most;
  }

  // --- looking up, and telling

  #product(id: string): StoreProduct {
    const product = this.#products.get(id);
    if (product?.isListed) return product;
    throw new StoreRefusal('unknown-product', `nothing called ${id} is for sale`);
  }
  #transaction(id: string): Transaction {
    const transaction = this.#transactions.get(id);
    if (transaction && !transaction.isDeleted) return transaction;
    throw new StoreRefusal('unknown-transaction', `there is no transaction ${id}`);
  }
  #subscription(original: string): Subscription {
    const subscription = this.#subscriptions.get(original);
    if (subscription && !subscription.current.isDeleted) return subscription;
    throw new StoreRefusal('unknown-transaction', `no subscription began with transaction ${original}`);
  }

  #tellSale(transaction: Transaction, product: StoreProduct, more: object): void {
    const { account, device, id, isElsewhere, isRenewal, original, untilMs } = transaction;
    this.#tell(isRenewal ? 'store.renewed' : 'store.bought', account, device, {
      product: product.id,
      productKind: product.kind,
      transaction: id,
      original,
      ...(untilMs !== undefined && { until: iso(untilMs) }),
      ...(isElsewhere && { elsewhere: true }),
      ...more,
    });
  }

  #tell(kind: LedgerLine['kind'], account: string, device: string | undefined, more: object): void {
    this.events.push({
      at: iso(this.#nowMs),
      kind,
      account,
      ...(device !== undefined && { device }),
      ...more,
    } as LedgerLine);
  }
}

type OrderOf<D extends StoreOrder['do']> = Extract<StoreOrder, { do: D }>;

const iso = (ms: number): string => new Date(ms).toISOString();
