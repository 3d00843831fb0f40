/** What drills decide of the checklist: an item is as good as what was proven of it, screen by screen. */
import { checks } from '../../../src/core/areas/checks.ts';
import { observeDrillRun } from '../../../src/core/areas/lifecycle/observers/observe-drill-run.ts';
import { assembleChecklist } from '../../../src/core/checklist/assemble-checklist.ts';
import { judge } from '../../../src/core/checklist/judge.ts';
import { checklistSchema } from '../../../src/core/model/checklist.ts';
import { screenDrills } from '../../../src/core/model/drill.ts';
import type { Fact } from '../../../src/core/model/fact.ts';
import type { Intent } from '../../../src/core/model/intent.ts';
import type { Judgement } from '../../../src/core/model/judgement.ts';
import { type DrillTrace, drillTrace, formScreen } from '../../support/drill-trace.ts';
import { aBuild, aCell, anIntent, observeScreen } from '../../support/facts.ts';

const list = assembleChecklist(
  checklistSchema.parse({
    fenlok: 'checklist/1',
    name: 'list',
    items: [
      {
        id: 'state.recents',
        area: 'lifecycle',
        shows: 'X.',
        level: 'blocking',
        by: { checks: ['lost-state', 'lost-screen'], drill: 'recents' },
      },
      {
        id: 'state.rotate',
        area: 'lifecycle',
        shows: 'X.',
        level: 'blocking',
        by: { checks: ['lost-state', 'lost-screen'], drill: 'rotate' },
      },
      {
        id: 'quality.start',
        area: 'quality',
        shows: 'X.',
        level: 'blocking',
        by: { checks: ['slow-start'], drill: 'cold-start' },
      },
      { id: 'explored', area: 'candidate', shows: 'X.', level: 'advisory', by: { drill: 'roam' } },
      { id: 'later', area: 'push', shows: 'X.', level: 'advisory', by: { drill: 'switch-walk' } },
      { id: 'swept', area: 'candidate', shows: 'X.', level: 'blocking', by: { drill: 'capture-sweep' } },
      {
        id: 'bold',
        area: 'accessibility',
        shows: 'X.',
        level: 'advisory',
        by: { drill: 'capture-sweep', procedures: ['bold-text'] },
      },
    ],
  }),
  undefined,
  checks.map(({ id }) => id),
);
const intent: Intent = anIntent({
  screens: [
    { id: 'booking', change: [] },
    { id: 'sailing', change: [] },
  ],
});
const at = '2026-11-23T10:00:00.000Z';
const lost: DrillTrace['seen'] = {
  before: formScreen({ note: 'Hi' }),
  'before-again': formScreen({ note: 'Hi' }),
};
const factsOf = (...traces: DrillTrace[]): Fact[] =>
  traces.flatMap((of) => [...observeDrillRun.observe(drillTrace(of))]);

function judged(traces: DrillTrace[], of: { platform?: 'android' | 'ios'; intent?: Intent } = {}): Judgement {
  const { platform = 'android' } = of;
  return judge({
    candidate: { platform, name: 'Boat', build: aBuild },
    facts: factsOf(...traces),
    intent: of.intent ?? intent,
    checklist: list,
    rulings: { fenlok: 'rulings/1', rulings: [], signOffs: [] },
    checks,
    now: at,
  });
}
const item = (judgement: Judgement, id: string) => {
  const { outcome, why } = judgement.items.find((one) => one.id === id)!;
  return `${outcome}: ${why}`;
};

const recents = (screen: string, of: Partial<DrillTrace> = {}): DrillTrace => ({
  drill: 'recents',
  screen,
  ...of,
});

test.each<[string, DrillTrace[], string]>([
  ['not run', [], 'untested: Not run yet: fenlok drill recents'],
  [
    'run on one screen of two',
    [recents('booking')],
    'untested: Not run yet: fenlok drill recents (missing: sailing).',
  ],
  ['stood by both', [recents('booking'), recents('sailing')], 'passed: 2 screens passed.'],
  ['lost on one', [recents('booking', { seen: lost }), recents('sailing')], 'failed: Fails on booking.'],
  ['lost on one, the other not run', [recents('booking', { seen: lost })], 'failed: Fails on booking.'],
  [
    'invalid on one',
    [recents('booking'), recents('sailing', { log: [] })],
    'untested: Undecided on sailing. On sailing: Invalid: the app was never stopped',
  ],
  [
    'invalid, then done right',
    [recents('booking'), recents('sailing', { log: [], at: '2026-11-23T09:00:00.000Z' }), recents('sailing')],
    'passed: 2 screens passed.',
  ],
  [
    'done right on one device, invalid on another',
    [recents('booking'), recents('sailing'), recents('sailing', { deviceId: 'D2', log: [] })],
    'passed: 2 screens passed.',
  ],
  [
    'lost on one device of two',
    [recents('booking'), recents('booking', { deviceId: 'D2', seen: lost }), recents('sailing')],
    'failed: Fails on booking.',
  ],
  [
    'another drill lost it',
    [
      recents('booking'),
      recents('sailing'),
      { drill: 'rotate', seen: { ...lost, away: formScreen({ widthPx: 400 }) } },
    ],
    'passed: 2 screens passed.',
  ],
])('%s', (_, traces, expected) => {
  expect(item(judged(traces), 'state.recents')).toMatch(new RegExp(`^${expected.replace(/[().]/g, '\\$&')}`));
});

test('a drill of the whole device is run or not; one that nobody can run yet says so', () => {
  const none = judged([]);
  expect(item(none, 'quality.start')).toContain('Not run yet: fenlok drill cold-start');
  expect(item(none, 'later')).toContain('Needs the drill "switch-walk", which this version cannot run');
  expect(item(none, 'swept')).toContain('No coverage is planned in fenlok.yaml');
  const starts = (totalMs: number): DrillTrace => ({
    drill: 'cold-start',
    screen: 'first',
    more: [{ at, kind: 'start.timed', totalMs, launch: 'COLD' }],
  });
  expect(item(judged([starts(1200)]), 'quality.start')).toBe(
    'passed: 1 looked at. It was run, and found nothing.',
  );
  expect(item(judged([starts(4200)]), 'quality.start')).toBe(
    'failed: 1 finding. It was run, with 1 finding.',
  );
  const crashed: DrillTrace = {
    drill: 'roam',
    log: [
      ['AndroidRuntime', 'Process: example.app, PID: 1'],
      ['AndroidRuntime', 'java.lang.Error: x'],
    ],
  };
  expect(item(judged([{ drill: 'roam' }]), 'explored')).toBe('passed: It was run, and found nothing.');
  expect(item(judged([{ drill: 'roam' }, crashed]), 'explored')).toBe('failed: It was run, with 1 finding.');
});

test('cells: planned ones are there without a run; what was run besides is told apart; on iOS those that a lookout can do', () => {
  const { drills } = judged([recents('booking', { seen: lost }), recents('attic')]);
  const of = (screen: string) =>
    drills.find(({ cell }) => cell.screen === screen && cell.procedure === 'recents');
  expect(of('booking')).toMatchObject({
    planned: true,
    outcome: 'failed',
    findings: [expect.any(String)],
    evidence: [expect.stringContaining('recents booking')],
  });
  expect(of('sailing')).toMatchObject({ planned: true, outcome: 'untested', evidence: [] });
  expect(of('attic')).toMatchObject({ planned: false, outcome: 'passed' });
  expect(drills.length).toBe(2 * screenDrills.length + 1);
  const few = judged([], { intent: { ...intent, drills: { ...intent.drills, run: ['rotate'] } } });
  expect(few.drills.map(({ cell }) => cell.procedure)).toEqual(['rotate', 'rotate']);
  const ios = judged([], { platform: 'ios' });
  const planned = [...new Set(ios.drills.map(({ cell }) => cell.procedure))];
  const onScreens = ['back', 'home-and-return', 'covered', 'interrupted', 'rotate', 'process-death'];
  expect(planned).toEqual([...onScreens, 'network-lost', 'offline']);
  expect(item(ios, 'state.recents')).toBe(
    'untested: No drill does it on iOS yet: a person does, and signs (docs/ios.md).',
  );
  expect(item(ios, 'state.rotate')).toBe('untested: Not run yet: fenlok drill rotate');
});

test('a finding of a drill is ruled on like any other: by what was lost where, until something else is lost', () => {
  const [finding] = judged([recents('booking', { seen: lost })]).findings;
  const same = judged([
    recents('booking', {
      at: '2026-12-01T10:00:00.000Z',
      seen: { before: formScreen({ note: 'Else' }), 'before-again': formScreen({ note: 'Else' }) },
    }),
  ]).findings[0]!;
  expect([same.id, same.digest]).toEqual([finding!.id, finding!.digest]);
  const focus = { before: formScreen({ focused: true }), 'before-again': formScreen({ focused: true }) };
  const other = judged([recents('booking', { seen: focus })]).findings[0]!;
  expect(other.id).toBe(finding!.id);
  expect(other.digest).not.toBe(finding!.digest);
});

test.each<[string, string[], string[], string]>([
  [
    'planned and captured',
    ['as-is', 'bold-text'],
    ['as-is', 'bold-text'],
    'passed: All planned cells are captured.',
  ],
  [
    'planned and not captured',
    ['as-is', 'bold-text'],
    ['as-is'],
    'untested: Not captured under the setting bold-text',
  ],
  ['never planned', ['as-is'], ['as-is'], 'untested: Not captured under the setting bold-text'],
])('a setting that captures must show: %s', (_, planned, captured, expected) => {
  const coverage = planned.map((procedure) => ({
    screens: ['booking'],
    locales: ['en'],
    themes: ['light' as const],
    textScales: [1],
    orientations: ['portrait' as const],
    procedure,
  }));
  const facts = captured.flatMap((procedure) =>
    observeScreen(formScreen({ note: 'Hi' }), { cell: { ...aCell, screen: 'booking', procedure } }),
  );
  const judgement = judge({
    candidate: { platform: 'android', name: 'Boat', build: aBuild },
    facts,
    intent: anIntent({ screens: [{ id: 'booking', change: [] }], coverage }),
    checklist: list,
    rulings: { fenlok: 'rulings/1', rulings: [], signOffs: [] },
    checks,
    now: at,
  });
  expect(item(judgement, 'bold')).toMatch(new RegExp(`^${expected}`));
  expect(item(judgement, 'swept')).toBe('passed: All planned cells are captured.');
});
