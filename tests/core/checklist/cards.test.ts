/** Findings of one cause are told and decided together, rows of a list apart where they differ. */
import { checks } from '../../../src/core/areas/checks.ts';
import { assembleChecklist } from '../../../src/core/checklist/assemble-checklist.ts';
import { factsOfCapture } from '../../../src/core/checklist/find-on-screens.ts';
import { findingDigest, findingId } from '../../../src/core/checklist/finding-id.ts';
import { judge } from '../../../src/core/checklist/judge.ts';
import { checklistSchema } from '../../../src/core/model/checklist.ts';
import type { Fact, TargetFact } from '../../../src/core/model/fact.ts';
import { rulingsFileSchema } from '../../../src/core/model/ruling.ts';
import { htmlReport } from '../../../src/core/reports/html/page.ts';
import { junitReport } from '../../../src/core/reports/junit.ts';
import { plainStyle, textReport } from '../../../src/core/reports/text.ts';
import { aBuild, aCell, anIntent, box, screenEvidence, ui } from '../../support/facts.ts';

const list = checklistSchema.parse({
  fenlok: 'checklist/1',
  name: 'test',
  items: [
    {
      id: 'targets',
      area: 'accessibility',
      shows: 'Targets are large enough.',
      level: 'blocking',
      by: { checks: ['small-target'] },
    },
  ],
});

const target = (
  key: string,
  y: number,
  sizeDp: [number, number],
  of: Partial<TargetFact> = {},
): TargetFact => ({
  kind: 'target',
  cell: aCell,
  evidence: 'e1',
  platform: 'android',
  element: { key, className: 'ImageButton', shown: `the ${key}`, boundsPx: box([0, y, ...sizeDp]) },
  enabled: true,
  widthDp: sizeDp[0],
  heightDp: sizeDp[1],
  pixelDp: 1,
  overlaps: [],
  clearanceDp: 99,
  ...of,
});

// the targets are of a capture, without which nothing is judged
const aCapture = factsOfCapture(screenEvidence(ui([0, 0, 99, 99]))).filter(({ kind }) => kind === 'capture');

const judged = (facts: Fact[], rulings: object[] = []) =>
  judge({
    candidate: { platform: 'android', name: 'App', build: aBuild },
    facts: [...aCapture, ...facts],
    intent: anIntent(),
    checklist: assembleChecklist(list, undefined, ['small-target']),
    rulings: rulingsFileSchema.parse({
      fenlok: 'rulings/1',
      rulings: rulings.map((of) => ({
        ruling: 'false-alarm',
        why: 'seen',
        by: 'Ada',
        at: '2026-11-01',
        ...of,
      })),
    }),
    checks: checks.filter(({ id }) => id === 'small-target'),
    now: '2026-11-23T10:00:00.000Z',
  });
const places = (of: ReturnType<typeof judge>) => of.cards.map(({ findings }) => findings.length).sort();

test('elements of one class with the same departure and remedy are one card; others are not', () => {
  const style = [target('close', 0, [40, 40]), target('help', 50, [40, 40])];
  expect(places(judged(style))).toEqual([2]);
  expect(places(judged([...style, target('more', 99, [20, 40])]))).toEqual([1, 2]);
  const other = target('text', 99, [40, 40]);
  expect(
    places(judged([...style, { ...other, element: { ...other.element, className: 'Button' } }])),
  ).toEqual([1, 2]);
  const elsewhere = { ...other, cell: { ...aCell, screen: 'settings' } };
  expect(places(judged([...style, elsewhere]))).toEqual([1, 2]);
});

test('a card tells its places, and the item counts causes', () => {
  const of = judged([target('close', 0, [40, 40]), target('help', 50, [40, 40])]);
  expect(of.items[0]).toMatchObject({ outcome: 'failed', why: '1 finding in 2 places.' });
  const told = textReport(of, { style: plainStyle, widthColumns: 120, all: false });
  expect(told).toContain('2 places');
  expect(told).toContain('the close');
  expect(told).toContain('the help');
  const page = htmlReport(of, { proofs: new Map(), fontCss: '' });
  for (const { id } of of.findings) expect(page).toContain(`id="finding-${id}"`);
  expect(page).toContain('1 more place with the same cause');
  expect(junitReport(of)).toMatch(/and: \S+ {2}(close|help)/);
});

const rows = (second: [number, number]) => [target('remove', 0, [40, 40]), target('remove', 50, second)];

test('rows that share a key are one finding while their values agree, else each its own, by its place in the list', () => {
  expect(judged(rows([40, 40])).findings.map(({ identity }) => identity.row)).toEqual([undefined]);
  const apart = judged([...rows([40, 30]), target('remove', 99, [48, 48])]).findings;
  expect(apart.map(({ identity }) => identity.row).sort()).toEqual([1, 2]);
  // a row that is in order keeps its place
  const third = judged([
    target('remove', 0, [48, 48]),
    target('remove', 50, [40, 40]),
    target('remove', 99, [30, 30]),
  ]);
  expect(third.findings.map(({ identity }) => identity.row).sort()).toEqual([2, 3]);
});

test('a ruling on rows that were one finding holds for each of them, until something in them changes', () => {
  const former = {
    finding: findingId('small-target', { screen: 'home', subject: 'remove' }),
    digest: findingDigest(['40 × 40', '40 × 30']),
  };
  const carried = judged(rows([40, 30]), [former]);
  expect(carried.findings.map(({ ruling }) => ruling?.ruling)).toEqual(['false-alarm', 'false-alarm']);
  expect(carried.lapsed).toEqual([]);
  const changed = judged(rows([40, 20]), [former]);
  expect(changed.findings.map(({ ruling }) => ruling?.ruling)).toEqual([undefined, undefined]);
  expect(changed.lapsed).toMatchObject([{ why: 'what was measured has changed since' }]);
  const [first] = carried.findings;
  const own = judged(rows([40, 30]), [{ finding: first!.id, digest: first!.digest, ruling: 'real' }, former]);
  expect(own.findings.map(({ id, ruling }) => [id === first!.id, ruling?.ruling])).toEqual(
    carried.findings.map(({ id }) => [id === first!.id, id === first!.id ? 'real' : 'false-alarm']),
  );
});

test('a place that joins a card later is open until it is ruled on', () => {
  const before = judged([target('close', 0, [40, 40]), target('help', 50, [40, 40])]);
  const rulings = before.findings.map(({ digest, id }) => ({ finding: id, digest }));
  const after = judged(
    [target('close', 0, [40, 40]), target('help', 50, [40, 40]), target('late', 99, [40, 40])],
    rulings,
  );
  expect(after.items[0]).toMatchObject({ outcome: 'failed', why: '1 finding.' });
  expect(places(after)).toEqual([1, 2]);
  expect(after.findings.filter(({ ruling }) => !ruling).map(({ identity }) => identity.subject)).toEqual([
    'late',
  ]);
});
