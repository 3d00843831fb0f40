/** Situations recognised from what happened: each seen and stood, seen and failed, and not seen at all. */
import fc from 'fast-check';
import { recogniseScenarios } from '../../../../src/core/areas/purchases/ledger/recognise-scenarios.ts';
import {
  type ScenarioId,
  scenarioIds,
  scenarios,
} from '../../../../src/core/areas/purchases/ledger/scenarios.ts';
import { type LedgerLine, ledgerLineSchema } from '../../../../src/core/model/ledger.ts';

const START_MS = Date.parse('2026-11-23T08:00:00Z');
const iso = (minute: number) => new Date(START_MS + minute * 60_000).toISOString();
const PRODUCTS = { pass: 'subscription', 'no-ads': 'non-consumable', ten: 'consumable' } as const;

/** `minute kind key=value …`; the store speaks of ada, the app on phone one where it is not said otherwise. */
function history(...short: string[]): LedgerLine[] {
  return short.map((text) => {
    const [minute, kind, ...rest] = text.split(' ');
    const fields = Object.fromEntries(rest.map((pair) => pair.split('='))) as Record<string, string>;
    return ledgerLineSchema.parse({
      at: iso(Number(minute)),
      kind,
      account: 'ada',
      device: 'one',
      original: fields.transaction,
      ...(kind === 'store.restored' && { transactions: [] }),
      ...(kind === 'store.listed' && { asked: [], returned: [] }),
      ...fields,
      ...('products' in fields && { products: fields.products!.split(',').filter(Boolean) }),
      ...('until' in fields && { until: iso(Number(fields.until)) }),
      ...('elsewhere' in fields && { elsewhere: true }),
    });
  });
}

const outcomeOf = (lines: LedgerLine[], product: keyof typeof PRODUCTS, scenario: ScenarioId): string =>
  recogniseScenarios(lines, { products: PRODUCTS }).find(
    (seen) => seen.product === product && seen.scenario === scenario,
  )!.outcome;

const BOUGHT = '0 store.bought product=no-ads transaction=1 productKind=non-consumable';
const PASS = '0 store.bought product=pass transaction=2 productKind=subscription until=60';
const claims = (minute: number, products: string, when = 'launched', device = 'one') =>
  `${minute} access.now products=${products} when=${when} device=${device}`;

test.each<[ScenarioId, keyof typeof PRODUCTS, passed: string[], failed: string[]]>([
  [
    'cancelled',
    'no-ads',
    ['0 store.cancelled product=no-ads', claims(1, '')],
    ['0 store.cancelled product=no-ads', claims(1, 'no-ads')],
  ],
  [
    'cancelled',
    'ten',
    ['0 store.cancelled product=ten', claims(1, '')],
    ['0 store.cancelled product=ten', claims(1, ''), '2 purchase.granted product=ten'],
  ],
  [
    'at-once',
    'no-ads',
    [BOUGHT, claims(1, 'no-ads', 'changed'), '5 app.opened'],
    [BOUGHT, claims(1, '', 'changed'), '5 app.opened', claims(6, 'no-ads')],
  ],
  ['finished', 'no-ads', [BOUGHT, '1 store.finished transaction=1'], [BOUGHT]],
  ['relaunched', 'no-ads', [BOUGHT, claims(5, 'no-ads')], [BOUGHT, claims(5, '')]],
  [
    'second-device',
    'no-ads',
    [BOUGHT, '5 purchase.restoring device=two', claims(6, 'no-ads', 'changed', 'two')],
    [BOUGHT, '5 purchase.restoring device=two', claims(6, '', 'changed', 'two')],
  ],
  [
    'elsewhere',
    'no-ads',
    [`${BOUGHT} elsewhere=yes`, '5 purchase.restoring', claims(6, 'no-ads')],
    [`${BOUGHT} elsewhere=yes`, '5 purchase.restoring', claims(6, '')],
  ],
  [
    'owned',
    'no-ads',
    [BOUGHT, '5 store.asked product=no-ads'],
    [BOUGHT, '5 store.asked product=no-ads', '6 store.bought product=no-ads transaction=9'],
  ],
  [
    'renewed',
    'pass',
    [PASS, '60 store.renewed product=pass transaction=3 original=2 until=120', claims(70, 'pass')],
    [PASS, '60 store.renewed product=pass transaction=3 original=2 until=120', claims(70, '')],
  ],
  ['one-expired', 'pass', [BOUGHT, PASS, claims(70, 'no-ads')], [BOUGHT, PASS, claims(70, 'no-ads,pass')]],
  [
    'all-expired',
    'pass',
    [PASS, claims(70, ''), '71 app.left'],
    [PASS, claims(70, ''), '71 app.left', '75 store.listed'],
  ],
  [
    'refunded',
    'no-ads',
    [BOUGHT, '5 store.refunded transaction=1', claims(9, '')],
    [BOUGHT, '5 store.refunded transaction=1', claims(9, 'no-ads')],
  ],
  [
    'deferred',
    'no-ads',
    ['0 store.deferred product=no-ads transaction=1', claims(1, '')],
    ['0 store.deferred product=no-ads transaction=1', claims(1, 'no-ads')],
  ],
  [
    'offline',
    'no-ads',
    [BOUGHT, claims(1, 'no-ads'), '5 store.away', claims(6, 'no-ads'), '7 store.back'],
    [BOUGHT, claims(1, 'no-ads'), '5 store.away', claims(6, ''), '7 store.back'],
  ],
  [
    'reset',
    'no-ads',
    [BOUGHT, '5 store.reset', claims(6, '')],
    [BOUGHT, '5 store.reset', claims(6, 'no-ads')],
  ],
])('%s of %s', (scenario, product, passed, failed) => {
  expect([
    outcomeOf(history(...passed), product, scenario),
    outcomeOf(history(...failed), product, scenario),
    outcomeOf(history(claims(1, '')), product, scenario),
  ]).toEqual(['passed', 'failed', 'untested']);
  // in whatever order the lines come
  expect(outcomeOf(history(...failed).reverse(), product, scenario)).toBe('failed');
});

test('a sale that comes while the app is left waits until it is opened again', () => {
  const left = ['-1 app.left', BOUGHT];
  const outcomes = (...lines: string[]) =>
    (['at-once', 'finished'] as const).map((one) => outcomeOf(history(...lines), 'no-ads', one));
  expect(outcomes(...left)).toEqual(['untested', 'untested']);
  expect(outcomes(...left, '5 app.opened', claims(5, 'no-ads'))).toEqual(['untested', 'failed']);
  expect(outcomes(...left, '5 app.opened', '5 store.finished transaction=1')).toEqual(['untested', 'passed']);
  expect(outcomes('-1 app.left', '-0.5 app.opened', BOUGHT, '5 app.opened')).toEqual(['failed', 'failed']);
});

test('what is bought again before anybody looks says nothing of its end', () => {
  const again = '61 store.bought product=pass transaction=5 productKind=subscription until=120';
  expect(outcomeOf(history(BOUGHT, PASS, again, claims(70, 'no-ads,pass')), 'pass', 'one-expired')).toBe(
    'untested',
  );
});

test.each([
  ['nobody had looked since', ['5 store.away', claims(6, '')]],
  ['it was bought meanwhile', [claims(-1, ''), '-0.5 store.away', claims(6, '')]],
  ['it was installed again', [claims(1, 'no-ads'), '5 store.away', claims(6, '', 'fresh'), claims(7, '')]],
  ['it is another phone that is away', [claims(1, 'no-ads'), '5 store.away device=two', claims(6, '')]],
  ['it is back before anybody looks', [claims(1, 'no-ads'), '5 store.away', '6 store.back', claims(7, '')]],
])('an app that cannot reach the store need not know what it never learnt: %s', (_, lines) => {
  expect(outcomeOf(history(BOUGHT, ...lines), 'no-ads', 'offline')).toBe('untested');
});

test('a renewal that is refunded before anybody looks says nothing of renewals', () => {
  const renewed = '60 store.renewed product=pass transaction=3 original=2 until=120';
  const lines = history(PASS, renewed, '61 store.refunded transaction=3', claims(70, ''));
  expect(outcomeOf(lines, 'pass', 'renewed')).toBe('untested');
});

test('what is used up is neither kept, restored nor expired; and each situation says how it is brought about', () => {
  const seen = recogniseScenarios([], { products: PRODUCTS });
  expect(
    seen
      .filter(({ outcome }) => outcome === 'inapplicable')
      .map(({ product, scenario }) => `${product} ${scenario}`),
  ).toEqual(
    [
      ...['renewed', 'one-expired', 'all-expired'].map((scenario) => `no-ads ${scenario}`),
      ...[
        'at-once',
        'relaunched',
        'second-device',
        'elsewhere',
        'owned',
        'renewed',
        'one-expired',
        'all-expired',
        'refunded',
        'offline',
        'reset',
      ].map((scenario) => `ten ${scenario}`),
    ].sort((a, b) => order(a) - order(b)),
  );
  for (const id of scenarioIds) expect(scenarios[id].provoke).toMatch(/^[A-Z].*\.$/);
});
const order = (cell: string): number => {
  const [product, scenario] = cell.split(' ');
  return Object.keys(PRODUCTS).indexOf(product!) * 100 + scenarioIds.indexOf(scenario as ScenarioId);
};

test('nothing is recognised that did not happen, whatever the app says', () => {
  const said = fc.record({
    minute: fc.integer({ min: 0, max: 90 }),
    products: fc.subarray(['pass', 'no-ads']),
    when: fc.constantFrom('fresh', 'launched', 'resumed', 'changed'),
  });
  fc.assert(
    fc.property(fc.array(said, { maxLength: 12 }), (all) => {
      const lines = history(
        ...all.map(({ minute, products, when }) => claims(minute, products.join(','), when)),
      );
      const outcomes = recogniseScenarios(lines, { products: PRODUCTS }).map(({ outcome }) => outcome);
      expect(outcomes.filter((outcome) => outcome !== 'untested' && outcome !== 'inapplicable')).toEqual([]);
    }),
  );
});
