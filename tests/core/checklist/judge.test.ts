import type { Check, FactIndex } from '../../../src/core/areas/check.ts';
import { checks } from '../../../src/core/areas/checks.ts';
import { assembleChecklist } from '../../../src/core/checklist/assemble-checklist.ts';
import { type JudgeInput, judge } from '../../../src/core/checklist/judge.ts';
import { type Checklist, checklistSchema } from '../../../src/core/model/checklist.ts';
import type { Fact, SeenTextFact } from '../../../src/core/model/fact.ts';
import type { Judgement } from '../../../src/core/model/judgement.ts';
import { judgementSchema } from '../../../src/core/model/judgement.ts';
import { type Ruling, rulingsFileSchema } from '../../../src/core/model/ruling.ts';
import { aBuild, aCell, anIntent, box, observeApp, observeScreen, ui } from '../../support/facts.ts';

const list: Checklist = checklistSchema.parse({
  fenlok: 'checklist/1',
  name: 'test',
  items: [
    {
      id: 'contrast',
      area: 'contrast',
      shows: 'Text stands out.',
      level: 'blocking',
      by: { checks: ['text-contrast'] },
    },
    {
      id: 'links',
      area: 'links',
      shows: 'Links open.',
      level: 'advisory',
      platforms: ['android'],
      by: { checks: ['closed-link-filter'] },
    },
    { id: 'walk', area: 'accessibility', shows: 'A person walked.', level: 'blocking', by: { person: true } },
    {
      id: 'names-and-walk',
      area: 'accessibility',
      shows: 'Named, and walked.',
      level: 'advisory',
      by: { checks: ['unnamed-control'], person: true },
    },
    {
      id: 'privacy',
      area: 'quality',
      shows: 'A manifest.',
      level: 'blocking',
      platforms: ['ios'],
      by: { person: true },
    },
  ],
});
const checkIds = checks.map(({ id }) => id);

const text = (of: Partial<SeenTextFact> & { key?: string } = {}): Fact => ({
  kind: 'text-contrast',
  cell: aCell,
  evidence: 'e1',
  platform: 'android',
  element: { key: of.key ?? 'title', className: 'TextView', shown: 'Title', boundsPx: box([0, 0, 50, 20]) },
  enabled: true,
  ratio: 9,
  interval: [(of.ratio ?? 9) - 0.05, (of.ratio ?? 9) + 0.05],
  foreground: '#777777',
  background: '#ffffff',
  behind: 'flat',
  meanRatio: 9,
  sizeFrom: 'glyphs',
  bold: 'unknown',
  glyphDp: 8,
  runDp: 30,
  linesDp: [],
  stemDp: 1,
  reached: 0.4,
  textSizeDp: [10, 13],
  ...of,
});
const screen = observeScreen(
  ui([0, 0, 100, 100], {}, ui([0, 0, 60, 60], { id: 'go', clickable: true, label: 'Go' })),
);

const planned = anIntent({
  screens: [{ id: 'home', change: [] }],
  coverage: [{ procedure: 'as-is', themes: ['light'], textScales: [1], orientations: ['portrait'] }],
});

function judged(facts: Fact[], of: Partial<JudgeInput> = {}): Judgement {
  const judgement = judge({
    candidate: { platform: 'android', name: 'App', build: aBuild },
    facts: [...screen, ...facts],
    intent: planned,
    checklist: assembleChecklist(list, undefined, checkIds),
    rulings: rulingsFileSchema.parse({ fenlok: 'rulings/1' }),
    checks,
    now: '2026-11-23T10:00:00.000Z',
    ...of,
  });
  return judgementSchema.parse(judgement);
}
const outcomes = (judgement: Judgement) =>
  Object.fromEntries(judgement.items.map(({ id, outcome }) => [id, outcome]));
const rulings = (...entries: Partial<Ruling>[]) =>
  rulingsFileSchema.parse({
    fenlok: 'rulings/1',
    rulings: entries.map((entry) => ({
      ruling: 'false-alarm',
      why: 'seen',
      by: 'Ada',
      at: '2026-11-01',
      ...entry,
    })),
  });
const sign = (item: string, outcome = 'passed', build = aBuild) =>
  rulingsFileSchema.parse({
    fenlok: 'rulings/1',
    signOffs: [{ item, outcome, why: 'done', by: 'Ada', at: '2026-11-20', build }],
  });

test('each item comes out by what shows it; what nobody showed is untested, never passed', () => {
  const judgement = judged([text()]);
  expect(outcomes(judgement)).toEqual({
    contrast: 'passed',
    links: 'untested',
    walk: 'untested',
    'names-and-walk': 'untested',
    privacy: 'inapplicable',
  });
  expect(judgement.verdict).toBe('open');
  expect(outcomes(judged([text(), ...observeApp({})])).links).toBe('inapplicable');
  expect(outcomes(judge({ ...inputOf([]), facts: [] }))).toMatchObject({ contrast: 'untested' });
});

const inputOf = (facts: Fact[]): JudgeInput => ({
  candidate: { platform: 'android', name: 'App', build: aBuild },
  facts,
  intent: anIntent(),
  checklist: assembleChecklist(list, undefined, checkIds),
  rulings: rulingsFileSchema.parse({ fenlok: 'rulings/1' }),
  checks,
  now: '2026-11-23T10:00:00.000Z',
});

test('measured findings fail and block; estimated ones wait, unless strict', () => {
  const failed = judged([text({ ratio: 2 })]);
  expect([outcomes(failed).contrast, failed.verdict]).toEqual(['failed', 'blocked']);
  const estimated = [text({ ratio: 3.5, textSizeDp: [13, 17] })];
  expect([outcomes(judged(estimated)).contrast, judged(estimated).verdict]).toEqual(['cantTell', 'open']);
  expect([
    outcomes(judged(estimated, { strict: true })).contrast,
    judged(estimated, { strict: true }).verdict,
  ]).toEqual(['failed', 'blocked']);
});

test('one departure seen in many places is one finding, the worst place first', () => {
  const facts = ['en', 'de', 'ar'].map((locale, i) =>
    text({ ratio: 3 - i * 0.4, evidence: locale, cell: { ...aCell, locale } }),
  );
  const { findings } = judged([...facts, text({ ratio: 2, key: 'other' })]);
  expect(findings.map(({ identity, occurrences }) => [identity.subject, occurrences.length])).toEqual([
    ['other', 1],
    ['title', 3],
  ]);
  expect(
    findings
      .find(({ identity }) => identity.subject === 'title')!
      .occurrences.map(({ evidence }) => evidence),
  ).toEqual(['ar', 'de', 'en']);
});

describe('rulings', () => {
  const faint = [text({ ratio: 2 })];
  const [finding] = judged(faint).findings;
  const of = { finding: finding!.id, digest: finding!.digest };

  test.each<[string, Partial<Ruling>, string]>([
    ['a false alarm', {}, 'passed'],
    ['accepted', { ruling: 'accepted' }, 'passed'],
    ['accepted until later', { ruling: 'accepted', until: '2026-11-23' }, 'passed'],
    ['accepted until a later build', { ruling: 'accepted', untilBuild: '10' }, 'passed'],
    ['real', { ruling: 'real' }, 'failed'],
  ])('%s holds', (_, ruling, outcome) => {
    const judgement = judged(faint, { rulings: rulings({ ...of, ...ruling }) });
    expect(outcomes(judgement).contrast).toBe(outcome);
    expect(judgement.lapsed).toEqual([]);
  });

  test.each<[string, Partial<Ruling>, RegExp]>([
    ['another measurement', { digest: 'other' }, /measured has changed/],
    ['a finding that is gone', { finding: 'zzzz-zzzz' }, /no such finding/],
    ['a day that has passed', { ruling: 'accepted', until: '2026-11-22' }, /until 2026-11-22/],
    ['a build that has passed', { ruling: 'accepted', untilBuild: '6' }, /until build 6/],
  ])('%s makes it lapse, said and kept', (_, ruling, why) => {
    const judgement = judged(faint, { rulings: rulings({ ...of, ...ruling }) });
    expect(judgement.lapsed).toMatchObject([{ why: expect.stringMatching(why) }]);
    expect(outcomes(judgement).contrast).toBe('failed');
  });

  test('an estimated finding that a person called real fails its item', () => {
    const estimated = [text({ ratio: 3.5, textSizeDp: [13, 17] })];
    const { id, digest } = judged(estimated).findings[0]!;
    expect(
      outcomes(judged(estimated, { rulings: rulings({ finding: id, digest, ruling: 'real' }) })).contrast,
    ).toBe('failed');
  });

  test('it survives another language, a move and another build, and lapses with another colour', () => {
    const moved = text({
      ratio: 2,
      cell: { ...aCell, locale: 'pl' },
      evidence: 'e2',
      element: { key: 'title', className: 'TextView', shown: 'Tytuł', boundsPx: box([5, 90, 50, 20]) },
    });
    const nextBuild = {
      candidate: { platform: 'android' as const, name: 'App', build: { ...aBuild, build: '8' } },
      rulings: rulings(of),
    };
    expect(outcomes(judged([moved], nextBuild)).contrast).toBe('passed');
    expect(judged([text({ ratio: 2.2, foreground: '#888888' })], nextBuild).lapsed).toHaveLength(1);
  });
});

describe('sign-offs', () => {
  test('count for the build that they were given for, and no other', () => {
    expect(outcomes(judged([text()], { rulings: sign('walk') })).walk).toBe('passed');
    expect(outcomes(judged([text()], { rulings: sign('walk', 'failed') }))).toMatchObject({ walk: 'failed' });
    const stale = judged([text()], { rulings: sign('walk', 'passed', { ...aBuild, build: '6' }) });
    expect([outcomes(stale).walk, stale.lapsedSignOffs.length]).toEqual(['untested', 1]);
    expect(judged([text()], { rulings: sign('gone') }).lapsedSignOffs).toMatchObject([
      { why: 'the checklist has no such item' },
    ]);
  });

  test('a person cannot sign away what a check failed, nor a check what a person must see', () => {
    const bare = observeScreen(ui([0, 0, 100, 100], {}, ui([0, 0, 60, 60], { id: 'bare', clickable: true })));
    expect(outcomes(judged(bare, { rulings: sign('names-and-walk') }))['names-and-walk']).toBe('failed');
    expect(outcomes(judged([], { rulings: sign('names-and-walk') }))['names-and-walk']).toBe('passed');
    expect(outcomes(judged([]))['names-and-walk']).toBe('untested');
  });

  test('with everything blocking signed or passed the candidate is clear', () => {
    expect(judged([text()], { rulings: sign('walk') }).verdict).toBe('clear');
  });
});

describe('coverage', () => {
  const intent = anIntent({
    screens: [
      { id: 'home', change: [] },
      { id: 'settings', change: [] },
    ],
    coverage: [
      {
        procedure: 'as-is',
        locales: ['en'],
        themes: ['light', 'dark'],
        textScales: [1],
        orientations: ['portrait'],
      },
    ],
  });

  test('a planned cell without a capture is untested, and keeps an item from passing', () => {
    const judgement = judged([text()], { intent });
    expect(judgement.coverage.map(({ cell, outcome }) => `${cell.screen} ${cell.theme} ${outcome}`)).toEqual([
      'home light passed',
      'home dark untested',
      'settings light untested',
      'settings dark untested',
    ]);
    expect(judgement.items[0]).toMatchObject({
      outcome: 'untested',
      why: expect.stringContaining('3 of 4 planned cells'),
    });
  });

  test('where nothing is planned nothing can pass on captures, and a capture besides the plan is told apart', () => {
    const unplanned = judged([text()], { intent: anIntent() });
    expect(unplanned.items[0]).toMatchObject({
      outcome: 'untested',
      why: expect.stringContaining('no coverage is planned'),
    });
    expect(unplanned.coverage.map((cell) => cell.planned)).toEqual([false]);
    const elsewhere = observeScreen(ui([0, 0, 10, 10]), { cell: { screen: 'extra' } });
    expect(
      judged([text(), ...elsewhere]).coverage.map((cell) => `${cell.cell.screen} ${cell.planned}`),
    ).toEqual(['home true', 'extra false']);
  });

  test('a row without themes means all of the app, and one with screens only those', () => {
    const row = { procedure: 'as-is', textScales: [1], orientations: ['portrait' as const] };
    const cells = (of: object) =>
      judged([], { intent: { ...intent, coverage: [{ ...row, ...of }] } }).coverage;
    expect(cells({})).toHaveLength(4);
    // what was captured besides the plan is listed after it
    expect(
      cells({ screens: ['home'], locales: ['de', 'pl'], themes: ['dark'] }).map(({ cell }) => cell.locale),
    ).toEqual(['de', 'pl', 'en']);
  });

  test('a finding marks its own cells only', () => {
    const dark = observeScreen(ui([0, 0, 10, 10]), { cell: { theme: 'dark' } });
    const judgement = judged([...dark, text({ ratio: 2, cell: { ...aCell, theme: 'dark' } })], { intent });
    expect(judgement.coverage.map(({ outcome }) => outcome)).toEqual([
      'passed',
      'failed',
      'untested',
      'untested',
    ]);
  });
});

describe("a team's own list", () => {
  const own = (of: object) => checklistSchema.parse({ fenlok: 'checklist/1', name: 'ours', ...of });

  test('adds items, switches items off with a reason, and changes levels', () => {
    const checklist = assembleChecklist(
      list,
      own({
        items: [
          {
            id: 'team.boats',
            area: 'quality',
            shows: 'Boats float.',
            level: 'blocking',
            by: { person: true },
          },
        ],
        off: [{ item: 'walk', why: 'no app to walk' }],
        levels: [{ item: 'links', level: 'blocking', why: 'we live by links' }],
      }),
      checkIds,
    );
    expect(checklist.items.map(({ id, level }) => `${id} ${level}`)).toEqual([
      'contrast blocking',
      'links blocking',
      'names-and-walk advisory',
      'privacy blocking',
      'team.boats blocking',
    ]);
    const judgement = judged([text()], { checklist });
    expect([judgement.checklist, judgement.switchedOff]).toEqual([
      'test + ours',
      [{ item: 'walk', why: 'no app to walk' }],
    ]);
  });

  test.each([
    [{ items: [{ ...list.items[0]! }] }, /item contrast twice/],
    [{ off: [{ item: 'wallk', why: 'x' }] }, /Did you mean "walk"/],
    [
      { items: [{ ...list.items[0]!, id: 'mine', by: { checks: ['text-contrst'] } }] },
      /Did you mean "text-contrast"/,
    ],
  ])('%o is refused', (of, message) => {
    expect(() => assembleChecklist(list, own(of), checkIds)).toThrow(message);
  });
});

test('a check that reads what it does not declare is a defect that is said at once', () => {
  const ofPackage = checks.find(({ needs }) => needs === 'package')!;
  const greedy = { ...ofPackage, id: 'greedy', reads: [], run: (facts: FactIndex) => [...facts.of('stop')] };
  expect(() =>
    judge({
      ...inputOf(observeApp({})),
      checks: [greedy as unknown as Check],
      checklist: assembleChecklist({ ...list, items: [] }, undefined, []),
    }),
  ).toThrow(/greedy reads stop, which it does not declare/);
});
