/** Bugs that users write of: named, fixed, come back, and named by nobody. */
import { knownBug } from '../../../src/core/areas/listing/checks/known-bug.ts';
import type { Fact } from '../../../src/core/model/fact.ts';
import { intentSchema } from '../../../src/core/model/intent.ts';
import { aBuild, departures, run } from '../../support/facts.ts';

type Row = Record<string, string>;
const said = (text: string, version = '2.0', stars = '1', device = 'p'): Row => ({
  text,
  version,
  stars,
  device,
});
const reviews = (rows: Row[]): Fact[] => [
  { kind: 'reviews', platform: 'android', evidence: 'r', file: 'reviews.csv', rows },
];
const intentOf = (bugs: object[], columns = {}) =>
  intentSchema.parse({ fenlok: 'intent/1', app: { id: aBuild.appId }, reviews: { columns, bugs } });
const told = (rows: Row[], bugs: object[] = [], columns = {}) => {
  const assertions = run(knownBug, reviews(rows), intentOf(bugs, columns));
  return { found: departures(assertions), assertions };
};

const crash = ['It crashes', 'Die App stürzt ab', 'Krasjer hele tiden'];

test.each<[what: string, rows: Row[], bugs: object[], found: string[]]>([
  ['nobody complains', [said('Lovely', '2.0', '5')], [], []],
  [
    'three of one trouble, in three languages',
    crash.map((text) => said(text)),
    [],
    ['cantTell it ends unnamed'],
  ],
  ['two are too few', crash.slice(1).map((text) => said(text)), [], []],
  ['who is pleased does not complain', crash.map((text) => said(text, '2.0', '5')), [], []],
  ['without stars everybody counts', crash.map((text) => ({ text })), [], ['cantTell it ends unnamed']],
  [
    'a bug with a name explains them',
    crash.map((text) => said(text)),
    [{ id: 'c', words: crash, state: 'answered' }],
    [],
  ],
  [
    'and is open',
    crash.map((text) => said(text)),
    [{ id: 'c', words: crash, state: 'open' }],
    ['failed c open'],
  ],
  ['open, and nobody writes of it', [said('Lovely')], [{ id: 'c', words: ['gone'], state: 'open' }], []],
  [
    'fixed later than they write',
    [said('GONE', '1.9.9')],
    [{ id: 'c', words: ['gone'], state: 'fixed', in: '1.10' }],
    [],
  ],
  [
    'fixed, and there again',
    [said('gone', '1.10')],
    [{ id: 'c', words: ['gone'], state: 'fixed', in: '1.10' }],
    ['cantTell c came-back'],
  ],
  [
    'fixed, in a version that nobody tells',
    [said('gone', '')],
    [{ id: 'c', words: ['gone'], state: 'fixed', in: '1.10' }],
    [],
  ],
])('%s', (_, rows, bugs, found) => {
  expect(told(rows, bugs).found).toEqual(found);
});

test('columns go by the names of the intent file, or by usual ones; without a text nothing is told', () => {
  const rows = crash.map((words) => ({ Meinung: words }));
  expect(told(rows, [], { text: 'Meinung' }).found).toEqual(['cantTell it ends unnamed']);
  expect(told(rows).assertions).toMatchObject([{ outcome: 'untested' }]);
  expect(told(crash.map((words) => ({ 'Review Text': words }))).found).toEqual(['cantTell it ends unnamed']);
});

test('versions and devices that most of them have come first', () => {
  const rows = [said('gone', '3', '1', 'b'), said('gone', '2', '1', 'a'), said('gone', '2', '1', 'a')];
  const [one] = told(rows, [{ id: 'c', words: ['gone'], state: 'open' }]).assertions;
  expect(one).toMatchObject({
    draft: { occurrence: { data: { count: 3, versions: ['2', '3'], devices: ['a', 'b'] } } },
  });
});
