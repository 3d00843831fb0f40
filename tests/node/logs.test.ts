/** Logs, bug reports, crash reports and symbols taken in by the built command, and what the judgement says of them. */
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Judgement } from '../../src/core/model/judgement.ts';
import { addPackage } from '../../src/node/dossier.ts';
import { withPackage } from '../../src/node/read-package.ts';
import { fenlok } from '../support/command.ts';
import { demoApk, demoIpa, scratchFolder } from '../support/paths.ts';
import { writeZip } from '../support/zip-writer.ts';

const scratch = scratchFolder();
const APP = 'example.kelpline';
const write = (name: string, data: string | Uint8Array) => {
  writeFileSync(join(scratch, name), data);
  return name;
};
const line = (pid: number, tag: string, message: string) =>
  `11-30 12:00:01.000 ${pid} ${pid} E ${tag}: ${message}`;
const CRASH = [
  line(9, 'AndroidRuntime', 'FATAL EXCEPTION: main'),
  line(9, 'AndroidRuntime', `Process: ${APP}, PID: 9`),
  line(9, 'AndroidRuntime', 'java.lang.RuntimeException: Unable to start activity'),
  line(
    9,
    'AndroidRuntime',
    '\tat android.app.ActivityThread.performLaunchActivity(ActivityThread.java:3449)',
  ),
  line(9, 'AndroidRuntime', 'Caused by: b.d: no seats'),
  line(9, 'AndroidRuntime', '\tat java.util.Optional.orElseThrow(Optional.java:403)'),
  line(9, 'AndroidRuntime', '\tat b.b.b(SourceFile:9)'),
].join('\n');
const QUIET = line(900, 'ActivityManager', `Start proc 9:${APP}/u0a123 for top-activity {a}`);
const MAPPING = `# pg_map_id: 4c8f1f2
${APP}.ui.Details -> b.b:
    9:9:java.util.List seats():71:71 -> b
    9:9:void open():40:40 -> b
${APP}.NoSeats -> b.d:
`;

/** Of a dossier with these files: the findings of logs, and the items of the area. */
async function judged(files: string[], app = demoApk) {
  const folder = join(scratch, `d${files.join('-')}`);
  mkdirSync(folder);
  await addPackage(join(folder, 'dossier'), app);
  const added = await fenlok(['add', ...files, '--dossier', join(folder, 'dossier')], scratch);
  expect([added.code, added.err]).toEqual([0, '']);
  const { out } = await fenlok(['judge', '--json', '--dossier', join(folder, 'dossier')], scratch);
  const { findings, items }: Judgement = JSON.parse(out);
  return {
    all: findings,
    outcome: (id: string) => items.find((item) => item.id === `quality.${id}`)!.outcome,
    findings: findings.filter(({ check }) =>
      ['logged-crash', 'main-thread-work', 'left-behind', 'skipped-frames', 'kept-symbols'].includes(check),
    ),
  };
}

test('a stack with its mapping: the cause, and the app’s own frame, by the names that people wrote', async () => {
  const { findings, outcome } = await judged([write('crash.txt', CRASH), write('mapping.txt', MAPPING)]);
  expect(findings.map(({ check, occurrences }) => [check, occurrences[0]!.data])).toMatchObject([
    ['logged-crash', { exception: `${APP}.NoSeats`, frame: `${APP}.ui.Details.seats, line 71` }],
  ]);
  expect(findings[0]!.words.why).toContain(`Begin at ${APP}.ui.Details.seats, line 71.`);
  expect(findings[0]!.words.remedy).not.toContain('mapping.txt');
  expect(outcome('logs')).toBe('failed');
});

test('without the mapping the finding says what is missing', async () => {
  const { findings } = await judged([write('bare.txt', CRASH)]);
  expect(findings[0]!.words).toMatchObject({
    why: expect.stringContaining('Begin at b.b.b, line 9.'),
    remedy: expect.stringContaining('fenlok add mapping.txt'),
  });
});

test('a crash in a drill has its names back too', async () => {
  const cell = { screen: 'app', locale: 'en', theme: 'light', textScale: 1, device: 'd', procedure: 'roam' };
  const at = '2026-11-30T12:00:00.000Z';
  const began = {
    at,
    kind: 'drill.began',
    drill: 'roam',
    cell,
    appId: APP,
    deviceId: 'd',
    sdk: 34,
    densityDpi: 420,
  };
  const messages = CRASH.split('\n').map((one) => one.replace(/^.*?AndroidRuntime: /, ''));
  const lines = messages.map((message) => ({ at, kind: 'log.line', tag: 'AndroidRuntime', pid: 9, message }));
  const trace = [began, ...lines, { at, kind: 'drill.ended' }].map((line) => JSON.stringify(line)).join('\n');
  const { all } = await judged([write('roam.jsonl', trace), write('mapping.txt', MAPPING)]);
  const crash = all.find(({ check }) => check === 'crash')!;
  expect(crash.identity.subject).toBe(`${APP}.ui.Details.seats`);
  expect(crash.words.measured).toBe(`${APP}.NoSeats: no seats`);
});

test('a log without trouble passes nothing that it does not show', async () => {
  const { findings, outcome } = await judged([write('quiet.log', QUIET)]);
  expect(findings).toEqual([]);
  expect(['left-behind', 'stalls', 'smooth', 'logs'].map(outcome)).toEqual([
    // a log without events tells of no screen
    'untested',
    'untested',
    // shorter pauses are in no log
    'untested',
    'passed',
  ]);
});

test('what a log shows of every screen passes', async () => {
  const screens = await withPackage(demoApk, ({ app }) =>
    app.android!.manifest.components.filter(({ name, type }) => type === 'activity' && name.startsWith(APP)),
  );
  const events = screens.flatMap(({ name }) => [
    line(9, 'wm_on_create_called', `[1,${name},performCreate]`),
    line(9, 'wm_on_destroy_called', `[1,${name},performDestroy]`),
  ]);
  const { outcome } = await judged([write('events.log', [QUIET, ...events].join('\n'))]);
  // Kelpline's code sets a thread policy
  expect(['left-behind', 'stalls'].map(outcome)).toEqual(['passed', 'passed']);
});

test('a log of other apps shows nothing', async () => {
  const { outcome } = await judged([write('other.log', QUIET.replaceAll(APP, 'example.other'))]);
  expect(['left-behind', 'stalls', 'smooth'].map(outcome)).not.toContain('passed');
});

test('a bug report: its log, and the stacks of what did not answer', async () => {
  const encoder = new TextEncoder();
  const anr = [
    line(900, 'ActivityManager', `ANR in ${APP} (${APP}/.MainActivity)`),
    line(900, 'ActivityManager', 'PID: 9'),
    line(900, 'ActivityManager', 'Reason: Input dispatching timed out'),
  ].join('\n');
  const traces = `----- pid 9 at 2026-11-30 12:00:00 -----\nCmd line: ${APP}\n"main" prio=5 tid=1 Sleeping\n  at java.lang.Thread.sleep(Native method)\n  at ${APP}.Tides.load(Tides.kt:8)\n----- end 9 -----\n`;
  const zip = writeZip([
    { name: 'bugreport-phone-2026-11-30.txt', data: encoder.encode(`== dumpstate\n${anr}\n`) },
    { name: 'FS/data/anr/anr_2026-11-30', data: encoder.encode(traces) },
  ]);
  const { findings } = await judged([write('bugreport.zip', zip)]);
  expect(findings.map(({ occurrences }) => occurrences[0]!.data)).toMatchObject([
    { sort: 'not-responding', frame: `${APP}.Tides.load, line 8`, about: 'Input dispatching timed out' },
  ]);

  await addPackage(join(scratch, 'cut'), demoApk);
  write('bugreport-cut.zip', zip.subarray(0, zip.length - 40));
  const { code, err } = await fenlok(['add', 'bugreport-cut.zip', '--dossier', 'cut'], scratch);
  expect([code, err]).toEqual([3, expect.stringContaining('bugreport-cut.zip')]);
});

const ips = (appId: string) =>
  `${JSON.stringify({ bundleID: appId, bug_type: '309' })}\n${JSON.stringify({
    procName: 'Kelpline',
    exception: { type: 'EXC_BAD_ACCESS', signal: 'SIGSEGV' },
    threads: [{ frames: [{ imageOffset: 16, imageIndex: 0, symbol: 'Ticket.show()' }] }],
    usedImages: [{ name: 'Kelpline', uuid: 'aa' }],
  })}`;

test('a crash report of iOS; one of another app is refused', async () => {
  const { findings } = await judged([write('own.ips', ips(APP))], demoIpa);
  expect(findings.map(({ check, occurrences }) => [check, occurrences[0]!.data.frame])).toEqual([
    ['logged-crash', 'Kelpline.Ticket.show()'],
  ]);
  await addPackage(join(scratch, 'ios'), demoIpa);
  write('other.ips', ips('example.other'));
  const { code, err } = await fenlok(['add', 'other.ips', '--dossier', 'ios'], scratch);
  expect([code, err]).toEqual([3, expect.stringContaining('a report of example.other')]);
});

test('nothing that other apps wrote is kept', async () => {
  await addPackage(join(scratch, 'kept'), demoApk);
  const secret = line(77, 'Bank', 'token=hunter2');
  write('mixed.txt', `${QUIET}\n${secret}\n${CRASH}\n`);
  await fenlok(['add', 'mixed.txt', '--dossier', 'kept'], scratch);
  const kept = readFileSync(join(scratch, 'kept/logs/..%2Fmixed.txt.json'), 'utf8');
  expect(kept).toContain('no seats');
  expect(kept).not.toContain('hunter2');
});
