/** What came of a drill, told from its trace: classes, proofs, what was lost, ways back; and the items that rest on it. */
import fc from 'fast-check';
import { lostScreen } from '../../../src/core/areas/lifecycle/checks/lost-screen.ts';
import { lostState } from '../../../src/core/areas/lifecycle/checks/lost-state.ts';
import { runningService } from '../../../src/core/areas/lifecycle/checks/running-service.ts';
import { settingLeft } from '../../../src/core/areas/lifecycle/checks/setting-left.ts';
import { stuckOffline } from '../../../src/core/areas/lifecycle/checks/stuck-offline.ts';
import { wayBack } from '../../../src/core/areas/lifecycle/checks/way-back.ts';
import { observeDrillRun } from '../../../src/core/areas/lifecycle/observers/observe-drill-run.ts';
import { classOfRun } from '../../../src/core/areas/lifecycle/runs/class-of-run.ts';
import { compareStates } from '../../../src/core/areas/lifecycle/state/compare-states.ts';
import { screenState } from '../../../src/core/areas/lifecycle/state/screen-state.ts';
import { crash } from '../../../src/core/areas/quality/checks/crash.ts';
import { slowStart } from '../../../src/core/areas/quality/checks/slow-start.ts';
import { decodeTrace } from '../../../src/core/formats/trace.ts';
import type { DrillRunFact, Fact } from '../../../src/core/model/fact.ts';
import type { DrillLine } from '../../../src/core/model/trace.ts';
import { type DrillTrace, drillTrace, formScreen, startScreen } from '../../support/drill-trace.ts';
import { anIntent, departures, run, ui } from '../../support/facts.ts';

const factsOf = (of: DrillTrace): Fact[] => [...observeDrillRun.observe(drillTrace(of))];
const runOf = (of: DrillTrace): DrillRunFact => factsOf(of).find((fact) => fact.kind === 'drill-run')!;
const at = '2026-11-23T10:00:00.000Z';

const NEW = { before: { pid: 7, startTicks: 70 }, away: null, after: { pid: 9, startTicks: 95 } };
const KILLED: DrillTrace = {
  drill: 'process-death',
  processes: NEW,
  log: [
    ['wm_on_stop_called', '[1,example.app.BookingActivity,STOP]'],
    ['am_kill', '[0,7,example.app,900,kill background]'],
  ],
};
const FATAL: [string, string][] = [
  ['AndroidRuntime', 'FATAL EXCEPTION: main'],
  ['AndroidRuntime', 'Process: example.app, PID: 9'],
  ['AndroidRuntime', 'java.lang.IllegalStateException: no session'],
  ['AndroidRuntime', '\tat java.util.Objects.requireNonNull(Objects.java)'],
  ['AndroidRuntime', '\tat example.app.BookingActivity.onCreate(BookingActivity.java:12)'],
];

test.each<[string, DrillTrace, string]>([
  ['nothing lost', KILLED, 'restored'],
  [
    'a typed note lost',
    { ...KILLED, seen: { before: formScreen({ note: 'Hi' }), 'before-again': formScreen({ note: 'Hi' }) } },
    'partly-restored note typed',
  ],
  [
    'a dialog lost',
    {
      ...KILLED,
      seen: { before: formScreen({ dialog: true }), 'before-again': formScreen({ dialog: true }) },
    },
    'partly-restored details gone',
  ],
  [
    'at the first screen',
    { ...KILLED, seen: { after: startScreen }, activities: { after: 'example.app/.StartActivity' } },
    'restarted first',
  ],
  [
    'at another screen',
    { ...KILLED, seen: { after: startScreen }, activities: { after: 'example.app/.OtherActivity' } },
    'restarted elsewhere',
  ],
  [
    'out of the app',
    { ...KILLED, seen: { after: startScreen }, activities: { after: 'com.launcher/.Home' } },
    'restarted outside',
  ],
  ['crashed', { ...KILLED, log: [...KILLED.log!, ...FATAL] }, 'crashed'],
  ['not answering', { ...KILLED, log: [...KILLED.log!, ['am_anr', '[0,9,example.app,1,Input]']] }, 'crashed'],
  ['the same process: not killed', { ...KILLED, processes: {} }, 'invalid same-process'],
  [
    'the pid again, started later: killed',
    { ...KILLED, processes: { ...NEW, after: { pid: 7, startTicks: 99 } } },
    'restored',
  ],
  [
    'absence alone, and no process afterwards',
    { ...KILLED, processes: { ...NEW, after: null } },
    'invalid same-process',
  ],
  [
    'stopped by force',
    { ...KILLED, log: [KILLED.log![0]!, ['am_kill', '[0,7,example.app,0,stop example.app]']] },
    'invalid forced-stop',
  ],
  ['never left', { ...KILLED, log: [] }, 'invalid not-left'],
  [
    'left on the way back only',
    { ...KILLED, log: [], seen: { 'back-1': startScreen }, logAfter: KILLED.log },
    'invalid not-left',
  ],
  ['home, but another process', { drill: 'home-and-return', processes: NEW }, 'invalid other-process'],
  ['home and back', { drill: 'home-and-return' }, 'restored'],
  ['discarded, and nothing destroyed', { drill: 'discard' }, 'invalid not-destroyed'],
  [
    'discarded',
    {
      drill: 'discard',
      log: [KILLED.log![0]!, ['wm_on_destroy_called', '[1,example.app.BookingActivity,x]']],
    },
    'restored',
  ],
  ['rotated, and nothing turned', { drill: 'rotate', seen: { away: formScreen({}) } }, 'invalid not-turned'],
  ['rotated', { drill: 'rotate', seen: { away: formScreen({ widthPx: 400 }) } }, 'restored'],
  [
    'a setting that reads otherwise',
    {
      drill: 'low-battery',
      more: [{ at, kind: 'setting.borrowed', setting: 'battery', wanted: '4', reads: null }],
    },
    'invalid setting-not-taken',
  ],
  ['no setting at all', { drill: 'low-battery' }, 'invalid setting-not-taken'],
  [
    'a setting that was taken',
    {
      drill: 'low-battery',
      more: [{ at, kind: 'setting.borrowed', setting: 'battery', wanted: '4', reads: '4' }],
    },
    'restored',
  ],
  ['nothing came over it', { drill: 'covered', seen: { away: formScreen({}) } }, 'invalid not-covered'],
  [
    'recent apps that lead elsewhere',
    {
      drill: 'recents',
      log: [KILLED.log![0]!],
      seen: { after: startScreen },
      activities: { after: 'com.android.settings/.Settings' },
    },
    'invalid not-switched-back',
  ],
  ['something came over it', { drill: 'covered', seen: { away: startScreen } }, 'restored'],
  [
    'a command refused',
    { drill: 'location-off', more: [{ at, kind: 'command.ran', line: 'cmd location', code: 20 }] },
    'invalid command-failed',
  ],
  [
    'not reached',
    { drill: 'rotate', more: [{ at, kind: 'drill.stopped', step: 'tap x', why: 'no x' }] },
    'invalid unreached',
  ],
])('%s', (_, of, expected) => {
  const found = classOfRun(runOf(of));
  const detail =
    found.kind === 'partly-restored'
      ? found.lost.map(({ key, what }) => `${key} ${what}`).join(', ')
      : found.kind === 'restarted'
        ? found.at
        : found.kind === 'invalid'
          ? found.why
          : '';
  expect(`${found.kind} ${detail}`.trim()).toBe(expected);
});

test.each<[string, DrillTrace, string[]]>([
  ['back as it was', KILLED, []],
  [
    'begun again',
    { ...KILLED, seen: { after: startScreen }, activities: { after: 'example.app/.StartActivity' } },
    ['failed screen process-death'],
  ],
  [
    'gone',
    { ...KILLED, seen: { after: startScreen }, activities: { after: 'com.launcher/.Home' } },
    ['failed screen process-death'],
  ],
  ['nothing killed', { ...KILLED, processes: {}, seen: { after: startScreen } }, []],
])('lost-screen: %s', (_, of, found) => {
  expect(departures(run(lostScreen, factsOf(of)))).toEqual(found);
});

test('what changes by itself is no loss: by rule a time of day, by a second look anything, by the intent a key', () => {
  const before = formScreen({ note: 'a', clock: '9:41' });
  const after = formScreen({ note: 'b', clock: '9:42' });
  expect(
    runOf({ drill: 'recents', seen: { before, 'before-again': before, after } }).changes.map(
      ({ key }) => key,
    ),
  ).toEqual(['note']);
  const volatile = runOf({
    drill: 'recents',
    seen: { before, 'before-again': after, after: formScreen({ note: 'c' }) },
  });
  expect([volatile.changes, volatile.volatile]).toEqual([[], ['note']]);
  const told = runOf({ drill: 'recents', seen: { before, 'before-again': before, after } });
  expect(classOfRun(told, ['note'])).toEqual({ kind: 'restored' });
});

test('a state differs from another by just what was changed in it, however far the list is scrolled', () => {
  const state = fc.record({
    note: fc.constantFrom('', 'Hi', 'Window'),
    bike: fc.boolean(),
    focused: fc.boolean(),
    scrolledPx: fc.integer({ min: 0, max: 120 }),
  });
  fc.assert(
    fc.property(state, state, (a, b) => {
      const changes = compareStates(screenState(formScreen(a)), screenState(formScreen(b)));
      const expected = [
        ...(a.note === b.note ? [] : ['note typed']),
        ...(a.focused === b.focused ? [] : ['note focused']),
        ...(a.bike === b.bike ? [] : ['bike checked']),
        ...(Math.abs(a.scrolledPx - b.scrolledPx) <= 6 ? [] : ['rows scroll']),
      ];
      expect(changes.map(({ key, what }) => `${key} ${what}`)).toEqual(expected);
    }),
  );
});

test('the last run of a drill counts, and a later one on another device does not cover it', () => {
  const lost = { before: formScreen({ note: 'Hi' }), 'before-again': formScreen({ note: 'Hi' }) };
  const early = factsOf({ ...KILLED, at: '2026-11-23T09:00:00.000Z', seen: lost });
  const late = factsOf({ ...KILLED, at: '2026-11-23T11:00:00.000Z' });
  const other = factsOf({ ...KILLED, at: '2026-11-23T08:00:00.000Z', deviceId: 'D2', seen: lost });
  expect(departures(run(lostState, [...late, ...early]))).toEqual([]);
  expect(departures(run(lostState, [...late, ...early, ...other])).length).toBe(1);
});

const step = (activity: string) => `example.app/.${activity}Activity`;
const back = (drill: string, ...names: string[]): DrillTrace => ({
  ...(drill === 'process-death' ? KILLED : { drill }),
  seen: Object.fromEntries(names.map((_, i) => [`back-${i + 1}`, startScreen])),
  activities: Object.fromEntries(
    names.map((name, i) => [`back-${i + 1}`, name === 'out' ? 'com.launcher/.Home' : step(name)]),
  ),
});
test.each<[string, DrillTrace[], string[]]>([
  ['to its parent and out', [back('back', 'Sailing', 'out')], []],
  ['a dialog is closed first', [back('back', 'Booking', 'Sailing', 'out')], []],
  ['out from deep inside', [back('back', 'out')], ['out']],
  ['to another screen', [back('back', 'Start', 'out')], ['other-parent']],
  ['never out', [back('back', 'Sailing', 'Start', 'Sailing', 'Start')], ['trap']],
  [
    'another way after process death',
    [back('back', 'Sailing', 'out'), back('process-death', 'Start', 'out')],
    ['changed'],
  ],
  [
    'the same way after process death',
    [back('back', 'Sailing', 'out'), back('process-death', 'Sailing', 'out')],
    [],
  ],
])('the way back: %s', (_, traces, expected) => {
  const screens = [
    { id: 'sailing', activity: 'SailingActivity', change: [] },
    { id: 'booking', activity: 'BookingActivity', parent: 'sailing', change: [] },
  ];
  const found = run(wayBack, traces.flatMap(factsOf), anIntent({ screens }));
  expect(found.flatMap((one) => ('draft' in one ? [one.draft.occurrence.data.fault] : []))).toEqual(expected);
});

test('services, starts, crashes and settings are held against the intent', () => {
  const services: DrillLine[] = [
    { at, kind: 'services.seen', step: 'after', services: ['example.app.Sync', 'example.app.Player'] },
  ];
  const left = factsOf({ drill: 'background-services', more: services });
  const intent = anIntent();
  expect(departures(run(runningService, left)).length).toBe(2);
  expect(
    departures(
      run(runningService, left, { ...intent, drills: { ...intent.drills, services: ['.Player', 'Sync'] } }),
    ),
  ).toEqual([]);
  const starts = (...all: number[]) =>
    factsOf({
      drill: 'cold-start',
      more: all.map((totalMs): DrillLine => ({ at, kind: 'start.timed', totalMs, launch: 'COLD' })),
    });
  expect(departures(run(slowStart, starts(900, 5000, 1900)))).toEqual([]);
  expect(departures(run(slowStart, starts(2100, 2500, 100))).length).toBe(1);
  const crashed = run(crash, factsOf({ ...KILLED, log: [...KILLED.log!, ...FATAL] }));
  expect(crashed.map((one) => 'draft' in one && one.draft.identity)).toEqual([
    { screen: 'booking', subject: 'example.app.BookingActivity.onCreate', aspect: 'process-death' },
  ]);
  expect(departures(run(lostScreen, factsOf({ ...KILLED, log: [...KILLED.log!, ...FATAL] })))).toEqual([]);
  const put = (now: string | null, when = at): DrillLine[] => [
    { at: when, kind: 'setting.put-back', setting: 'system/font_scale', was: null, now },
  ];
  expect(departures(run(settingLeft, factsOf({ drill: 'put-back', more: put('2') }))).length).toBe(1);
  const later = factsOf({ drill: 'put-back', more: put(null, '2026-11-24T10:00:00.000Z') });
  expect(departures(run(settingLeft, [...later, ...factsOf({ drill: 'put-back', more: put('2') })]))).toEqual(
    [],
  );
});

test.each([
  ['{"at":"2026-11-23T10:00:00Z","kind":"drill.began","drill":"back"}', 'line 1, cell'],
  ['{"at":"2026-11-23T10:00:00Z","kind":"process.seen","step":"before","pid":"7"}', 'line 1, pid'],
  [
    '{"at":"2026-11-23T10:00:00Z","kind":"screen.seen","step":"a","activity":"","hierarchy":"<hierarchy"}',
    'line 1',
  ],
  ['{"at":"yesterday","kind":"x"}', 'line 1'],
])('a trace line that drills do not write: %s', async (line, place) => {
  await expect(decodeTrace('t.jsonl', line)).rejects.toThrow(place);
});

const NO_NETWORK: DrillTrace = {
  ...KILLED,
  drill: 'offline',
  more: [{ at, kind: 'setting.borrowed', setting: 'wifi', wanted: '0', reads: '0' }],
};
const WAITS = ui(
  [0, 0, 200, 400],
  { id: 'form' },
  ui([0, 20, 100, 20], { id: 'title', text: 'Book a crossing' }),
  ui([80, 200, 40, 40], { id: 'wheel', className: 'android.widget.ProgressBar' }),
);
const SORRY = ui(
  [0, 0, 200, 400],
  { id: 'form' },
  ui([0, 20, 100, 20], { id: 'say', text: 'No connection' }),
);
const EMPTY = ui([0, 0, 200, 400], { id: 'form' });

test.each<[what: string, DrillTrace, came: string[]]>([
  ['all is there', { ...NO_NETWORK, seen: { away: formScreen({}) } }, ['passed']],
  ['it waits', { ...NO_NETWORK, seen: { away: WAITS } }, ['cantTell waiting 1 of 7']],
  ['it says that it is sorry', { ...NO_NETWORK, seen: { away: SORRY } }, ['cantTell other 0 of 7']],
  ['nothing is there', { ...NO_NETWORK, seen: { away: EMPTY } }, ['cantTell empty 0 of 7']],
  [
    'the app is not there',
    { ...NO_NETWORK, seen: { away: startScreen }, activities: { away: 'com.launcher/.Home' } },
    ['cantTell outside 0 of 7'],
  ],
  [
    'with network it is another screen too: that is process death',
    { ...NO_NETWORK, seen: { away: startScreen, after: startScreen } },
    ['inapplicable'],
  ],
  ['nobody looked', NO_NETWORK, ['untested']],
  ['the network was not off', { ...NO_NETWORK, more: [], seen: { away: EMPTY } }, []],
  ['the process was the same', { ...NO_NETWORK, processes: {}, seen: { away: EMPTY } }, []],
  ['network lost, and the process alive', { drill: 'network-lost', seen: { away: EMPTY } }, []],
])('without network: %s', (_, trace, came) => {
  const said = run(stuckOffline, [runOf(trace)]).map((one) => {
    if (!('draft' in one)) return one.outcome;
    const { fault, kept, of } = one.draft.occurrence.data;
    return `${one.outcome} ${fault} ${kept} of ${of}`;
  });
  expect(said).toEqual(came);
});
