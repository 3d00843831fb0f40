/**
 * Purchases through a test store: each product cancelled, refused, deferred, bought and asked for again; then what becomes of it
 * after a relaunch, without the store, on a second device, renewed, expired, refunded, bought elsewhere and deleted. It clears
 * the app's data and all that the tester bought, and steps the store's clock.
 */
import type { Intent } from '../../../core/model/intent.ts';
import type { IntentProduct } from '../../../core/model/intent-parts.ts';
import { type LedgerLine, ledgerLineSchema } from '../../../core/model/ledger.ts';
import type { DrillLine, TraceLine } from '../../../core/model/trace.ts';
import type { StoreClient } from '../../../node/store/store-client.ts';
import type { Device, DeviceApp } from '../../device.ts';
import { NoDump } from '../../out-of-reach.ts';
import { performSteps } from '../../phone/navigate-to.ts';
import { pause, until } from '../../phone/pause.ts';
import { findElement, performStep, StepFailed, tap } from '../../phone/perform-step.ts';
import { beginTrace } from '../begin-trace.ts';
import type { DrillSubject } from '../drill-subject.ts';
import { type LogReader, logReader, toldIn } from './app-lines.ts';

export interface BuyingKit {
  client: StoreClient;
  /** Another device with the same app and the same tester. */
  second?: { device: Device; app: DeviceApp };
  signal?: AbortSignal;
}

/** Between two acts, so that an app has had the time to learn of the first. */
const BETWEEN_S = 60;
const BETWEEN_ANSWERS_S = 10;
const COMES_WITHIN_MS = 3_000;
const NOTHING_WITHIN_MS = 1_200;

/** @throws OutOfReach: a device, or the store */
export async function buyEverything(
  subject: DrillSubject,
  intent: Intent,
  kit: BuyingKit,
): Promise<TraceLine[]> {
  const { lines, write } = beginTrace(subject, 'purchases', 'app');
  const flows = new Buying(subject, intent, kit, lines);
  try {
    await flows.run();
  } catch (error) {
    if (!(error instanceof StepFailed || error instanceof NoDump)) throw error;
    write('drill.stopped', { step: error instanceof StepFailed ? error.step : 'dump', why: error.message });
  } finally {
    await kit.client.fail('offline', 0).catch(() => {});
  }
  write('drill.ended', {});
  return lines;
}

/** One of the phones, with how far its log was read. */
interface Phone {
  device: Device;
  app: DeviceApp;
  log?: LogReader;
  /** By how much the store's clock is ahead of its own, from a moment on. */
  ahead: { fromS: number; aheadMs: number }[];
}

class Buying {
  readonly #intent: Intent;
  readonly #kit: BuyingKit;
  readonly #account: string;
  readonly #first: Phone;
  readonly #second?: Phone;
  readonly #lines: (DrillLine | TraceLine)[];
  /** Events of the store that were read. */
  #next = 0;

  constructor(
    { app, device }: DrillSubject,
    intent: Intent,
    kit: BuyingKit,
    lines: (DrillLine | TraceLine)[],
  ) {
    this.#intent = intent;
    this.#kit = kit;
    this.#account = intent.purchases.account;
    this.#first = { device, app, ahead: [] };
    this.#second = kit.second && { ...kit.second, ahead: [] };
    this.#lines = lines;
  }

  async run(): Promise<void> {
    const { products } = this.#intent.purchases;
    this.#next = (await this.#kit.client.events(0)).next;
    await this.#order({ do: 'reset', account: this.#account });
    await this.#readOffers(products);
    await this.#openAfresh(this.#first);
    for (const product of products) if (product.buy.length > 0) await this.#buyInEveryWay(product);
    await this.#relaunch(this.#first);
    await this.#withoutStore();
    await this.#onSecondDevice();
    await this.#renewAndExpire(products);
    await this.#refund(products);
    await this.#leaveAndListen();
    await this.#elsewhere(products);
    await this.#deleteAll();
  }

  async #readOffers(products: readonly IntentProduct[]): Promise<void> {
    for (const locale of this.#intent.locales.length > 0
      ? this.#intent.locales
      : [this.#intent.sourceLocale]) {
      const ids = products.map(({ id }) => id);
      const { offers = [] } = await this.#order({
        do: 'list',
        account: this.#account,
        products: ids,
        locale,
      });
      const at = await this.#now();
      for (const { id, kind, ...offer } of offers)
        this.#write({
          at,
          kind: 'store.offered',
          account: this.#account,
          product: id,
          productKind: kind,
          locale,
          ...offer,
        });
    }
  }

  /** On one visit to where it is sold, so that the way there is gone once. */
  async #buyInEveryWay(product: IntentProduct): Promise<void> {
    this.#kit.signal?.throwIfAborted();
    const { app, device } = this.#first;
    await device.stop(app);
    await this.#open(this.#first);
    await performSteps(device, app, product.buy.slice(0, -1));
    await this.#touchAndAnswer(product, 'cancel');
    await this.#order({ do: 'next', account: this.#account, outcome: 'fail' });
    await this.#touchAndAnswer(product, 'buy');
    await this.#order({ do: 'next', account: this.#account, outcome: 'defer' });
    await this.#touchAndAnswer(product, 'buy');
    for (const line of this.#lines.filter(isDeferred).filter((one) => one.product === product.id))
      await this.#order({ do: 'decline', transaction: line.transaction });
    await this.#touchAndAnswer(product, 'buy');
    if (product.kind === 'consumable') return;
    await this.#step(BETWEEN_S);
    await this.#touchAndAnswer(product, 'buy');
  }

  /** Touches the button that buys, and one of the sheet, where it comes up. */
  async #touchAndAnswer({ buy, id }: IntentProduct, answer: 'buy' | 'cancel'): Promise<void> {
    const { app, device } = this.#first;
    await performStep(device, app, buy.at(-1)!);
    const { sheet } = this.#intent.purchases;
    const before = this.#lines.length;
    const isAnswered = await until(async () => {
      const button = findElement((await device.snapshot()).tree, sheet[answer]);
      if (button) {
        await tap(device, button);
        return true;
      }
      await this.#readAll();
      return this.#lines
        .slice(before)
        .some((line) => 'product' in line && line.product === id && isAnswer(line));
    }, COMES_WITHIN_MS);
    if (isAnswered)
      await until(async () => {
        await this.#readAll();
        return this.#lines.slice(before).some((line) => isAnswer(line) || line.kind === 'access.now');
      }, COMES_WITHIN_MS);
    // what comes of the next one is then told apart from what came of this
    await this.#step(BETWEEN_ANSWERS_S);
  }

  async #withoutStore(): Promise<void> {
    const many = 100;
    await this.#kit.client.fail('offline', many);
    const at = await this.#now();
    const of = { at, account: this.#account, device: this.#first.device.info.id };
    this.#write({ ...of, kind: 'store.away' });
    await this.#reopen(this.#first);
    await this.#kit.client.fail('offline', 0);
    await this.#readAll();
    this.#write({ ...of, at: await this.#now(), kind: 'store.back' });
  }

  async #onSecondDevice(): Promise<void> {
    const { restore } = this.#intent.purchases;
    if (!this.#second || restore.length === 0) return;
    await this.#openAfresh(this.#second);
    await this.#restoreOn(this.#second);
  }

  async #restoreOn(phone: Phone): Promise<void> {
    await performSteps(phone.device, phone.app, this.#intent.purchases.restore);
    await this.#readAll();
    await this.#relaunch(phone);
  }

  /** The period of each goes by; then they end, one after another. */
  async #renewAndExpire(products: readonly IntentProduct[]): Promise<void> {
    const plans = products.filter(({ kind }) => kind === 'subscription');
    for (const { id } of plans) {
      const untilMs = this.#paidUntil(id);
      if (untilMs === undefined) continue;
      await this.#stepTo(untilMs);
      await this.#relaunch(this.#first);
    }
    for (const { id } of plans) {
      const original = this.#lastSale(id)?.original;
      if (original === undefined) continue;
      await this.#order({ do: 'expire', original });
      await this.#relaunch(this.#first);
    }
  }

  async #refund(products: readonly IntentProduct[]): Promise<void> {
    for (const { id, kind } of products) {
      if (kind === 'consumable') continue;
      if (kind === 'subscription')
        await this.#order({ do: 'elsewhere', account: this.#account, product: id });
      await this.#readAll();
      const transaction = this.#lastSale(id)?.transaction;
      if (transaction === undefined) continue;
      if (kind === 'subscription') await this.#relaunch(this.#first);
      await this.#order({ do: 'refund', transaction });
      await this.#relaunch(this.#first);
    }
  }

  /** Everything is over: the app is left, and the store listens whether it still asks for anything. */
  async #leaveAndListen(): Promise<void> {
    const { device } = this.#first;
    await device.press('HOME');
    this.#write({ at: await this.#now(), kind: 'app.left', account: this.#account, device: device.info.id });
    await this.#step(BETWEEN_S);
    await pause(NOTHING_WITHIN_MS);
    await this.#readAll();
  }

  async #elsewhere(products: readonly IntentProduct[]): Promise<void> {
    if (this.#intent.purchases.restore.length === 0) return;
    await this.#order({ do: 'reset', account: this.#account });
    await this.#openAfresh(this.#first);
    for (const { id, kind } of products)
      if (kind !== 'consumable') await this.#order({ do: 'elsewhere', account: this.#account, product: id });
    await this.#step(BETWEEN_S);
    await this.#restoreOn(this.#first);
  }

  async #deleteAll(): Promise<void> {
    await this.#order({ do: 'reset', account: this.#account });
    await this.#relaunch(this.#first);
  }

  // --- what the phones do

  async #openAfresh(phone: Phone): Promise<void> {
    await phone.device.clear(phone.app);
    await this.#open(phone);
  }

  /** Time goes by, the process ends, and the app is opened again. */
  async #relaunch(phone: Phone): Promise<void> {
    await this.#step(BETWEEN_S);
    await this.#reopen(phone);
  }

  async #reopen(phone: Phone): Promise<void> {
    await this.#readAll();
    await phone.device.stop(phone.app);
    await this.#open(phone);
  }

  /** Until it has said what it gives. */
  async #open(phone: Phone): Promise<void> {
    this.#kit.signal?.throwIfAborted();
    const before = this.#lines.length;
    this.#write(await this.#opened(phone));
    await phone.device.launch(phone.app);
    await until(async () => {
      await this.#readAll();
      return this.#lines
        .slice(before)
        .some((line) => line.kind === 'access.now' && line.device === phone.device.info.id);
    }, COMES_WITHIN_MS);
  }

  async #opened({ device }: Phone): Promise<LedgerLine> {
    return { at: await this.#now(), kind: 'app.opened', account: this.#account, device: device.info.id };
  }

  // --- what the store and the app said

  async #order(order: object): ReturnType<StoreClient['order']> {
    const answer = await this.#kit.client.order(order);
    await this.#readAll();
    return answer;
  }

  #now = async (): Promise<string> => new Date(await this.#kit.client.nowMs()).toISOString();

  #write(line: LedgerLine): void {
    this.#lines.push(line);
  }

  async #stepTo(ms: number): Promise<void> {
    const aheadS = Math.ceil((ms - (await this.#kit.client.nowMs())) / 1000);
    if (aheadS > 0) await this.#step(aheadS + 1);
    await this.#readAll();
  }

  /** What an app printed before it belongs to the time before it, whenever it is read. */
  async #step(seconds: number): Promise<void> {
    await this.#readAll();
    const phones = [this.#first, ...(this.#second ? [this.#second] : [])];
    const before = await Promise.all(phones.map(({ device }) => device.clockS()));
    await this.#kit.client.step(seconds);
    for (const [i, phone] of phones.entries()) await this.#compareClocks(phone, before[i]!);
  }

  /** The best of a few tries, since the bridge takes its time. */
  async #compareClocks(phone: Phone, fromS: number): Promise<void> {
    let best = { tookS: Number.POSITIVE_INFINITY, aheadMs: 0 };
    for (let tries = 0; tries < 3; tries++) {
      const beforeS = await phone.device.clockS();
      const storeMs = await this.#kit.client.nowMs();
      const afterS = await phone.device.clockS();
      const aheadMs = storeMs - ((beforeS + afterS) / 2) * 1000;
      if (afterS - beforeS < best.tookS) best = { tookS: afterS - beforeS, aheadMs };
    }
    phone.ahead.push({ fromS, aheadMs: best.aheadMs });
  }

  async #readAll(): Promise<void> {
    for (const phone of [this.#first, this.#second]) if (phone) await this.#readLog(phone);
    const { events, next } = await this.#kit.client
      .events(this.#next)
      .catch(() => ({ events: [], next: this.#next }));
    this.#next = next;
    // other testers buy from the same store
    for (const event of events) if (event.account === this.#account) this.#write(event);
  }

  /** Lines that the app printed under the tag Fenlok, at the store's time. */
  async #readLog(phone: Phone): Promise<void> {
    const { device } = phone;
    if (!phone.log) {
      phone.log = logReader(device, await device.clockS());
      await this.#compareClocks(phone, 0);
    }
    for (const line of await phone.log.next()) {
      const { aheadMs } = phone.ahead.findLast(({ fromS }) => fromS <= line.epoch)!;
      const told = ledgerLineSchema.safeParse({
        ...toldIn(line),
        at: new Date(Math.round(line.epoch * 1000 + aheadMs)).toISOString(),
        device: device.info.id,
        account: this.#account,
      });
      if (told.success) this.#write(told.data);
    }
  }

  #lastSale = (product: string) => this.#lines.filter(isSale).findLast((line) => line.product === product);

  #paidUntil(product: string): number | undefined {
    const until = this.#lastSale(product)?.until;
    return until === undefined ? undefined : Date.parse(until);
  }
}

type LineOf<K extends LedgerLine['kind']> = Extract<LedgerLine, { kind: K }>;

const isSale = (line: { kind: string }): line is LineOf<'store.bought'> | LineOf<'store.renewed'> =>
  line.kind === 'store.bought' || line.kind === 'store.renewed';
const isDeferred = (line: { kind: string }): line is LineOf<'store.deferred'> =>
  line.kind === 'store.deferred';

const ANSWERS = new Set(['purchase.granted', 'purchase.cancelled', 'purchase.failed', 'purchase.deferred']);
const isAnswer = ({ kind }: { kind: string }): boolean => ANSWERS.has(kind);
