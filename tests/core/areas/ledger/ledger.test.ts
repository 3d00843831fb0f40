import fc from 'fast-check';
import { entitlementsAt } from '../../../../src/core/areas/purchases/ledger/entitlements.ts';
import { instantMs } from '../../../../src/core/areas/purchases/ledger/instant.ts';
import { judgeLedger, LedgerJudge } from '../../../../src/core/areas/purchases/ledger/judge-ledger.ts';
import { readLedger } from '../../../../src/core/areas/purchases/ledger/ledger.ts';
import type { LedgerOptions } from '../../../../src/core/areas/purchases/ledger/ledger-report.ts';
import type { LedgerLine } from '../../../../src/core/model/ledger.ts';
import { ledgerLineSchema } from '../../../../src/core/model/ledger.ts';
import { addPeriod, parsePeriod } from '../../../../src/core/platform/purchases/period.ts';
import { periodsOf, testClocks } from '../../../../src/core/platform/purchases/test-clocks.ts';
import { renewalTimetable } from '../../../../src/core/platform/purchases/timetable.ts';
import { type OracleEvent, paidAt } from './paid-oracle.ts';

const START_MS = Date.parse('2026-11-23T08:00:00Z');
const iso = (minute: number): string => new Date(START_MS + minute * 60_000).toISOString();

// few values, so that events meet at one moment, one number and one subscription
const minute = fc.integer({ min: 0, max: 24 });
const eventOf = fc.record({
  t: minute,
  what: fc.constantFrom('sale', 'sale', 'sale', 'refund', 'revoke', 'expire', 'unpaid', 'reset'),
  tx: fc.integer({ min: 1, max: 8 }).map((n) => `t${n}`),
  end: fc.option(fc.integer({ min: -2, max: 12 }), { nil: undefined }),
  replaces: fc.option(
    fc.integer({ min: 1, max: 8 }).map((n) => `t${n}`),
    { nil: undefined, freq: 6 },
  ),
});
/** A transaction always is of the same account, product and subscription, and is sold once. */
const ownerOf = (tx: string) => {
  const n = Number(tx.slice(1));
  return {
    account: n % 2 ? 'ada' : 'bo',
    product: n % 3 ? 'pass.month' : 'no-ads',
    original: `t${n > 4 ? n - 4 : n}`,
  };
};
const history = fc.array(eventOf, { maxLength: 30 }).map((events): OracleEvent[] => {
  const sold = new Set<string>();
  return events.flatMap(({ end, replaces, t, tx, what }): OracleEvent[] => {
    const of = { t, what, ...ownerOf(tx) } as const;
    if (what === 'sale') {
      if (sold.has(tx)) return [];
      sold.add(tx);
      return [{ ...of, what, tx, ...(end !== undefined && { end: t + end }), ...(replaces && { replaces }) }];
    }
    if (what === 'unpaid') return [{ ...of, what, end: t + (end ?? 3) }];
    return [{ ...of, what, tx } as OracleEvent];
  });
});

function lineOf({ account, end, original, product, replaces, t, tx, what }: OracleEvent): LedgerLine {
  const of = { at: iso(t), account };
  const line = {
    sale: { ...of, kind: 'store.bought', product, transaction: tx, original, replaces },
    refund: { ...of, kind: 'store.refunded', transaction: tx },
    revoke: { ...of, kind: 'store.revoked', transaction: tx },
    expire: { ...of, kind: 'store.expired', original },
    unpaid: { ...of, kind: 'store.unpaid', original },
    reset: { ...of, kind: 'store.reset' },
  }[what];
  const until = end === undefined ? {} : { until: iso(end) };
  return ledgerLineSchema.parse({ ...line, ...(['sale', 'unpaid'].includes(what) && until) });
}

const paidInLedger = (lines: readonly LedgerLine[], t: number) =>
  entitlementsAt(readLedger(lines), START_MS + t * 60_000).map(
    ({ account, product }) => `${account} ${product}`,
  );

test('what the ledger says is paid for is what playing the events one by one says', () => {
  fc.assert(
    fc.property(history, minute, (events, t) => {
      expect(paidInLedger(events.map(lineOf), t)).toEqual(paidAt(events, t));
    }),
    { numRuns: 5000 },
  );
});

test('what is delivered twice or in another order adds up to the same', () => {
  const shuffled = history.chain((events) =>
    fc.tuple(
      fc.constant(events),
      fc.shuffledSubarray([...events, ...events], { minLength: 2 * events.length }),
      minute,
    ),
  );
  fc.assert(
    fc.property(shuffled, ([events, delivered, t]) => {
      const inOrder = events.map(lineOf);
      const late = delivered.map(lineOf);
      expect(entitlementsAt(readLedger(late), START_MS + t * 60_000)).toEqual(
        entitlementsAt(readLedger(inOrder), START_MS + t * 60_000),
      );
      const judged = ({ faults, renewals, sales }: ReturnType<typeof judgeLedger>) => [
        faults.map((f) => JSON.stringify(f)).sort(),
        renewals,
        sales,
      ];
      expect(judged(judgeLedger(late))).toEqual(judged(judgeLedger(inOrder)));
    }),
    { numRuns: 1500 },
  );
});

/** `minute kind rest`, short for a line. */
function tell(...short: string[]): LedgerLine[] {
  return short.map((text) => {
    const [t, kind, ...rest] = text.split(' ');
    const fields = Object.fromEntries(rest.map((pair) => pair.split('=')));
    if (fields.products !== undefined) fields.products = fields.products ? fields.products.split(',') : [];
    if (fields.until !== undefined) fields.until = iso(Number(fields.until));
    if (kind === 'store.restored') fields.transactions = [];
    const store = kind!.startsWith('store.') ? { account: 'ada', original: fields.transaction } : {};
    return ledgerLineSchema.parse({ at: iso(Number(t)), kind, device: 'one', ...store, ...fields });
  });
}
const BOUGHT = '0 store.bought product=no-ads transaction=1 productKind=non-consumable';
const DONE = '0.01 store.finished transaction=1';
const MONTH = '0 store.bought product=pass.month transaction=1 productKind=subscription until=10';
const TICKETS = '0 store.bought product=crossings.10 transaction=1 productKind=consumable';

const CASES: [name: string, lines: string[], faults: string[], options?: LedgerOptions][] = [
  [
    'bought, given, finished',
    [
      BOUGHT,
      '0.01 purchase.granted product=no-ads transaction=1',
      '0.02 store.finished transaction=1',
      '9 access.now products=no-ads',
    ],
    [],
  ],
  [
    'nothing paid',
    ['0 store.cancelled product=no-ads', '1 access.now products=no-ads'],
    ['granted-unpaid no-ads'],
  ],
  [
    'nothing paid, by somebody known',
    [MONTH, DONE, '1 access.now products=pass.month,no-ads'],
    ['granted-unpaid no-ads'],
  ],
  [
    'given before it is paid',
    [
      '0 store.deferred product=no-ads transaction=1',
      '1 purchase.granted product=no-ads',
      '9 store.bought product=no-ads transaction=1',
      '9.01 store.finished transaction=1',
    ],
    ['granted-unpaid no-ads'],
  ],
  ['never given on the device that bought', [BOUGHT, DONE, '1 access.now products='], ['not-granted no-ads']],
  ['not given yet, within the lag', [BOUGHT, DONE, '0.05 access.now products='], []],
  [
    'gone while paid',
    [MONTH, DONE, '1 access.now products=pass.month', '2 access.now products=', '3 access.now products='],
    ['lost-too-early pass.month'],
  ],
  [
    'kept after the end',
    [
      MONTH,
      DONE,
      '1 access.now products=pass.month',
      '11 access.now products=pass.month',
      '12 access.now products=pass.month',
    ],
    ['kept-after-expiry pass.month'],
  ],
  [
    'kept in a grace',
    [
      MONTH,
      DONE,
      '10 store.unpaid original=1 until=14',
      '11 access.now products=pass.month',
      '15 access.now products=',
    ],
    [],
  ],
  [
    'renewed',
    [
      MONTH,
      DONE,
      '10 store.renewed product=pass.month transaction=2 original=1 until=20',
      '11 access.now products=pass.month',
    ],
    [],
  ],
  [
    'kept after a refund',
    [
      BOUGHT,
      DONE,
      '1 access.now products=no-ads',
      '2 store.refunded transaction=1',
      '3 access.now products=no-ads',
    ],
    ['kept-after-refund no-ads'],
  ],
  [
    'given after a refund',
    [BOUGHT, DONE, '1 store.refunded transaction=1', '3 access.now products=no-ads'],
    ['granted-after-refund no-ads'],
  ],
  [
    'restored on a second device',
    [BOUGHT, DONE, '1 store.restored device=two', '2 access.now device=two products=no-ads'],
    [],
  ],
  [
    'asked for on a second device, and not given',
    [BOUGHT, DONE, '1 store.restored device=two', '2 access.now device=two products='],
    ['not-restored no-ads'],
  ],
  ['not asked for on a second device', [BOUGHT, DONE, '2 access.now device=two products='], []],
  [
    'a fresh installation remembers nothing',
    [BOUGHT, DONE, '1 access.now products=no-ads', '2 access.now device=one products= when=fresh'],
    ['not-granted no-ads'],
  ],
  [
    'owned, and sold again',
    [
      BOUGHT,
      DONE,
      '5 store.bought product=no-ads transaction=2 productKind=non-consumable',
      '5.01 store.finished transaction=2',
    ],
    ['sold-twice no-ads'],
  ],
  [
    'used up, and sold again',
    [
      TICKETS,
      DONE,
      '5 store.bought product=crossings.10 transaction=2 productKind=consumable',
      '5.01 store.finished transaction=2',
    ],
    [],
  ],
  [
    'one sale handed over twice',
    [
      TICKETS,
      '0.01 purchase.granted product=crossings.10 transaction=1',
      '0.02 store.finished transaction=1',
      '5 purchase.granted product=crossings.10 transaction=1',
    ],
    ['granted-twice crossings.10'],
  ],
  [
    'another plan takes its place',
    [
      MONTH,
      DONE,
      '5 store.bought product=pass.year transaction=2 replaces=1 productKind=subscription until=99',
      '5.01 store.finished transaction=2',
      '6 access.now products=pass.year',
    ],
    [],
  ],
  ['never finished', [BOUGHT, '60 access.now products=no-ads'], ['unfinished no-ads']],
  ['never finished, and given back', [BOUGHT, '4400 access.now products=no-ads'], ['overdue no-ads']],
  [
    'given back by the store for it',
    [BOUGHT, '3 store.refunded transaction=1'],
    ['overdue no-ads'],
    { acknowledgeWithinMs: 180_000 },
  ],
  [
    'never finished, since the app was left and not opened again',
    ['-1 app.opened', '-0.5 app.left', BOUGHT, '3 app.left device=two', '60 app.left'],
    [],
  ],
  [
    'opened again, and still not finished',
    ['-0.5 app.left', BOUGHT, '50 app.opened', '51 app.left', '60 app.opened'],
    ['unfinished no-ads'],
  ],
  ['opened too late', ['-0.5 app.left', BOUGHT, '4400 app.opened', '4401 app.left'], []],
  [
    'refunded while the store is out of reach, and taken away when it is back',
    [
      BOUGHT,
      DONE,
      '1 access.now products=no-ads',
      '2 store.away',
      '3 store.refunded transaction=1',
      '4 access.now products=no-ads',
      '5 store.back',
      '6 access.now products=',
    ],
    [],
  ],
  [
    'refunded while the app is left, opened out of reach, and kept when the store is back',
    [
      BOUGHT,
      DONE,
      '1 access.now products=no-ads',
      '2 app.left',
      '3 store.refunded transaction=1',
      '4 store.away',
      '5 app.opened',
      '6 access.now products=no-ads',
      '7 store.back',
      '8 access.now products=no-ads',
    ],
    ['kept-after-refund no-ads'],
  ],
  [
    'refunded while the app is left, and kept by one that says itself that it is back',
    [
      BOUGHT,
      DONE,
      '1 access.now products=no-ads',
      '2 app.left',
      '3 store.refunded transaction=1',
      '4 access.now products=no-ads when=resumed',
      '5 access.now products=no-ads when=changed',
    ],
    ['kept-after-refund no-ads'],
  ],
  [
    'out of reach on another device only',
    [
      BOUGHT,
      DONE,
      '1 access.now products=no-ads',
      '2 store.away device=two',
      '3 store.refunded transaction=1',
      '4 access.now products=no-ads',
    ],
    ['kept-after-refund no-ads'],
  ],
  [
    'installed again out of reach of the store',
    [BOUGHT, DONE, '4 store.away', '5 access.now products= when=fresh', '6 access.now products='],
    [],
  ],
  [
    'installed again out of reach, and not given when it is back',
    [
      BOUGHT,
      DONE,
      '4 store.away',
      '5 access.now products= when=fresh',
      '6 store.back',
      '7 access.now products=',
    ],
    ['not-granted no-ads'],
  ],
  [
    'bought after somebody agreed, out of reach of the device',
    ['-1 store.away', '0 app.opened', BOUGHT, '5 access.now products='],
    [],
  ],
  [
    'taken away by an app that cannot reach the store',
    [BOUGHT, DONE, '1 access.now products=no-ads', '2 store.away', '3 access.now products='],
    ['lost-too-early no-ads'],
  ],
  ['refunded at once, and not finished', [BOUGHT, '1 store.refunded transaction=1'], []],
  ['finished too late', [BOUGHT, '5000 store.finished transaction=1'], ['overdue no-ads']],
  ['finished twice', [BOUGHT, DONE, DONE, '2 store.finished transaction=1'], ['finished-twice no-ads']],
  [
    'finished before it is given',
    [BOUGHT, DONE, '0.03 purchase.granted product=no-ads transaction=1'],
    ['finished-early no-ads'],
  ],
  [
    'a renewal that is finished on one device, and given on another later',
    [
      MONTH,
      DONE,
      '10 store.renewed product=pass.month transaction=2 original=1 until=20',
      '10.01 store.finished transaction=2',
      '12 purchase.granted product=pass.month transaction=2 device=two',
    ],
    [],
  ],
  [
    'all deleted',
    [BOUGHT, DONE, '1 store.reset', '2 access.now products=no-ads'],
    ['kept-after-expiry no-ads'],
  ],
  [
    'a period that ends before it begins',
    ['5 store.bought product=pass.month transaction=1 until=1', '5.01 store.finished transaction=1'],
    [],
  ],
];

test.each(CASES)('%s', (_, lines, faults, options = {}) => {
  const told = tell(...lines);
  const said = (of: readonly LedgerLine[], more: LedgerOptions = {}) =>
    judgeLedger(of, { ...options, ...more }).faults.map(({ code, product }) => `${code} ${product}`);
  expect(said(told)).toEqual(faults);
  expect(said([...told].reverse()).sort()).toEqual([...faults].sort());
  // settled as it goes, the same comes of it
  expect(said(told, { latenessMs: 20 * 60_000 }).sort()).toEqual([...faults].sort());
});

test('a long history of many accounts is judged while only what is open is held', () => {
  const judge = new LedgerJudge({ latenessMs: 30 * 60_000 });
  const accounts = 400;
  for (let n = 0; n < accounts; n++)
    for (const line of tell(
      `${n * 100} store.bought account=a${n} device=d${n} product=pass.month transaction=${n}-0 productKind=subscription until=${n * 100 + 10}`,
      `${n * 100 + 0.01} store.finished account=a${n} device=d${n} transaction=${n}-0`,
      `${n * 100 + 10} store.renewed account=a${n} device=d${n} product=pass.month transaction=${n}-1 original=${n}-0 until=${n * 100 + 20}`,
      `${n * 100 + 15} access.now account=a${n} device=d${n} products=pass.month`,
      `${n * 100 + 30} access.now account=a${n} device=d${n} products=${n % 100 === 7 ? 'pass.month' : ''}`,
    ))
      judge.take(line);
  const { claims, faults, late, mostOpen, renewals, sales } = judge.end();
  expect({ claims, late, renewals, sales }).toEqual({
    claims: 2 * accounts,
    late: 0,
    renewals: { 'pass.month': accounts },
    sales: 2 * accounts,
  });
  expect(faults.map(({ account, code }) => `${account} ${code}`)).toEqual(
    [7, 107, 207, 307].map((n) => `a${n} kept-after-expiry`),
  );
  expect(mostOpen).toBeLessThan(8);
});

test.each([
  ['2026-01-31T10:00:00Z', 'P1M', '2026-02-28T10:00:00.000Z'],
  ['2028-02-29T10:00:00Z', 'P1Y', '2029-02-28T10:00:00.000Z'],
  ['2026-11-30T00:00:00Z', 'P3M', '2027-02-28T00:00:00.000Z'],
  ['2026-12-28T23:59:59Z', 'P1W', '2027-01-04T23:59:59.000Z'],
])('%s and %s later', (from, period, to) => {
  expect(new Date(addPeriod(Date.parse(from), parsePeriod(period)!)).toISOString()).toBe(to);
});

test.each(['', 'P0M', 'P1', '1M', 'PT5M', 'P1M2D', 'P9999Y', 'p1m'])('%j is no period of a plan', (text) => {
  expect(parsePeriod(text)).toBeUndefined();
});

test('timetables follow their tables: shorter plans end sooner, and the end is one period after the last renewal', () => {
  for (const clock of testClocks) {
    const ends = periodsOf(clock).map((period) => {
      const rows = renewalTimetable(clock, period, START_MS)!;
      expect(rows.map(({ what }) => what)).toEqual([
        'start',
        ...Array<string>(clock.renewals).fill('renewal'),
        'end',
      ]);
      expect(rows.at(-1)!.atMs - rows.at(-2)!.atMs).toBe(clock.periodsS[period]! * 1000);
      return rows.at(-1)!.afterMin;
    });
    expect(ends).toEqual([...ends].sort((a, b) => a - b));
    expect(renewalTimetable(clock, 'P5M', START_MS)).toBeUndefined();
  }
});

test('moments are read as the language reads them', () => {
  fc.assert(
    fc.property(fc.date({ min: new Date(0), max: new Date('2999-12-31'), noInvalidDate: true }), (date) => {
      expect(instantMs(date.toISOString())).toBe(date.getTime());
    }),
  );
  for (const text of [
    '2026-11-27T10:00:00Z',
    '2026-11-27T11:00:00.5+01:00',
    '2026-11-27T10:00:00.0x0Z',
    'x'.repeat(24),
    '',
  ])
    expect(instantMs(text)).toBe(Date.parse(text));
});
