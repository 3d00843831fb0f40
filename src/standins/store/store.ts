/**
 * The store: what it sells, to whom, and what becomes of it as its clock goes on. Pure: its time is given with each order,
 * so the same orders at the same times always come out the same, in Node as in a page.
 */
import type { LedgerLine } from '../../core/model/ledger.ts';
import { type Offer, offerOf, type StoreCatalogue, type StoreProduct } from './catalogue.ts';
import { Sales, type StoreSettings } from './sales.ts';
import { type StoreOrder, StoreRefusal } from './store-order.ts';
import { isUsable, type Subscription, type Transaction } from './transaction.ts';

/** Waits for its user's answer. */
interface Order {
  account: string;
  country: string;
  accountToken?: string;
  device?: string;
  product: StoreProduct;
}

export type Answer =
  | { outcome: 'bought'; transaction: Transaction }
  /** `planned`: a smaller plan takes the place of the one that runs, at the end of its period. */
  | { outcome: 'cancelled' | 'deferred' | 'planned' }
  | { outcome: 'failed'; reason: string };

/** What an order comes to; which of the fields are there follows from the order. */
export interface StoreReply {
  offers?: Offer[];
  order?: string;
  /** Of an order: the first period will cost nothing. */
  isTrial?: boolean;
  answer?: Answer;
  transactions?: Transaction[];
  /** Of them, those whose goods are owned now, and those that were not finished. */
  held?: string[];
  unfinished?: string[];
}

export class Store {
  readonly catalogue: StoreCatalogue;
  readonly #sales: Sales;
  readonly #products: ReadonlyMap<string, StoreProduct>;
  readonly #countries = new Map<string, string>();
  readonly #orders = new Map<string, Order>();
  /** Waiting for somebody who has to agree, by the number that the transaction will have. */
  readonly #deferred = new Map<string, Order>();
  readonly #next = new Map<string, ('buy' | 'cancel' | 'fail' | 'defer')[]>();

  /** @throws RangeError where there is no such table */
  constructor(catalogue: StoreCatalogue, settings: StoreSettings, startMs: number) {
    this.catalogue = catalogue;
    this.#sales = new Sales(settings, startMs);
    this.#products = new Map(catalogue.products.map((one) => [one.id, one]));
    for (const { account, country } of catalogue.testers) this.#countries.set(account, country);
  }

  /** Everything that happened, in the words of the ledger. */
  get events(): readonly LedgerLine[] {
    return this.#sales.events;
  }
  get nowMs(): number {
    return this.#sales.nowMs;
  }
  get transactions(): Transaction[] {
    return this.#sales.transactions;
  }
  /** The first of a chain of renewals, and the subscription that a transaction is a period of. */
  contextOf(one: Transaction): { first: Transaction; subscription?: Subscription } {
    return {
      first: this.transactions.find(({ id }) => id === one.original) ?? one,
      subscription: this.#sales.subscriptionOf(one),
    };
  }
  /** Of one subscription, in the order in which they were sold; what is no subscription has one. */
  periodsOf = ({ original }: Transaction): Transaction[] =>
    this.transactions.filter((one) => one.original === original);
  /** When something happens by itself next: a renewal, an end, a sale that is given back. */
  get nextDueMs(): number | undefined {
    return this.#sales.nextDueMs;
  }

  /** Lets time go on; what falls due meanwhile happens at its own moment. @throws StoreRefusal where it would go back */
  advanceTo(ms: number): void {
    this.#sales.advanceTo(ms);
  }

  /** What an account may use now, as this store sees it. */
  entitled(account: string): { product: string; untilMs?: number }[] {
    return this.#sales.entitled(account);
  }

  /** No two orders fall on one moment, nor on that of what happens by itself. @throws StoreRefusal */
  take(order: StoreOrder, atMs = this.nowMs): StoreReply {
    const sales = this.#sales;
    let told: number;
    do {
      told = sales.events.length;
      sales.advanceTo(Math.max(atMs, sales.nowMs + 1));
    } while (sales.events.length > told);
    switch (order.do) {
      case 'list':
        return { offers: this.#list(order) };
      case 'ask':
        return this.#ask(order);
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
      case 'elsewhere':
        return this.#sellElsewhere(order);
      case 'agree':
      case 'decline':
        return this.#decide(order.transaction, order.do === 'agree');
      case 'refund':
      case 'revoke':
        return this.#takeBack(order);
      case 'renew':
        sales.renew(sales.subscription(order.original));
        return {};
      case 'expire':
        sales.expire(sales.subscription(order.original));
        return {};
      case 'renewal':
        sales.subscription(order.original).renews = order.isOn;
        return {};
      case 'payment':
        sales.setPayment(sales.subscription(order.original), order.fails);
        return {};
      case 'reset':
        sales.forget(order.account);
        this.#next.delete(order.account);
        return {};
      default:
        return order satisfies never;
    }
  }

  // --- what a device asks

  #list({ account, device, locale, products }: OrderOf<'list'>): Offer[] {
    const country = this.#countryOf(account);
    const offers = products.flatMap((id) => {
      const product = this.#products.get(id);
      const offer = product && offerOf(product, country, locale);
      return offer ? [offer] : [];
    });
    this.#sales.tell('store.listed', account, device, {
      asked: products,
      returned: offers.map(({ id }) => id),
      country,
      locale,
    });
    return offers;
  }

  #ask({ account, accountToken, device, product: id }: OrderOf<'ask'>): StoreReply {
    const product = this.#product(id);
    this.#sales.tell('store.asked', account, device, { product: id });
    this.#refuseOwner(account, product);
    const number = `order-${this.#sales.newNumber()}`;
    const country = this.#countryOf(account);
    this.#orders.set(number, { account, country, device, product, ...(accountToken && { accountToken }) });
    return { order: number, isTrial: this.#sales.hasTrial(account, product) };
  }

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
        return this.#sellOrPlan(order);
      case 'cancel':
        this.#sales.tell('store.cancelled', account, device, { product: product.id });
        return { outcome: 'cancelled' };
      case 'fail':
        this.#sales.tell('store.failed', account, device, { product: product.id, reason: 'payment-refused' });
        return { outcome: 'failed', reason: 'payment-refused' };
      case 'defer': {
        const transaction = this.#sales.newNumber();
        this.#deferred.set(transaction, order);
        this.#sales.tell('store.deferred', account, device, { product: product.id, transaction });
        return { outcome: 'deferred' };
      }
      default:
        return does satisfies never;
    }
  }

  /** Another plan of the group is owned at once, but for one of a lower level, which waits for the end of the period. */
  #sellOrPlan(order: Order): Answer {
    const { account, device, product } = order;
    const running = this.#sales.inGroup(account, product.group);
    if (!running || !isLower(product, running.product))
      return { outcome: 'bought', transaction: this.#sales.sell(order) };
    running.planned = product;
    this.#sales.tell('store.planned', account, device, {
      product: product.id,
      original: running.original,
    });
    return { outcome: 'planned' };
  }

  #finish({ account, device, transaction: id }: OrderOf<'finish'>): StoreReply {
    const transaction = this.#sales.transaction(id);
    this.#sales.finish(transaction, account, device);
    return { transactions: [transaction] };
  }

  /** All that was ever had; of what was used up, only what is not finished yet. */
  #restore({ account, device }: OrderOf<'restore'>): StoreReply {
    const isUnfinished = (one: Transaction) => one.finishedMs === undefined && isUsable(one);
    const found = this.transactions.filter(
      (one) =>
        one.account === account &&
        !one.isDeleted &&
        (isUnfinished(one) || this.#products.get(one.product)?.kind !== 'consumable'),
    );
    this.#sales.tell('store.restored', account, device, { transactions: found.map(({ id }) => id) });
    return {
      transactions: found,
      held: found.filter((one) => this.#sales.isHeld(one)).map(({ id }) => id),
      unfinished: found.filter(isUnfinished).map(({ id }) => id),
    };
  }

  // --- what the tester does

  #sellElsewhere({ account, product: id }: OrderOf<'elsewhere'>): StoreReply {
    const product = this.#product(id);
    this.#refuseOwner(account, product);
    return {
      transactions: [
        this.#sales.sell({ account, country: this.#countryOf(account), product, isElsewhere: true }),
      ],
    };
  }

  #decide(id: string, agrees: boolean): StoreReply {
    const order = this.#deferred.get(id);
    if (!order) throw new StoreRefusal('unknown-transaction', `nothing numbered ${id} waits for an answer`);
    this.#deferred.delete(id);
    // it may have been bought in another way meanwhile
    if (agrees && !this.#sales.isOwned(order.account, order.product))
      return { transactions: [this.#sales.sell({ ...order, id })] };
    this.#sales.tell('store.cancelled', order.account, order.device, { product: order.product.id });
    return {};
  }

  #takeBack({ do: how, transaction: id }: OrderOf<'refund' | 'revoke'>): StoreReply {
    const transaction = this.#sales.transaction(id);
    this.#sales.takeBack(transaction, how);
    return { transactions: [transaction] };
  }

  // --- looking up

  #countryOf = (account: string): string => this.#countries.get(account) ?? 'US';

  #product(id: string): StoreProduct {
    const product = this.#products.get(id);
    if (product?.isListed) return product;
    throw new StoreRefusal('unknown-product', `nothing called ${id} is for sale`);
  }

  #refuseOwner(account: string, product: StoreProduct): void {
    if (this.#sales.isOwned(account, product))
      throw new StoreRefusal('owned', `${account} already has ${product.id}`);
  }
}

type OrderOf<D extends StoreOrder['do']> = Extract<StoreOrder, { do: D }>;

/** Level 1 is the highest of a group; without levels, all are alike. */
const isLower = ({ level }: StoreProduct, { level: running }: StoreProduct): boolean =>
  level !== undefined && running !== undefined && level > running;
