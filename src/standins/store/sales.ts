/** What was sold, and what becomes of it as time goes on: periods that are renewed, retried and end, sales that are given back. */
import type { LedgerLine } from '../../core/model/ledger.ts';
import { addPeriod, DAY_MS, parsePeriod } from '../../core/platform/purchases/period.ts';
import { findTestClock, type TestClock } from '../../core/platform/purchases/test-clocks.ts';
import type { StoreProduct } from './catalogue.ts';
import { StoreRefusal } from './store-order.ts';
import { isUsable, type Subscription, type Transaction } from './transaction.ts';

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

/** Who buys what. */
export interface Purchase {
  account: string;
  product: StoreProduct;
  country: string;
  accountToken?: string;
  device?: string;
  isElsewhere?: boolean;
  /** Of the transaction, where it has one already. */
  id?: string;
}

const FIRST_NUMBER = 1_000_001;
const RETRY_DAYS = 60;
const GRACE_DAYS = 16;
const ACKNOWLEDGE_DAYS = 3;

export class Sales {
  /** Everything that happened, in the words of the ledger. */
  readonly events: LedgerLine[] = [];
  readonly #settings: Required<Pick<StoreSettings, 'acknowledgeMs' | 'graceMs' | 'retryMs'>> & StoreSettings;
  readonly #clock?: TestClock;
  readonly #transactions = new Map<string, Transaction>();
  readonly #subscriptions = new Map<string, Subscription>();
  #nowMs: number;
  #number = FIRST_NUMBER;

  /** @throws RangeError where there is no such table */
  constructor(settings: StoreSettings, startMs: number) {
    this.#clock = settings.testClock === undefined ? undefined : findTestClock(settings.testClock);
    if (settings.testClock !== undefined && !this.#clock)
      throw new RangeError(`there is no table "${settings.testClock}" of shortened time`);
    const lasts = (own: number | undefined, tableS: number | undefined, usually: number) =>
      own ?? (this.#clock ? (tableS ?? 0) * 1000 : usually);
    this.#settings = {
      ...settings,
      acknowledgeMs: lasts(settings.acknowledgeMs, this.#clock?.acknowledgeS, ACKNOWLEDGE_DAYS * DAY_MS),
      graceMs: lasts(settings.graceMs, this.#clock?.graceS, GRACE_DAYS * DAY_MS),
      retryMs: lasts(settings.retryMs, this.#clock?.holdS ?? this.#clock?.graceS, RETRY_DAYS * DAY_MS),
    };
    this.#nowMs = startMs;
  }

  get nowMs(): number {
    return this.#nowMs;
  }
  get transactions(): Transaction[] {
    return [...this.#transactions.values()];
  }
  newNumber = (): string => String(this.#number++);

  // --- time

  /** Lets time go on; what falls due meanwhile happens at its own moment. @throws StoreRefusal where it would go back */
  advanceTo(ms: number): void {
    if (ms < this.#nowMs)
      throw new StoreRefusal(
        'clock-goes-back',
        `the store's clock is at ${iso(this.#nowMs)} and cannot go back to ${iso(ms)}`,
      );
    for (let due = this.#nextDue(); due && due.atMs <= ms; due = this.#nextDue()) {
      this.#nowMs = Math.max(this.#nowMs, due.atMs);
      due.happen();
    }
    this.#nowMs = ms;
  }

  /** When something happens by itself next: a renewal, an end, a sale that is given back. */
  get nextDueMs(): number | undefined {
    return this.#nextDue()?.atMs;
  }

  #nextDue(): { atMs: number; happen(): void } | undefined {
    let next: { atMs: number; happen(): void } | undefined;
    const consider = (atMs: number, happen: () => void) => {
      if (!next || atMs < next.atMs) next = { atMs, happen };
    };
    for (const one of this.#subscriptions.values()) {
      if (one.endedMs !== undefined) continue;
      if (one.unpaid) consider(one.unpaid.sinceMs + this.#settings.retryMs, () => this.expire(one));
      else if (!one.renews || this.#isLast(one)) consider(one.current.untilMs!, () => this.expire(one));
      else consider(one.current.untilMs!, () => (one.paymentFails ? this.#startRetry(one) : this.renew(one)));
    }
    const { acknowledgeMs } = this.#settings;
    if (acknowledgeMs > 0)
      for (const one of this.#transactions.values())
        if (one.finishedMs === undefined && !one.isRenewal && !one.isElsewhere && isUsable(one))
          consider(one.boughtMs + acknowledgeMs, () => this.takeBack(one, 'refund'));
    return next;
  }

  #isLast({ renewals }: Subscription): boolean {
    const most = this.#settings.renewals ?? this.#clock?.renewals;
    return most !== undefined && renewals >= most;
  }

  // --- what an account has

  /** What an account may use now. */
  entitled(account: string): { product: string; untilMs?: number }[] {
    const found = new Map<string, number | undefined>();
    for (const one of this.#transactions.values())
      if (one.account === account && this.isHeld(one)) found.set(one.product, this.#endOf(one));
    return [...found].map(([product, untilMs]) => ({ product, ...(untilMs !== undefined && { untilMs }) }));
  }

  isOwned = (account: string, { id, kind }: StoreProduct): boolean =>
    (kind === 'non-consumable' || kind === 'subscription') &&
    this.entitled(account).some(({ product }) => product === id);

  isHeld(one: Transaction): boolean {
    const untilMs = this.#endOf(one);
    return isUsable(one) && (untilMs === undefined || untilMs > this.#nowMs);
  }

  /** With the grace, while the store tries to be paid. */
  #endOf(one: Transaction): number | undefined {
    const subscription = this.#subscriptions.get(one.original);
    if (subscription?.current !== one) return one.untilMs;
    return subscription.unpaid?.graceUntilMs ?? one.untilMs;
  }

  /** @throws StoreRefusal */
  transaction(id: string): Transaction {
    const transaction = this.#transactions.get(id);
    if (transaction && !transaction.isDeleted) return transaction;
    throw new StoreRefusal('unknown-transaction', `there is no transaction ${id}`);
  }
  /** @throws StoreRefusal */
  subscription(original: string): Subscription {
    const subscription = this.#subscriptions.get(original);
    if (subscription && !subscription.current.isDeleted) return subscription;
    throw new StoreRefusal('unknown-transaction', `no subscription began with transaction ${original}`);
  }
  /** The subscription that a transaction is a period of. */
  subscriptionOf = ({ original }: Transaction): Subscription | undefined => this.#subscriptions.get(original);
  /** Another plan of the group that runs now. */
  inGroup = (account: string, group: string | undefined): Subscription | undefined =>
    group === undefined
      ? undefined
      : [...this.#subscriptions.values()].find(
          (one) => one.account === account && one.product.group === group && one.endedMs === undefined,
        );

  // --- sales

  sell({ account, accountToken, country, device, id, isElsewhere = false, product }: Purchase): Transaction {
    const replaced = this.inGroup(account, product.group);
    const before = this.#endedOf(account, product);
    const number = id ?? this.newNumber();
    const isTrial = this.hasTrial(account, product);
    const transaction = this.#add({
      id: number,
      // who comes back goes on with the same subscription
      original: before?.original ?? number,
      account,
      product,
      device,
      country,
      ...(accountToken !== undefined && { accountToken }),
      isRenewal: before !== undefined,
      isAutomatic: false,
      isElsewhere,
      isTrial,
    });
    this.#tellSale(transaction, product, replaced ? { replaces: replaced.current.id } : {});
    if (replaced) {
      replaced.current.replacedMs = this.#nowMs;
      this.expire(replaced);
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

  /** One that ended, of the same product. */
  #endedOf = (account: string, { id }: StoreProduct): Subscription | undefined =>
    [...this.#subscriptions.values()].find(
      (one) =>
        one.account === account &&
        one.product.id === id &&
        one.endedMs !== undefined &&
        !one.current.isDeleted,
    );

  /** Once for each account, whichever plan of the group it had. */
  hasTrial = (account: string, { group, id, trial }: StoreProduct): boolean =>
    trial !== undefined &&
    ![...this.#subscriptions.values()].some(
      (one) =>
        one.account === account &&
        !one.current.isDeleted &&
        (one.product.id === id || (group !== undefined && one.product.group === group)),
    );

  #add({
    product,
    ...rest
  }: Omit<Transaction, 'boughtMs' | 'isDeleted' | 'product'> & { product: StoreProduct }) {
    const transaction: Transaction = {
      ...rest,
      product: product.id,
      boughtMs: this.#nowMs,
      untilMs: this.#periodEnd(product, rest.isTrial),
      isDeleted: false,
    };
    this.#transactions.set(transaction.id, transaction);
    return transaction;
  }

  #periodEnd({ period: whole, trial }: StoreProduct, isTrial: boolean): number | undefined {
    const period = isTrial ? trial : whole;
    if (period === undefined) return undefined;
    const seconds = (isTrial ? this.#clock?.trialS : undefined) ?? this.#clock?.periodsS[period];
    return seconds === undefined
      ? addPeriod(this.#nowMs, parsePeriod(period)!)
      : this.#nowMs + seconds * 1000;
  }

  finish(transaction: Transaction, account: string, device: string | undefined): void {
    transaction.finishedMs ??= this.#nowMs;
    this.tell('store.finished', account, device, { transaction: transaction.id });
  }

  takeBack(transaction: Transaction, how: 'refund' | 'revoke'): void {
    const { account, id, original } = transaction;
    if (how === 'refund') transaction.refundedMs = this.#nowMs;
    else transaction.revokedMs = this.#nowMs;
    this.tell(how === 'refund' ? 'store.refunded' : 'store.revoked', account, undefined, { transaction: id });
    const subscription = this.#subscriptions.get(original);
    if (subscription?.current === transaction) this.expire(subscription);
  }

  forget(account: string): void {
    for (const one of this.#transactions.values()) if (one.account === account) one.isDeleted = true;
    for (const one of this.#subscriptions.values()) if (one.account === account) one.endedMs ??= this.#nowMs;
    this.tell('store.reset', account, undefined, {});
  }

  // --- subscriptions

  renew(subscription: Subscription): void {
    const { account, current, original, planned } = subscription;
    const product = planned ?? subscription.product;
    const next = this.#add({
      id: this.newNumber(),
      original,
      account,
      product,
      country: current.country,
      ...(current.accountToken !== undefined && { accountToken: current.accountToken }),
      isRenewal: true,
      isAutomatic: true,
      isElsewhere: current.isElsewhere,
      isTrial: false,
    });
    Object.assign(subscription, { product, planned: undefined, current: next });
    subscription.renewals += 1;
    subscription.unpaid = undefined;
    subscription.endedMs = undefined;
    this.#tellSale(next, product, {});
  }

  expire(subscription: Subscription): void {
    if (subscription.endedMs !== undefined) return;
    subscription.endedMs = this.#nowMs;
    for (const one of this.#transactions.values())
      if (one.original === subscription.original) one.endedMs ??= this.#nowMs;
    this.tell('store.expired', subscription.account, undefined, { original: subscription.original });
  }

  setPayment(subscription: Subscription, fails: boolean): void {
    subscription.paymentFails = fails;
    // the store tries again at once, and may be paid now
    if (!fails && subscription.unpaid && subscription.endedMs === undefined) this.renew(subscription);
  }

  #startRetry(subscription: Subscription): void {
    const { graceMs } = this.#settings;
    const graceUntilMs = this.#nowMs + graceMs;
    subscription.unpaid = { sinceMs: this.#nowMs, graceUntilMs };
    this.tell('store.unpaid', subscription.account, undefined, {
      original: subscription.original,
      ...(graceMs > 0 && { until: iso(graceUntilMs) }),
    });
  }

  // --- telling

  #tellSale(transaction: Transaction, product: StoreProduct, more: object): void {
    const { account, device, id, isElsewhere, isRenewal, isTrial, original, untilMs } = transaction;
    this.tell(isRenewal ? 'store.renewed' : 'store.bought', account, device, {
      product: product.id,
      productKind: product.kind,
      transaction: id,
      original,
      ...(untilMs !== undefined && { until: iso(untilMs) }),
      ...(isElsewhere && { elsewhere: true }),
      ...(isTrial && { trial: true }),
      ...more,
    });
  }

  tell(kind: LedgerLine['kind'], account: string, device: string | undefined, more: object): void {
    this.events.push({
      at: iso(this.#nowMs),
      kind,
      account,
      ...(device !== undefined && { device }),
      ...more,
    } as LedgerLine);
  }
}

const iso = (ms: number): string => new Date(ms).toISOString();
