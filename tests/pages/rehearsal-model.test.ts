/** What the rehearsal plays, without its page: mistakes are found and nothing else, and what was played can be played again. */
import { join } from 'node:path';
import fc from 'fast-check';
import type { Act } from '../../examples/rehearsal/src/model/acts.ts';
import { type Band, drawBands, STORE } from '../../examples/rehearsal/src/model/bands.ts';
import { type Mistake, mistakes } from '../../examples/rehearsal/src/model/careful-app.ts';
import { type Project, play, type Rehearsal } from '../../examples/rehearsal/src/model/rehearsal.ts';
import { Session } from '../../examples/rehearsal/src/model/session.ts';
import { testerOrders } from '../../examples/rehearsal/src/model/tester-orders.ts';
import {
  entitlementsAt,
  factsOfTrace,
  findInTrace,
  isLedgerLine,
  readLedger,
  type TraceLine,
} from '../../src/core/index.ts';
import { readIntent } from '../../src/node/project.ts';
import { readYaml } from '../../src/node/read-yaml.ts';
import { exchangeSchema, StoreRefusal, storeCatalogueSchema } from '../../src/standins/models.ts';
import { root } from '../support/paths.ts';

const START_MS = Date.UTC(2026, 10, 27, 12);
const DAY_MS = 24 * 3600_000;
let project: Project;
/** The same with the two passes as one group, the year above the month, and a trial. */
let levelled: Project;

beforeAll(async () => {
  const of = (file: string) => join(root, 'demo/kelpline', file);
  project = {
    intent: await readIntent(of('fenlok.yaml')),
    catalogue: (await readYaml(of('store.yaml'), storeCatalogueSchema)).value,
    exchange: (await readYaml(of('ad-exchange.yaml'), exchangeSchema)).value,
  };
  levelled = {
    ...project,
    catalogue: storeCatalogueSchema.parse({
      ...project.catalogue,
      products: project.catalogue.products.map((one) => ({
        ...one,
        ...(one.id === 'pass.year' && { group: 'pass', level: 1 }),
        ...(one.id === 'pass.month' && { group: 'pass', level: 2, trial: 'P3D' }),
      })),
    }),
  };
  // the candidate's own slip is none of the apps here
  project.intent.ads.placements[0]!.waterfall[1]!.parameters.unit = 'nm-unit-0001';
});

const found = ({ lines }: Rehearsal) =>
  findInTrace(factsOfTrace({ digest: 'rehearsal', platform: 'android', lines }), project.intent);
const findingsOf = (rehearsal: Rehearsal): string[] => [
  ...new Set(found(rehearsal).findings.map(({ check, identity }) => `${check} ${identity.aspect}`)),
];
const bandsOf = ({ account, lines, nowMs, phones }: Rehearsal) =>
  drawBands(lines, {
    account,
    nowMs,
    devices: phones.map(({ device }) => device),
    products: project.intent.purchases.products,
  });

const wait = (days: number): Act => ({ do: 'wait', ms: days * DAY_MS });
const answer = (phone: 0 | 1, isYes = true): Act => ({ do: 'answer', phone, isYes });
const buy = (phone: 0 | 1, product: string, isYes = true): Act[] => [
  { do: 'buy', phone, product },
  answer(phone, isYes),
];
const install = (phone: 0 | 1): Act[] => [{ do: 'open', phone }, answer(phone)];
const reopen = (phone: 0 | 1): Act[] => [
  { do: 'end', phone },
  { do: 'open', phone },
];
/** By a tester, to the latest sale of a product, where there is one. */
const order =
  (label: string, product: string) =>
  (rehearsal: Rehearsal): Act | undefined => {
    const found = testerOrders(rehearsal, product).find((one) => one.label === label);
    return found?.order && { do: 'order', order: found.order };
  };

/** All that a tester would go through. */
const WALK: readonly (Act | ((rehearsal: Rehearsal) => Act | undefined))[] = [
  { do: 'register' },
  { do: 'open', phone: 0 },
  { do: 'load-all' },
  answer(0),
  { do: 'load-all' },
  { do: 'show', phone: 0, placement: 'ticket-interstitial' },
  answer(0),
  ...buy(0, 'pass.month', false),
  ...buy(0, 'pass.month'),
  ...buy(0, 'no-ads'),
  ...buy(0, 'crossings.10'),
  { do: 'buy', phone: 0, product: 'no-ads' },
  ...reopen(0),
  { do: 'load-all' },
  { do: 'show', phone: 0, placement: 'ticket-interstitial' },
  answer(0),
  ...install(1),
  { do: 'restore', phone: 1 },
  { do: 'network', phone: 0, isOn: false },
  ...reopen(0),
  { do: 'network', phone: 0, isOn: true },
  wait(4),
  order('Bought elsewhere', 'pass.year'),
  { do: 'restore', phone: 1 },
  wait(1),
  order('Refund', 'pass.year'),
  wait(40),
  order('Renew no more', 'pass.month'),
  wait(40),
  ...reopen(0),
  { do: 'leave', phone: 1 },
  order('Refund', 'no-ads'),
  wait(1),
  ...reopen(0),
  { do: 'leave', phone: 0 },
  wait(2),
  ...reopen(0),
];

function walk(mistakesMade: readonly Mistake[], isKelpline = false): Rehearsal {
  const rehearsal = play(project, { startMs: START_MS }, [
    { do: 'app', isKelpline, mistakes: [...mistakesMade] },
  ]);
  for (const step of WALK) {
    const act = typeof step === 'function' ? step(rehearsal) : step;
    if (act) rehearsal.act(act);
  }
  return rehearsal;
}

test('an app that does it right has no finding, and gives what is paid for and nothing else', () => {
  const rehearsal = walk([]);
  expect(findingsOf(rehearsal)).toEqual([]);
  expect(bandsOf(rehearsal).differences).toEqual([]);
  const { rows, columns } = found(rehearsal).situations;
  const seen = rows.map(({ cells, name }) =>
    [name, ...columns.filter((_, i) => cells[i]!.outcome === 'passed')].join(' '),
  );
  expect(seen).toEqual([
    'cancelled pass.month',
    'bought pass.month no-ads crossings.10',
    'given at once pass.month no-ads',
    'finished pass.month no-ads crossings.10',
    'after a relaunch pass.month no-ads',
    'second device pass.month no-ads',
    'bought elsewhere pass.year',
    'owned already no-ads',
    'renewed pass.month',
    'one of two expired pass.month',
    'all expired, quiet pass.month pass.year',
    'refunded pass.year no-ads',
    'deferred',
    'store away pass.month no-ads',
    'reset',
  ]);
});

const LEADS_TO: Record<Mistake, string[]> = {
  // what was never finished is handed over once more, on the second phone
  'never-finishes': ['unfinished-purchase unfinished', 'unfinished-purchase granted-twice'],
  'gives-unpaid': ['unpaid-purchase granted-unpaid'],
  'asks-only-on-request': ['missing-purchase missing'],
  'keeps-ended': ['ended-purchase kept'],
  'knows-own-only': ['unrestored-purchase not-restored'],
  'needs-the-store': ['missing-purchase missing'],
  'asks-in-background': ['purchase-quiet undefined'],
  'asks-no-consent': ['ad-order consent'],
  'asks-live': ['live-ad-request live'],
  'shows-after-removal': ['ad-after-removal no-ads'],
};

test.each(Object.keys(mistakes) as Mistake[])('a mistake leads to its finding alone: %s', (mistake) => {
  const rehearsal = walk([mistake]);
  expect(findingsOf(rehearsal)).toEqual(LEADS_TO[mistake]);
});

test('the demo’s own code is found out as on its phone', () => {
  expect(findingsOf(walk([], true)).sort()).toEqual([
    'ad-after-removal no-ads',
    'ad-load northmast',
    'ad-load ropewalk',
    'ended-purchase kept',
    'live-ad-request live',
    'product-ids misspelt',
    'unfinished-purchase granted-twice',
    'unfinished-purchase unfinished',
    'unrestored-purchase not-restored',
  ]);
});

/** Whatever a tester may do to whichever product; what the store refuses is not done. */
const anyAct = fc.oneof(
  fc.record({
    do: fc.constantFrom('open', 'leave', 'end', 'remove', 'restore'),
    phone: fc.constantFrom(0, 1),
  }),
  fc.record({
    do: fc.constant('buy'),
    phone: fc.constantFrom(0, 1),
    product: fc.constantFrom('pass.month', 'pass.year', 'no-ads', 'crossings.10', 'nothing'),
  }),
  fc.record({ do: fc.constant('network'), phone: fc.constantFrom(0, 1), isOn: fc.boolean() }),
  fc.record({ do: fc.constant('answer'), phone: fc.constantFrom(0, 1), isYes: fc.boolean() }),
  fc.record({ do: fc.constant('wait'), ms: fc.integer({ min: 0, max: 50 * DAY_MS }) }),
  fc.record({
    do: fc.constant('order'),
    label: fc.constantFrom(
      'Bought elsewhere',
      'Refund',
      'Take back',
      'Somebody agrees',
      'Renew now',
      'End now',
      'Renew no more',
      'Payments fail',
      'Payments work',
    ),
    product: fc.constantFrom('pass.month', 'pass.year', 'no-ads', 'crossings.10'),
  }),
  fc.constantFrom(
    { do: 'load-all' },
    { do: 'order', order: { do: 'next', account: 'ada', outcome: 'defer', times: 1 } },
    { do: 'order', order: { do: 'reset', account: 'ada' } },
  ),
) as fc.Arbitrary<Act | { do: 'order'; label: string; product: string }>;

/** @returns the acts that were done */
function perform(
  session: Session,
  acts: readonly (Act | { do: 'order'; label: string; product: string })[],
): Act[] {
  const done: Act[] = [];
  for (const one of acts) {
    const act = 'label' in one ? order(one.label, one.product)(session.rehearsal) : one;
    if (!act) continue;
    try {
      session.act(act);
      done.push(act);
    } catch (error) {
      if (!(error instanceof StoreRefusal)) throw error;
    }
  }
  return done;
}

const fresh = (acts: readonly Act[] = [], testClock?: string, of = project) =>
  new Session(of, { startMs: START_MS, acts, testClock });

test('whatever a tester does, the plain app keeps in step with the store', () => {
  fc.assert(
    fc.property(
      fc.array(anyAct, { minLength: 5, maxLength: 60 }),
      fc.constantFrom(undefined, 'apple-sandbox', 'play-test'),
      fc.boolean(),
      (acts, testClock, isLevelled) => {
        const session = fresh([], testClock, isLevelled ? levelled : project);
        perform(session, [{ do: 'register' }, ...install(0), ...acts, wait(1)]);
        const { rehearsal } = session;
        // out of reach no ad loads, and what happens meanwhile is learnt of later
        const wasAway = rehearsal.lines.some(({ kind }) => kind === 'store.away');
        const findings = findingsOf(rehearsal);
        expect(wasAway ? findings.filter((one) => !one.startsWith('ad-load')) : findings).toEqual([]);
        if (!wasAway) expect(bandsOf(rehearsal).differences).toEqual([]);
        // three that add up sales on their own: the store, the ledger, and the picture
        const ledger = entitlementsAt(readLedger(rehearsal.lines.filter(isLedgerLine)), rehearsal.nowMs);
        const kept = (products: string[]) => products.filter((one) => !one.startsWith('crossings')).sort();
        const byStore = kept(rehearsal.store.entitled('ada').map(({ product }) => product));
        expect(kept(ledger.map(({ product }) => product))).toEqual(byStore);
        const drawn = bandsOf(rehearsal).bands.filter(
          ({ fromMs, toMs, who }) => who === STORE && fromMs <= rehearsal.nowMs && rehearsal.nowMs < toMs,
        );
        expect([...new Set(drawn.map(({ product }) => product))].sort()).toEqual(byStore);
      },
    ),
    { numRuns: 400 },
  );
});

test('what was played comes out the same again, in pieces of time or at once, and can be taken back', () => {
  fc.assert(
    fc.property(fc.array(anyAct, { maxLength: 25 }), fc.nat(4), (acts, undone) => {
      const session = fresh();
      const done = perform(session, acts);
      const startMs = session.rehearsal.nowMs;
      for (let ms = startMs; ms <= startMs + 40 * DAY_MS; ms += 7.5 * DAY_MS) session.playTo(ms);
      const played = session.played();
      const again = new Session(project, JSON.parse(JSON.stringify(played)));
      expect(again.rehearsal.lines).toEqual(session.rehearsal.lines);
      expect(again.rehearsal.nowMs).toBe(session.rehearsal.nowMs);

      const left = done.slice(0, Math.max(0, done.length - undone));
      for (let i = left.length; i <= done.length; i++) session.undo();
      expect(session.rehearsal.lines).toEqual(fresh(left).rehearsal.lines);
      expect(session.canUndo).toBe(left.length > 0);
    }),
    { numRuns: Number(process.env.REHEARSALS ?? 60) },
  );
});

/** Minutes after the start; a line of the store, or of a phone. */
const at = (minute: number) => new Date(START_MS + minute * 60_000).toISOString();
const bought = (minute: number, until?: number) => ({
  at: at(minute),
  kind: 'store.bought',
  account: 'ada',
  product: 'p',
  transaction: '1',
  original: '1',
  ...(until !== undefined && { until: at(until) }),
});
const gives = (minute: number, ...products: string[]) => ({
  at: at(minute),
  kind: 'access.now',
  device: 'a',
  products,
});
const front = (minute: number, kind: 'app.opened' | 'app.left' = 'app.opened') => ({
  at: at(minute),
  kind,
  device: 'a',
});

test.each<[name: string, lines: TraceLine[], bands: string[], differences: string[]]>([
  ['nothing', [], [], []],
  [
    'given as long as it is paid for',
    [front(0), bought(1, 5), gives(1, 'p'), gives(5)],
    ['store paid 1–5', 'a given 1–5'],
    [],
  ],
  ['never given', [front(0), bought(1, 5), gives(2)], ['store paid 1–5'], ['a missing 1–5']],
  [
    'kept',
    [front(0), bought(1, 5), gives(1, 'p'), gives(8, 'p')],
    ['store paid 1–5', 'a given 1–9'],
    ['a unpaid 5–9'],
  ],
  [
    'late by less than is allowed for',
    [front(0), bought(1, 5), gives(1.05, 'p'), gives(5.08)],
    ['store paid 1–5', 'a given 1.05–5.08'],
    [],
  ],
  [
    'while nobody looks, nothing differs',
    [front(0), bought(1, 5), gives(1, 'p'), front(3, 'app.left'), front(7), gives(7.01)],
    ['store paid 1–5', 'a given 1–7.01'],
    [],
  ],
  [
    'for good, given, taken away and handed over again',
    [
      front(0),
      bought(1),
      gives(1, 'p'),
      { at: at(3), kind: 'purchase.withdrawn', device: 'a', product: 'p' },
      { at: at(6), kind: 'purchase.granted', device: 'a', product: 'p' },
    ],
    ['store paid 1–∞', 'a given 1–3', 'a given 6–9'],
    ['a missing 3–6'],
  ],
  [
    'a grace after an unpaid renewal',
    [
      front(0),
      bought(1, 4),
      gives(1, 'p'),
      { at: at(4), kind: 'store.unpaid', account: 'ada', original: '1', until: at(6) },
      gives(6),
    ],
    ['store paid 1–4', 'store grace 4–6', 'a given 1–6'],
    [],
  ],
])('what is drawn: %s', (_, lines, bands, differences) => {
  const minutes = (ms: number) => (Number.isFinite(ms) ? Number(((ms - START_MS) / 60_000).toFixed(2)) : '∞');
  const say = ({ fromMs, is, toMs, who }: Band) => `${who} ${is} ${minutes(fromMs)}–${minutes(toMs)}`;
  const products = [
    { id: 'p', kind: 'subscription' },
    { id: 'used-up', kind: 'consumable' },
  ];
  const drawn = drawBands(lines, { account: 'ada', devices: ['a'], nowMs: START_MS + 9 * 60_000, products });
  expect(drawn.bands.map(say)).toEqual(bands);
  expect(drawn.differences.map(say)).toEqual(differences);
});

test('a tester is offered what can be done, and what is done has its effect', () => {
  const { rehearsal } = fresh([...install(0)]);
  const offered = (product: string) =>
    testerOrders(rehearsal, product)
      .filter((one) => one.order)
      .map(({ label }) => label);
  expect(offered('pass.month')).toEqual(['Bought elsewhere']);
  for (const act of buy(0, 'pass.month')) rehearsal.act(act);
  expect(offered('pass.month')).toEqual([
    'Bought elsewhere',
    'Refund',
    'Take back',
    'Renew now',
    'End now',
    'Renew no more',
    'Renew again',
    'Payments fail',
    'Payments work',
  ]);
  rehearsal.act({ do: 'order', order: { do: 'next', account: 'ada', outcome: 'defer', times: 1 } });
  for (const act of buy(0, 'no-ads')) rehearsal.act(act);
  expect(offered('no-ads')).toEqual(['Bought elsewhere', 'Somebody agrees', 'Somebody declines']);
  rehearsal.act(order('Somebody agrees', 'no-ads')(rehearsal)!);
  expect(offered('no-ads')).toEqual(['Bought elsewhere', 'Refund', 'Take back']);
  expect(rehearsal.phones[0].gives).toEqual(['pass.month', 'no-ads']);
  rehearsal.act(order('Payments fail', 'pass.month')(rehearsal)!);
  rehearsal.act(wait(40));
  // the store keeps it for a while, and then the phone hears of it with no event at all
  expect(rehearsal.phones[0].gives).toEqual(['pass.month', 'no-ads']);
  rehearsal.act(wait(16));
  expect(rehearsal.phones[0].gives).toEqual(['no-ads']);
  rehearsal.act(order('Payments work', 'pass.month')(rehearsal)!);
  expect(rehearsal.phones[0].gives).toEqual(['pass.month', 'no-ads']);
  rehearsal.act(order('Take back', 'no-ads')(rehearsal)!);
  expect(rehearsal.phones[0].gives).toEqual(['pass.month']);
});
