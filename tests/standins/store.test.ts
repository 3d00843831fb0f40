import { appendFileSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { entitlementsAt } from '../../src/core/areas/purchases/ledger/entitlements.ts';
import { judgeLedger } from '../../src/core/areas/purchases/ledger/judge-ledger.ts';
import { readLedger } from '../../src/core/areas/purchases/ledger/ledger.ts';
import { readSignedTransaction } from '../../src/core/formats/store/signed-transaction.ts';
import { UnreadableError } from '../../src/core/model/problem.ts';
import { nodePorts } from '../../src/node/ports.ts';
import { type Offer, offerOf, storeCatalogueSchema } from '../../src/standins/store/catalogue.ts';
import {
  type EventsAnswer,
  type ServedStore,
  type StoreOptions,
  serveStore,
} from '../../src/standins/store/serve-store.ts';
import { Store } from '../../src/standins/store/store.ts';
import {
  type StoreOrderInput,
  StoreRefusal,
  storeOrderSchema,
} from '../../src/standins/store/store-order.ts';

const START_MS = Date.parse('2026-11-23T08:00:00Z');
const names = { en: { name: 'Pass' }, de: { name: 'Ausweis' } };
const prices = { DE: { amount: 16.9, currency: 'EUR' }, '*': { amount: 18, currency: 'USD' } };
const catalogue = storeCatalogueSchema.parse({
  fenlok: 'store-catalogue/1',
  app: 'example.kelpline',
  products: [
    { id: 'month', kind: 'subscription', period: 'P1M', group: 'pass', names, prices },
    { id: 'year', kind: 'subscription', period: 'P1Y', group: 'pass', names, prices },
    { id: 'no-ads', kind: 'non-consumable', names, prices },
    { id: 'ten', kind: 'consumable', names, prices },
    { id: 'draft', kind: 'consumable', names, prices, isListed: false },
  ],
  testers: [{ account: 'ada', country: 'DE' }],
});
const sold = ['month', 'year', 'no-ads', 'ten'];
/** The year above the month, and a few days of the month for nothing. */
const levelled = storeCatalogueSchema.parse({
  ...catalogue,
  products: catalogue.products.map((one) => ({
    ...one,
    ...(one.id === 'year' && { level: 1 }),
    ...(one.id === 'month' && { level: 2, trial: 'P3D' }),
  })),
});
const DAY_MS = 24 * 3600_000;

const stepOf = fc.oneof(
  { weight: 4, arbitrary: fc.record({ buy: fc.constantFrom(...sold), by: fc.constantFrom('ada', 'bo') }) },
  { weight: 3, arbitrary: fc.record({ waitMin: fc.integer({ min: 1, max: 70 }) }) },
  {
    weight: 4,
    arbitrary: fc.record({
      do: fc.constantFrom(
        'refund',
        'revoke',
        'renew',
        'expire',
        'renewal',
        'payment',
        'finish',
        'elsewhere',
        'reset',
        'next',
      ),
      nth: fc.nat(9),
      flag: fc.boolean(),
      by: fc.constantFrom('ada', 'bo'),
    }),
  },
);

type Step = typeof stepOf extends fc.Arbitrary<infer S> ? S : never;

function play(store: Store, step: Step): void {
  if ('waitMin' in step) store.advanceTo(store.nowMs + step.waitMin * 60_000);
  else if ('buy' in step) buyIn(store, step.buy, step.by);
  else store.take(storeOrderSchema.parse(orderOf(store, step)));
}

function buyIn(store: Store, product: string, account: string): void {
  const of = { account, device: `phone of ${account}` };
  const { order = '' } = store.take({ do: 'ask', ...of, product });
  store.take({ do: 'answer', ...of, order, buys: true });
}

function orderOf(store: Store, { by, do: what, flag, nth }: Extract<Step, { do: string }>): StoreOrderInput {
  const one = store.transactions[nth % Math.max(1, store.transactions.length)];
  const [transaction, original] = [one?.id ?? 'none', one?.original ?? 'none'];
  switch (what) {
    case 'elsewhere':
      return { do: what, account: by, product: sold[nth % 4]! };
    case 'reset':
      return { do: what, account: by };
    case 'next':
      return { do: what, account: by, outcome: (['cancel', 'fail', 'defer'] as const)[nth % 3]! };
    case 'renewal':
      return { do: what, original, isOn: flag };
    case 'payment':
      return { do: what, original, fails: flag };
    case 'finish':
      return { do: what, account: by, transaction };
    case 'renew':
    case 'expire':
      return { do: what, original };
    default:
      return { do: what as 'refund', transaction };
  }
}

test('what the store says an account may use is what its own events add up to, whatever happens', () => {
  fc.assert(
    fc.property(
      fc.array(stepOf, { maxLength: 40 }),
      fc.constantFrom(undefined, 'apple-sandbox', 'play-test'),
      fc.constantFrom(catalogue, levelled),
      (steps, testClock, of) => {
        const store = new Store(of, { testClock }, START_MS);
        for (const step of steps) {
          try {
            play(store, step);
          } catch (error) {
            if (!(error instanceof StoreRefusal)) throw error;
          }
          const paid = entitlementsAt(readLedger(store.events), store.nowMs);
          for (const account of ['ada', 'bo'])
            expect(
              store
                .entitled(account)
                .map(({ product }) => product)
                .sort(),
            ).toEqual(paid.filter((one) => one.account === account).map(({ product }) => product));
        }
        // a store keeps its own rules
        const codes = judgeLedger(store.events).faults.map(({ code }) => code);
        expect(codes.filter((code) => code === 'sold-twice')).toEqual([]);
      },
    ),
    { numRuns: 400 },
  );
});

test('nothing happens by itself before it is due, and no two things in one moment where an order is given', () => {
  fc.assert(
    fc.property(fc.array(stepOf, { maxLength: 30 }), (steps) => {
      const store = new Store(catalogue, { testClock: 'play-test' }, START_MS);
      for (const step of steps)
        try {
          play(store, step);
        } catch (error) {
          if (!(error instanceof StoreRefusal)) throw error;
        }
      for (let due = store.nextDueMs; due !== undefined; due = store.nextDueMs) {
        const told = store.events.length;
        store.advanceTo(Math.max(store.nowMs, due - 1));
        expect(store.events).toHaveLength(told);
        // an order in that very moment waits for the next
        store.take({ do: 'tester', account: 'cy', country: 'NO' }, due);
        expect(store.events.length).toBeGreaterThan(told);
        expect(store.nowMs).toBeGreaterThan(due);
      }
    }),
    { numRuns: 200 },
  );
});

test('a higher plan is owned at once, a lower one when the period is over', () => {
  const store = new Store(levelled, { acknowledgeMs: 0 }, START_MS);
  const had = () => store.entitled('ada').map(({ product }) => product);
  const answerTo = (product: string) => {
    const of = { account: 'ada', device: 'a' };
    const { order = '' } = store.take({ do: 'ask', ...of, product });
    return store.take({ do: 'answer', ...of, order, buys: true }).answer;
  };
  expect(answerTo('month')).toMatchObject({ outcome: 'bought', transaction: { isTrial: true } });
  expect(answerTo('year')).toMatchObject({ outcome: 'bought', transaction: { isTrial: false } });
  expect(had()).toEqual(['year']);
  expect(answerTo('month')).toEqual({ outcome: 'planned' });
  expect(had()).toEqual(['year']);
  store.advanceTo(START_MS + 364 * DAY_MS);
  expect(had()).toEqual(['year']);
  store.advanceTo(START_MS + 366 * DAY_MS);
  expect(had()).toEqual(['month']);
  const { original, ...renewed } = store.events.at(-1) as Record<string, unknown>;
  expect(renewed).toMatchObject({ kind: 'store.renewed', product: 'month' });
  expect(original).toBe(store.events.find((one) => one.kind === 'store.planned')!.original);
  // and from now on month by month
  store.advanceTo(START_MS + 397 * DAY_MS);
  expect(store.events.at(-1)).toMatchObject({ kind: 'store.renewed', product: 'month', original });
});

test.each<[clock: string | undefined, trialMs: number, monthMs: number]>([
  [undefined, 3 * DAY_MS, 30 * DAY_MS],
  ['play-test', 180_000, 300_000],
  // as long as a plan of three days
  ['apple-sandbox', 120_000, 300_000],
])('a trial comes first, once, and as short as the table says: %s', (testClock, trialMs, monthMs) => {
  const store = new Store(levelled, { testClock, acknowledgeMs: 0 }, START_MS);
  play(store, { buy: 'month', by: 'ada' });
  const { boughtMs, untilMs } = store.transactions[0]!;
  expect(untilMs! - boughtMs).toBe(trialMs);
  expect(store.events.at(-1)).toMatchObject({ trial: true });
  store.advanceTo(untilMs! + 1);
  const paid = store.transactions[1]!;
  expect(paid).toMatchObject({ isRenewal: true, isTrial: false });
  expect(paid.untilMs! - paid.boughtMs).toBe(monthMs);
  play(store, { do: 'expire', nth: 0, flag: true, by: 'ada' });
  play(store, { buy: 'month', by: 'ada' });
  play(store, { buy: 'month', by: 'bo' });
  expect(store.transactions.slice(2).map(({ account, isTrial }) => `${account} ${isTrial}`)).toEqual([
    'ada false',
    'bo true',
  ]);
  const asked = (account: string) => store.take({ do: 'ask', account, product: 'month' }).isTrial;
  play(store, { do: 'expire', nth: 0, flag: true, by: 'ada' });
  expect([asked('ada'), asked('cy')]).toEqual([false, true]);
});

test('a shortened month renews on its table, and ends by itself', () => {
  const store = new Store(catalogue, { testClock: 'play-test' }, START_MS);
  play(store, { buy: 'month', by: 'ada' });
  play(store, { do: 'finish', nth: 0, flag: true, by: 'ada' });
  store.advanceTo(START_MS + 3 * 3600_000);
  expect(
    store.events
      .slice(1)
      .map(({ at, kind }) => `${Math.floor((Date.parse(at) - START_MS) / 60_000)} ${kind}`),
  ).toEqual([
    '0 store.bought',
    '0 store.finished',
    ...[5, 10, 15, 20, 25, 30].map((minute) => `${minute} store.renewed`),
    '35 store.expired',
  ]);
});

test('what is not finished in time is given back, and the clock does not go back', () => {
  const store = new Store(catalogue, { testClock: 'play-test' }, START_MS);
  play(store, { buy: 'no-ads', by: 'ada' });
  store.advanceTo(START_MS + 4 * 60_000);
  expect(store.events.at(-1)).toMatchObject({ kind: 'store.refunded', at: '2026-11-23T08:03:00.002Z' });
  expect(store.entitled('ada')).toEqual([]);
  expect(() => store.advanceTo(START_MS)).toThrow(/cannot go back/);
});

test('a price is written in the form of the language, in the money of the country', () => {
  const [month] = catalogue.products;
  const said = (country: string, locale: string) =>
    offerOf(month!, country, locale)?.price.replace(/\s/g, ' ');
  expect([said('DE', 'de'), said('DE', 'en'), said('NO', 'nb'), said('NO', 'ar')]).toEqual([
    '16,90 €',
    '€16.90',
    '18,00 USD',
    expect.stringContaining('US$'),
  ]);
  expect(offerOf(month!, 'DE', 'de-AT')?.name).toBe('Ausweis');
  expect(offerOf(month!, 'DE', 'nb')?.name).toBe('Pass');
});

test.each([
  ['a currency', { prices: { '*': { amount: 1, currency: 'EURO' } } }, /currency/],
  ['a price below nothing', { prices: { '*': { amount: -1, currency: 'EUR' } } }, /amount/],
  ['a plan without a period', { kind: 'subscription' }, /needs a period/],
  ['a level without a group', { level: 2 }, /level is one of a group/],
  ['a trial of something used up', { trial: 'P1W' }, /has no trial/],
  ['a period of something used up', { period: 'P1M' }, /has no period/],
  ['a key with a typo', { nmaes: {} }, /nmaes/],
])('a catalogue with a wrong product is refused: %s', (_, change, why) => {
  const product = { id: 'x', kind: 'consumable', names, prices, ...change };
  const read = storeCatalogueSchema.safeParse({ fenlok: 'store-catalogue/1', app: 'a', products: [product] });
  expect(read.error?.message).toMatch(why);
  expect(
    storeCatalogueSchema.safeParse({
      fenlok: 'store-catalogue/1',
      app: 'a',
      products: [{ ...product, ...change, id: 'x' }, product],
    }).success,
  ).toBe(false);
});

interface Called extends Partial<EventsAnswer> {
  status: number;
  error?: string;
  offers?: Offer[];
  order?: string;
  answer?: { outcome: string; transaction: string };
  entitled?: unknown[];
  now?: string;
  rate?: number;
}

describe('on its port', () => {
  const folder = mkdtempSync(join(tmpdir(), 'store-'));
  const open: ServedStore[] = [];
  afterEach(async () => {
    for (const one of open.splice(0)) await one.close();
  });
  afterAll(() => rmSync(folder, { recursive: true }));

  const serve = async (more: Partial<StoreOptions> = {}) => {
    const served = await serveStore({ catalogue, settings: { acknowledgeMs: 0 }, slowMs: 50, ...more });
    open.push(served);
    return served;
  };
  const call = async (
    { address: { secret, store } }: ServedStore,
    path: string,
    body?: object,
    header = `Bearer ${secret}`,
  ) => {
    const response = await fetch(store + path, {
      method: body ? 'POST' : 'GET',
      headers: { authorization: header },
      body: body && JSON.stringify(body),
    });
    return { status: response.status, ...((await response.json()) as object) } as Called;
  };
  const order = (served: ServedStore, body: StoreOrderInput) => call(served, '/orders', body);
  const buy = async (served: ServedStore, product: string) => {
    const { order: id } = await order(served, { do: 'ask', account: 'ada', device: 'one', product });
    return order(served, { do: 'answer', account: 'ada', device: 'one', order: id!, buys: true });
  };

  test('sells, signs what it sold, and refuses what an owner has', async () => {
    const served = await serve();
    const { offers } = await order(served, {
      do: 'list',
      account: 'ada',
      products: ['month', 'mnoth', 'draft'],
      locale: 'de',
    });
    expect(offers).toEqual([
      expect.objectContaining({ id: 'month', name: 'Ausweis', currency: 'EUR', period: 'P1M' }),
    ]);
    const { answer } = await buy(served, 'no-ads');
    const root = Uint8Array.from(Buffer.from(served.address.root, 'base64'));
    const of = { appId: 'example.kelpline', nowMs: Date.now(), ports: nodePorts };
    expect(await readSignedTransaction(answer!.transaction, { ...of, roots: [root] })).toMatchObject({
      ok: true,
      value: { productId: 'no-ads', type: 'Non-Consumable', transactionReason: 'PURCHASE' },
    });
    expect(await readSignedTransaction(answer!.transaction, { ...of, roots: [] })).toMatchObject({
      fault: { code: 'chain', chain: { code: 'untrusted' } },
    });
    expect(await order(served, { do: 'ask', account: 'ada', product: 'no-ads' })).toMatchObject({
      status: 409,
      error: 'owned',
    });
  });

  test('its clock is stepped and hurried, and events come once, twice or backwards', async () => {
    const served = await serve({ rate: 0 });
    await buy(served, 'month');
    await call(served, '/clock', { stepS: 32 * 24 * 3600 });
    const { events = [], next } = await call(served, '/events?after=0');
    expect(events.map(({ kind }) => kind)).toEqual(['store.asked', 'store.bought', 'store.renewed']);
    await call(served, '/faults', { fault: 'twice' });
    await call(served, '/faults', { fault: 'disorder' });
    const again = await call(served, '/events?after=0');
    expect(again.events).toEqual([...events, ...events].reverse());
    expect(again.next).toBe(next);
    expect((await call(served, '/clock', { rate: 3600 })).rate).toBe(3600);
  });

  test('goes slowly, breaks off and is away when asked to, and is itself again after it', async () => {
    const served = await serve();
    const list = () => order(served, { do: 'list', account: 'ada', products: ['month'] });
    await call(served, '/faults', { fault: 'offline' });
    await expect(list()).rejects.toThrow('fetch failed');
    await call(served, '/faults', { fault: 'half' });
    await expect(list()).rejects.toThrow(/terminated|JSON/);
    await call(served, '/faults', { fault: 'slow' });
    const began = performance.now();
    expect((await list()).offers).toHaveLength(1);
    expect(performance.now() - began).toBeGreaterThan(45);
  });

  test.each([
    ['no secret', '/orders', {}, 401, 'no-secret', 'Bearer x'],
    ['an unknown order', '/orders', { do: 'steal' }, 400, 'wrong-order', undefined],
    [
      'an unknown transaction',
      '/orders',
      { do: 'refund', transaction: '7' },
      409,
      'unknown-transaction',
      undefined,
    ],
    [
      'an unknown product',
      '/orders',
      { do: 'ask', account: 'ada', product: 'mnoth' },
      409,
      'unknown-product',
      undefined,
    ],
    ['a clock that goes back', '/clock', { stepS: -60 }, 400, 'wrong-order', undefined],
    ['too much', '/orders', { do: 'list', products: ['x'.repeat(2 ** 20)] }, 413, 'too-large', undefined],
    ['nowhere', '/somewhere', undefined, 404, 'no-such-place', undefined],
  ])('refuses with a reason: %s', async (_, path, body, status, error, header) => {
    const served = await serve();
    expect(await call(served, path, body, header)).toMatchObject({ status, error });
  });

  test('a restart loses nothing; a line cut off at its end is given up, and a damaged one is told', async () => {
    const journal = join(folder, 'journal.jsonl');
    const first = await serve({ journal, rate: 0, settings: { testClock: 'apple-sandbox' } });
    await buy(first, 'month');
    await buy(first, 'no-ads');
    await order(first, { do: 'ask', account: 'ada', product: 'no-ads' });
    await call(first, '/clock', { stepS: 700 });
    const { now } = await call(first, '/clock');
    const before = await call(first, '/events?after=0');
    await open.splice(0)[0]!.close();
    appendFileSync(journal, '{"atMs":17');
    const second = await serve({ journal, rate: 0 });
    expect((await call(second, '/clock')).now).toBe(now);
    expect(await call(second, '/events?after=0')).toEqual(before);
    expect((await call(second, '/entitlements?account=ada')).entitled).toHaveLength(2);
    const lines = readFileSync(journal, 'utf8').trimEnd().split('\n').length;
    appendFileSync(journal, 'not a line\n');
    const opened = serve({ journal });
    await expect(opened).rejects.toThrow(UnreadableError);
    await expect(opened).rejects.toThrow(`line ${lines + 1}`);
  });

  test('ten thousand products are asked for at once', async () => {
    const many = Array.from({ length: 10_000 }, (_, i) => ({ ...catalogue.products[3]!, id: `item.${i}` }));
    const served = await serve({ catalogue: { ...catalogue, products: many } });
    const { offers } = await order(served, {
      do: 'list',
      account: 'ada',
      products: many.map(({ id }) => id),
    });
    expect(offers).toHaveLength(10_000);
  });
});
