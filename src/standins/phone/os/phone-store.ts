/**
 * The store's app on the phone: it asks the store for the installed apps, shows its sheet above them, and hands on what comes
 * back. As on the platform, an app gets only the sales that hold now, and those that it has not finished.
 */
import { z } from 'zod';
import type { Offer } from '../../store/catalogue.ts';
import type { SignedSale } from '../../store/sign-purchase.ts';
import type { StoreLink } from '../../store/store-link.ts';
import type { AppContext, OwnedSale, PurchaseAnswer, StoreHost } from '../app-model.ts';
import type { ActivityManager, RunnableApp } from './activity-manager.ts';
import type { DeviceLog } from './device-log.ts';

/** What the rest of the phone does for the store. */
export interface Surroundings {
  log: DeviceLog;
  activities: ActivityManager;
  deviceId: string;
  isOnline(): boolean;
  runnable(appId: string): RunnableApp | undefined;
  context(app: RunnableApp): AppContext;
  showSheet(app: RunnableApp, sheet: Sheet): void;
  closeCover(): void;
}

/** What the store asks before it sells. */
export interface Sheet {
  order: string;
  product: string;
  offer?: Offer;
}

const purchaseSchema = z.object({ orderId: z.string(), productId: z.string(), purchaseToken: z.string() });

export class PhoneStore {
  readonly #on: Surroundings;
  #link?: StoreLink;
  #account = '';
  readonly #offers = new Map<string, Offer>();

  constructor(surroundings: Surroundings) {
    this.#on = surroundings;
  }

  /** Signed in as one tester. */
  connect(link: StoreLink, account: string): void {
    this.#link = link;
    this.#account = account;
  }

  async list(appId: string, products: readonly string[]): Promise<void> {
    const app = this.#on.runnable(appId);
    if (!app) return;
    const { locale } = this.#on.context(app);
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

  async answer(app: RunnableApp, { order, product }: Sheet, buys: boolean): Promise<void> {
    this.#on.closeCover();
    const answered = await this.#order({ do: 'answer', order, buys });
    const answer = answered.ok ? answered.answer : undefined;
    const outcome = answer?.outcome;
    const sale = answer?.purchase && saleIn(answer.purchase);
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
    const { held = [], purchases = [], unfinished = [] } = restored;
    const sales = purchases
      .flatMap((one) => saleIn(one) ?? [])
      .map((sale) => ({
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

  #hand(app: RunnableApp, answer: PurchaseAnswer): void {
    this.#tell(app, (host) => app.model.store?.answered(host, answer));
  }

  /** Runs code of the app, where its process is still there; on its screen, where the user sees one. */
  #tell(app: RunnableApp, code: (host: StoreHost) => void): void {
    const { activities, log } = this.#on;
    const pid = activities.pidOf(app.appId);
    if (pid === 0) return;
    const finish = (transaction: string) => void this.#finish(transaction);
    const record = activities.shown;
    if (record && activities.front.app.appId === app.appId)
      activities.run(activities.front, record, 'onStoreAnswer', ({ log: write, set, storage }) =>
        code({ log: write, set, storage, finish }),
      );
    else
      code({
        log: (tag, message) => log.write('main', pid, 'D', tag, message),
        set: () => {},
        storage: app.storage,
        finish,
      });
  }
}

type DistributiveOmit<T, K extends string> = T extends unknown ? Omit<T, K> : never;

/** Undefined where it is no purchase; as on the platform, whoever wants to be sure verifies it by itself. */
function saleIn({
  data,
  signature,
  transaction,
}: SignedSale): Omit<OwnedSale, 'isHeld' | 'isFinished'> | undefined {
  try {
    const { orderId, productId, purchaseToken } = purchaseSchema.parse(JSON.parse(data));
    // the first of a chain of renewals, without what numbers them
    const [original = orderId] = orderId.split('..');
    return { transaction, original, product: productId, token: purchaseToken, signed: { data, signature } };
  } catch {
    return undefined;
  }
}
