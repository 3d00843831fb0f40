/** A release of both platforms: the worse verdict, items beside each other, and what is on one alone. */
import { joinJudgements } from '../../../src/core/checklist/joint/join-judgements.ts';
import type { Finding } from '../../../src/core/model/finding.ts';
import { jointSchema } from '../../../src/core/model/joint.ts';
import type { CoverageCell, Judgement, TableCell } from '../../../src/core/model/judgement.ts';
import type { Outcome } from '../../../src/core/model/outcome.ts';
import { jointView } from '../../../src/core/reports/joint-view.ts';
import { plainStyle } from '../../../src/core/reports/text-style.ts';

interface Of {
  platform: 'android' | 'ios';
  version?: string;
  verdict?: Judgement['verdict'];
  items?: Record<string, [outcome: Outcome, ...findings: string[]]>;
  findings?: [id: string, check: string, subject: string][];
  screens?: string[];
  routes?: Record<string, Outcome[]>;
  offers?: Judgement['offers'];
}

const aCellOn = (screen: string) => ({ cell: { screen }, evidence: ['e'] }) as unknown as CoverageCell;

const judgementOf = ({
  findings = [],
  items = {},
  offers,
  platform,
  routes = {},
  screens = [],
  verdict = 'open',
  version = '1.0',
}: Of): Judgement =>
  ({
    candidate: { platform, name: 'App', build: { appId: 'a.b', version, build: '1', code: '' } },
    judgedAt: '2026-11-30T00:00:00.000Z',
    verdict,
    items: Object.entries(items).map(([id, [outcome, ...names]]) => ({
      id,
      area: 'links',
      level: 'blocking',
      shows: `shows ${id}`,
      outcome,
      why: `why ${id}`,
      findings: names,
    })),
    findings: findings.map(
      ([id, check, subject]) =>
        ({
          id,
          check,
          basis: 'measured',
          identity: { subject },
          words: { what: `${check} of ${subject}` },
        }) as unknown as Finding,
    ),
    coverage: screens.map(aCellOn),
    drills: [],
    offers,
    routes: {
      columns: ['cold', 'warm'],
      rows: Object.entries(routes).map(([name, cells]) => ({
        name,
        note: '',
        cells: cells.map(
          (outcome): TableCell => ({ outcome, findings: outcome === 'failed' ? ['f-link'] : [] }),
        ),
      })),
    },
  }) as unknown as Judgement;

const join = (android: Omit<Of, 'platform'>, ios: Omit<Of, 'platform'>) =>
  joinJudgements([
    judgementOf({ platform: 'ios', ...ios }),
    judgementOf({ platform: 'android', ...android }),
  ]);

test.each([
  ['clear', 'clear', 'clear'],
  ['clear', 'open', 'open'],
  ['open', 'blocked', 'blocked'],
  ['blocked', 'clear', 'blocked'],
] as const)('Android %s and iOS %s are %s', (android, ios, verdict) => {
  const joint = join({ verdict: android }, { verdict: ios });
  expect([joint.verdict, joint.android.verdict, joint.ios.verdict]).toEqual([verdict, android, ios]);
});

test('items of either stand beside each other, what fails on one of them first', () => {
  const joint = join(
    { items: { a: ['passed'], b: ['untested'], c: ['passed'] } },
    { items: { a: ['passed'], c: ['failed'], d: ['cantTell'] } },
  );
  expect(joint.items.map(({ android, id, ios }) => `${id} ${android.outcome} ${ios.outcome}`)).toEqual([
    'c passed failed',
    'd inapplicable cantTell',
    'b untested inapplicable',
    'a passed passed',
  ]);
  expect(jointSchema.parse(joint)).toEqual(joint);
  const text = jointView(joint, { style: plainStyle, widthColumns: 100, all: false });
  expect(text).toContain('■ passed          ▲ failed          shows c [c]');
  expect(text).toContain('3 more items fail on neither');
});

test('a version, a screen, a link: told where it is not alike, and not where nobody looked', () => {
  const differences = (android: Omit<Of, 'platform'>, ios: Omit<Of, 'platform'>) =>
    join(android, ios).differences.map(({ kind, on, what }) => `${kind} ${on} ${what}`);
  expect(differences({ version: '1.1' }, {})).toEqual(['version android Android is version 1.1, iOS 1.0']);
  expect(differences({ screens: ['home', 'map'] }, { screens: ['home'] })).toEqual([
    'screen ios The screen map was not seen, and it was on the other',
  ]);
  expect(differences({ screens: ['home'] }, {})).toEqual([]);
  expect(
    differences(
      { routes: { '/a': ['passed', 'passed'], '/b': ['failed', 'failed'], '/c': ['failed', 'untested'] } },
      { routes: { '/a': ['failed', 'failed'], '/b': ['passed', 'passed'], '/c': ['untested', 'passed'] } },
    ),
  ).toEqual(['route android The link /b: cold, warm', 'route ios The link /a: cold, warm']);
});

test('a price is another one where the same product costs more in the same currency', () => {
  const offer = (product: string, currency: string, amount: number) => ({
    ...{ product, currency, amount },
    price: `${amount} ${currency}`,
  });
  const own = [offer('year', 'EUR', 40), offer('month', 'EUR', 4), offer('week', 'USD', 1)];
  const { differences, ...rest } = join(
    { offers: own },
    { offers: [offer('month', 'EUR', 4), offer('week', 'EUR', 2), offer('year', 'EUR', 49)] },
  );
  expect(differences.map(({ kind, on, what }) => `${kind} ${on} ${what}`)).toEqual([
    'price ios year costs 40 EUR on Android, 49 EUR on iOS',
  ]);
  const text = jointView({ differences, ...rest }, { style: plainStyle, widthColumns: 100, all: false });
  expect(text).toMatch(/Not one price {2}1\n.*year costs/);
});

test('a finding is on one alone where the other was looked at in the same way', () => {
  const own = (check: string, outcome: Outcome, theirs: Outcome, same = false) =>
    join(
      { items: { i: [outcome, 'f'] }, findings: [['f', check, 's']] },
      {
        items: { i: [theirs, ...(same ? ['g'] : [])] },
        findings: same ? [['g', check, 's']] : [],
      },
    ).differences.map(({ finding, on }) => `${on} ${finding}`);
  expect(own('text-contrast', 'failed', 'passed')).toEqual(['android f']);
  // of pictures, a screen that fails elsewhere tells nothing of this one
  expect(own('text-contrast', 'failed', 'failed')).toEqual([]);
  // a package is read as a whole
  expect(own('missing-translation', 'failed', 'failed')).toEqual(['android f']);
  expect(own('missing-translation', 'failed', 'untested')).toEqual([]);
  expect(own('missing-translation', 'failed', 'failed', true)).toEqual([]);
});
