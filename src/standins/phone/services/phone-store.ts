/**
 * The store's app on the phone: it asks the store for the installed apps, shows its sheet above them, and hands on what comes
 * back. As on the platform, an app gets only the sales that hold now, and those that it has not finished.
 */
import { decodeJwt } from 'jose';
import { z } from 'zod';
import type { Platform } from '../../../core/model/candidate.ts';
import type { Offer } from '../../store/catalogue.ts';
import type { SignedSale } from '../../store/sign-purchase.ts';
import type { StoreLink } from '../../store/store-link.ts';
import type { OwnedSale, PurchaseAnswer, StoreHost } from '../app-model.ts';
import type { AppSide, ServedApp } from './app-side.ts';

/** What the rest of the phone does for the store. */
interface StoreSide<App extends ServedApp> extends AppSide<App> {
  deviceId: string;
  /** How sales are signed for its apps. */
  platform: Platform;
  localeOf(app: App): string;
  showSheet(app: App, sheet: Sheet): void;
}

/** What the store asks before it sells. */
export interface Sheet {
  order: string;
  product: string;
  offer?: Offer;
}

const transactionSchema = z.object({
  transactionId: z.string(),
  originalTransactionId: z.string(),
  productId: z.string(),
});
const purchaseSchema = z.object({ orderId: z.string(), productId: z.string(), purchaseToken: z.string() });

export class PhoneStore<App extends ServedApp> {
  readonly #on: StoreSide<App>;
  #link?: StoreLink;
  #account = '';
  readonly #offers = new Map<string, Offer>();

  constructor(phone: StoreSide<App>) {
    this.#on = phone;
  }

  /** Signed in as one tester. */
  connect(link: StoreLink, account: string): void {
    this.#link = link;
    this.#account = account;
  }

  async list(appId: string, products: readonly string[]): Promise<void> {
    const app = this.#on.runnable(appId);
    if (!app) return;
    const locale = this.#on.localeOf(app);
    const listed = await this.#order({ do: 'list', products: [...products], locale });
    const offers = listed.ok ? (listed.offers ?? []) : [];
    for (const offer of offers) this.#offers.set(offer.id, offer);
    this.#tell(app, (host) => app.model.store?.listed(host, offers, listed.ok ? undefined : listed.why));
  }

  /** @param accountToken a UUID by which the app tells its own account */
  async buy(appId: string, product: string, accountToken?: string): Promise<void> {
    const app = this.#on.runnable(appId);
    if (!app) return;
    const asked = await this.#order({ do: 'ask', product, ...(accountToken && { accountToken }) });
    if (asked.ok && asked.order !== undefined)
      this.#on.showSheet(app, { order: asked.order, product, offer: this.#offers.get(product) });
    else this.#hand(app, { product, outcome: 'failed', why: asked.ok ? 'offline' : asked.why });
  }

  async answer(app: App, { order, product }: Sheet, buys: boolean): Promise<void> {
    this.#on.closeCover();
    const answered = await this.#order({ do: 'answer', order, buys });
    const answer = answered.ok ? answered.answer : undefined;
    const outcome = answer?.outcome;
    const [sale] = this.#salesIn([answer?.purchase], [answer?.transaction]);
    if (outcome === 'bought' && sale)
      this.#hand(app, { product, outcome: 'bought', sale: { ...sale, isHeld: true, isFinished: false } });
    else if (outcome === 'cancelled' || outcome === 'deferred' || outcome === 'planned')
      this.#hand(app, { product, outcome });
    else
      this.#hand(app, {
        product,
        outcome: 'failed',
        why: answer?.reason ?? (answered.ok ? 'offline' : answered.why),
      });
  }

  /** @param isAsked by the user, with a button for it */
  async owned(appId: string, isAsked: boolean): Promise<void> {
    const app = this.#on.runnable(appId);
    if (!app) return;
    const restored = await this.#order({ do: 'restore' });
    if (!restored.ok) {
      this.#tell(app, (host) => app.model.store?.unreachable?.(host, restored.why));
      return;
    }
    const { held = [], purchases, transactions, unfinished = [] } = restored;
    const sales = this.#salesIn(purchases, transactions).map((sale) => ({
      ...sale,
      isHeld: held.includes(sale.transaction),
      isFinished: !unfinished.includes(sale.transaction),
    }));
    const given = sales.filter(({ isFinished, isHeld }) => isHeld || !isFinished);
    this.#tell(app, (host) => app.model.store?.owned(host, given, isAsked));
  }

  async #finish(transaction: string): Promise<void> {
    await this.#order({ do: 'finish', transaction });
  }

  #order(
    order: Parameters<StoreLink['order']>[0] extends infer O
      ? DistributiveOmit<O, 'account' | 'device'>
      : never,
  ) {
    if (!this.#link || !this.#on.isOnline()) return Promise.resolve({ ok: false, why: 'offline' } as const);
    const of = { account: this.#account, device: this.#on.deviceId };
    return this.#link.order({ ...order, ...of } as Parameters<StoreLink['order']>[0]);
  }

  /** As the store signs them for this platform. */
  #salesIn(
    purchases: readonly (SignedSale | undefined)[] = [],
    transactions: readonly (string | undefined)[] = [],
  ): Sale[] {
    const sales =
      this.#on.platform === 'ios'
        ? transactions.map((jws) => jws && transactionIn(jws))
        : purchases.map((one) => one && saleIn(one));
    return sales.filter((sale) => typeof sale === 'object');
  }

  #hand(app: App, answer: PurchaseAnswer): void {
    this.#tell(app, (host) => app.model.store?.answered(host, answer));
  }

  /** Runs code of the app, where its process is still there; on its screen, where the user sees one. */
  #tell(app: App, code: (host: StoreHost) => void): void {
    if (!this.#on.isRunning(app)) return;
    const finish = (transaction: string) => void this.#finish(transaction);
    const isSeen = this.#on.onScreen(app, 'onStoreAnswer', ({ log, set, storage }) =>
      code({ log, set, storage, finish }),
    );
    if (isSeen) return;
    const log = (tag: string, text: string) => this.#on.log(app, 'D', tag, text);
    code({ log, set: () => {}, storage: app.storage, finish });
  }
}

type DistributiveOmit<T, K extends string> = T extends unknown ? Omit<T, K> : never;

type Sale = Omit<OwnedSale, 'isHeld' | 'isFinished'>;

/** Undefined where it is no purchase; as on the platform, whoever wants to be sure verifies it by itself. */
function saleIn({ data, signature, transaction }: SignedSale): Sale | undefined {
  try {
    const { orderId, productId, purchaseToken } = purchaseSchema.parse(JSON.parse(data));
    // the first of a chain of renewals, without what numbers them
    const [original = orderId] = orderId.split('..');
    return { transaction, original, product: productId, token: purchaseToken, signed: { data, signature } };
  } catch {
    return undefined;
  }
}

/** The same of iOS, a JWS (App Store Server API, *JWSTransactionDecodedPayload*). */
function transactionIn(jws: string): Sale | undefined {
  const read = transactionSchema.safeParse(decodeJwt(jws));
  if (!read.success) return undefined;
  const { originalTransactionId, productId, transactionId } = read.data;
  return { transaction: transactionId, original: originalTransactionId, product: productId };
}
