/**
 * A rehearsal: a store, ad networks, and an app on two phones of one tester. Pure: the same acts come out the same, so that
 * what was played can be taken back, kept, and played again.
 */
import type { Intent, TraceLine } from 'fenlok';
import { AdExchange, type ExchangeSetup, Store, type StoreCatalogue } from 'fenlok/standins/models';
import type { Act } from './acts.ts';
import type { RehearsedApp } from './app.ts';
import { carefulApp, type Mistake } from './careful-app.ts';
import { kelplineApp } from './kelpline-app.ts';
import { Phone } from './phone.ts';

export interface Project {
  intent: Intent;
  catalogue: StoreCatalogue;
  /** Without one, no ad is asked for. */
  exchange?: ExchangeSetup;
}

export interface Beginning {
  startMs: number;
  /** Id of a table that shortens time. */
  testClock?: string;
}

/** So long a person takes for what they do. */
export const ACT_MS = 10_000;

/** What changes what a tester owns. */
const CHANGES: ReadonlySet<string> = new Set([
  'store.bought',
  'store.renewed',
  'store.refunded',
  'store.revoked',
  'store.expired',
  'store.unpaid',
  'store.reset',
]);

export class Rehearsal {
  readonly project: Project;
  readonly store: Store;
  readonly exchange: AdExchange;
  readonly account: string;
  readonly phones: readonly [Phone, Phone];
  /** All that happened, as a trace. */
  readonly lines: TraceLine[] = [];
  /** The app that both phones run: one without mistakes, with those that it was given, or the demo's own. */
  app: { is: 'kelpline' } | { is: 'careful'; mistakes: readonly Mistake[] } = { is: 'careful', mistakes: [] };
  #app: RehearsedApp;
  #eventsRead = 0;
  #changesTold = 0;
  #ownedTold = '';

  /** @throws RangeError where there is no such table of shortened time */
  constructor(project: Project, { startMs, testClock }: Beginning) {
    const { catalogue, exchange, intent } = project;
    this.project = project;
    this.store = new Store(catalogue, { testClock }, startMs);
    this.exchange = new AdExchange(exchange ?? { fenlok: 'ad-exchange/1', networks: [] });
    this.account = intent.purchases.account ?? catalogue.testers[0]?.account ?? 'tester';
    this.#app = carefulApp(intent, new Set());
    const surroundings = {
      store: this.store,
      exchange: this.exchange,
      account: this.account,
      appId: intent.app.id,
      app: () => this.#app,
      write: (line: { kind: string }) => {
        this.#readEvents();
        this.lines.push({ at: new Date(this.nowMs).toISOString(), ...line });
      },
    };
    this.phones = [new Phone('phone 1', surroundings), new Phone('phone 2', surroundings)];
  }

  get nowMs(): number {
    return this.store.nowMs;
  }

  /** When something happens by itself next, at the store or on a phone. */
  get nextMs(): number | undefined {
    const times = [
      this.store.nextDueMs,
      ...this.phones.map(({ nextMs }) => nextMs),
      // a grace ends, and no event says so
      ...this.store.entitled(this.account).map(({ untilMs }) => untilMs),
    ];
    const known = times.filter((ms) => ms !== undefined);
    return known.length === 0 ? undefined : Math.min(...known);
  }

  /** What falls due meanwhile happens at its own moment, and each phone hears of it then. */
  advanceTo(ms: number): void {
    for (let next = this.nextMs; next !== undefined && next <= ms; next = this.nextMs) {
      this.store.advanceTo(Math.max(next, this.nowMs));
      this.#tellPhones();
      for (const phone of this.phones) phone.goOn();
    }
    this.store.advanceTo(Math.max(ms, this.nowMs));
    this.#tellPhones();
  }

  /** @throws StoreRefusal where the store does not do it */
  act(act: Act): void {
    if (act.do === 'wait') {
      this.advanceTo(this.nowMs + act.ms);
      return;
    }
    this.#perform(act);
    this.#tellPhones('phone' in act ? act.phone : undefined);
    this.advanceTo(this.nowMs + ACT_MS);
  }

  #perform(act: Exclude<Act, { do: 'wait' }>): void {
    switch (act.do) {
      case 'order':
        this.store.take(act.order);
        break;
      case 'app':
        this.#update(act.isKelpline, act.mistakes);
        break;
      case 'mode':
        this.exchange.setMode(act.network, act.mode);
        break;
      case 'register':
        for (const phone of this.phones) phone.registerAt(this.exchange.networks);
        break;
      case 'load-all':
        for (const phone of this.phones) this.#loadAll(phone);
        break;
      default:
        this.#onPhone(act);
    }
  }

  #onPhone(act: Extract<Act, { phone: number }>): void {
    const phone = this.phones[act.phone];
    switch (act.do) {
      case 'open':
        phone.open();
        break;
      case 'leave':
        phone.leave();
        break;
      case 'end':
        phone.end();
        break;
      case 'remove':
        phone.remove();
        break;
      case 'network':
        phone.goOnline(act.isOn);
        break;
      case 'buy':
        phone.buy(act.product);
        break;
      case 'answer':
        phone.answer(act.isYes);
        break;
      case 'restore':
        phone.restore();
        break;
      case 'show':
        phone.show(act.placement);
        break;
      default:
        act satisfies never;
    }
  }

  /** Ends what runs, as an update does. */
  #update(isKelpline: boolean, mistakes: readonly Mistake[]): void {
    for (const phone of this.phones) phone.end();
    this.app = isKelpline ? { is: 'kelpline' } : { is: 'careful', mistakes };
    this.#app = isKelpline ? kelplineApp : carefulApp(this.project.intent, new Set(mistakes));
  }

  /** Each placement from each of its networks. */
  #loadAll(phone: Phone): void {
    for (const { id, waterfall } of this.project.intent.ads.placements)
      for (const place of waterfall.keys()) phone.load(id, place);
  }

  /** @param by the phone that did it, and knows of its own purchase, but not of what that ended */
  #tellPhones(by?: number): void {
    this.#readEvents();
    const owned = this.store
      .entitled(this.account)
      .map(({ product }) => product)
      .sort()
      .join();
    const changes = this.store.events.slice(this.#changesTold).filter(({ kind }) => CHANGES.has(kind));
    const isKnown = changes.every(({ kind }) => kind === 'store.bought');
    if (changes.length > 0 || owned !== this.#ownedTold)
      for (const [i, phone] of this.phones.entries()) if (i !== by || !isKnown) phone.toldOfChange();
    // what an app did in answer is no news to it
    this.#readEvents();
    this.#changesTold = this.store.events.length;
    this.#ownedTold = owned;
  }

  #readEvents(): void {
    const { events } = this.store;
    for (; this.#eventsRead < events.length; this.#eventsRead++) this.lines.push(events[this.#eventsRead]!);
  }
}

/** @throws StoreRefusal at an act that the store does not do */
export function play(project: Project, beginning: Beginning, acts: readonly Act[]): Rehearsal {
  const rehearsal = new Rehearsal(project, beginning);
  for (const act of acts) rehearsal.act(act);
  return rehearsal;
}
