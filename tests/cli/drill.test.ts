/** `fenlok drill`, `fenlok standin phone` and `fenlok add --watch` as processes, as people and scripts call them. */

import { type ChildProcess, spawn } from 'node:child_process';
import { copyFileSync, existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { parse } from 'yaml';
import { openDevice } from '../../src/device/bridge/open-device.ts';
import { addPackage } from '../../src/node/dossier.ts';
import type { ServedPhone } from '../../src/standins/phone/bridge/serve-phone.ts';
import { shapes } from '../../src/standins/phone/shapes.ts';
import { fenlok } from '../support/command.ts';
import { demoApk, root, scratchFolder } from '../support/paths.ts';
import { copyIntent, pretendBuild } from '../support/project.ts';
import { bootPhone } from '../support/served-phone.ts';

const scratch = scratchFolder();
const env = { FENLOK_STATE: join(scratch, 'state') };
let phone: ServedPhone;

/** A folder as a team has it: intent file, dossier of the candidate. */
async function project(name: string, change: (intent: string) => string = (text) => text): Promise<string> {
  const folder = join(scratch, name);
  copyIntent(folder, change);
  await addPackage(join(folder, 'dossier'), demoApk);
  return folder;
}

const drill = (cwd: string, ...args: string[]) =>
  fenlok(['drill', '--device', phone.address, ...args], cwd, env);

const restore = (cwd: string) => fenlok(['restore', '--device', phone.address], cwd, env);

beforeAll(async () => {
  phone = await bootPhone();
});
afterAll(() => phone.close());

test('a dry run tells what would be run, on which device, and how long it takes; and does nothing', async () => {
  const cwd = await project('dry');
  const { code, out } = await drill(cwd, '--dry-run');
  expect(code).toBe(0);
  const [, all] =
    /^Stand-in Common \(127.0.0.1:\d+\): (\d+) to run, 0 done before, about \d+ min on a phone\n/.exec(out)!;
  const each = [...out.matchAll(/^ {2}[\w-]+ +(\d+) +.*\b(?:min|s)$/gm)].map(([, count]) => Number(count));
  expect(Number(all)).toBe(each.reduce((sum, count) => sum + count));
  expect(out).toMatch(/^ {2}capture-sweep +87 +\d+ min$/m);
  expect(out).toMatch(/^ {2}process-death +7 +\d+ min$/m);
  const json = JSON.parse(
    (await drill(cwd, '--dry-run', '--json', '--only', 'dark de', 'capture-sweep')).out,
  );
  expect(json.steps.length).toBe(14);
  expect(json.steps[0]).toEqual({ what: 'capture of timetable, dark, de', estimatedMs: 8000 });
  expect(existsSync(join(cwd, 'dossier/traces'))).toBe(false);
  const stepsOf = async (...args: string[]) =>
    JSON.parse((await drill(cwd, 'back', 'rotate', '--dry-run', '--json', ...args)).out).steps;
  const parts = [
    await stepsOf('--part', '1/3'),
    await stepsOf('--part', '2/3'),
    await stepsOf('--part', '3/3'),
  ];
  expect(parts.flat()).toEqual(await stepsOf());
  expect(parts.every((part) => part.length > 0)).toBe(true);
});

test('drills are run, told as a matrix, gone on with, and judged', async () => {
  const cwd = await project('run');
  const first = await drill(
    cwd,
    'process-death',
    '--screen',
    'booking',
    '--screen',
    'pass',
    '--screen',
    'settings',
  );
  expect(first).toMatchObject({ code: 0 });
  expect(first.out).toMatch(/booking {2}pass {2}settings\nprocess-death +▲ +▲ +■\n\n▲ failed {3}■ passed\n/);
  expect(first.err).toMatch(
    /Drilling common {2}3\/3\n127.0.0.1:\d+: \d settings are restored, and read so\n/,
  );
  const more = await drill(cwd, 'process-death', 'capture-sweep', '--only', 'settings', '--json');
  expect(more.err).toContain('1 done before; --rerun runs them again');
  const [report] = JSON.parse(more.out);
  expect(report.runs.map(({ drill: name }: { drill: string }) => name)).toEqual(
    Array.from({ length: 13 }, () => 'capture-sweep'),
  );
  expect(report.putBack.every(({ now, was }: { now: string; was: string }) => now === was)).toBe(true);
  expect(readdirSync(join(cwd, 'dossier/captures')).length).toBe(13);
  // measured while the next one was taken
  expect(readdirSync(join(cwd, 'dossier/facts')).length).toBeGreaterThanOrEqual(13);
  const judged = await fenlok(['judge', '--json'], cwd, env);
  const { coverage, drills, findings, items } = JSON.parse(judged.out);
  expect(
    findings.flatMap(({ check, identity }: { check: string; identity: object }) =>
      /^lost-(state|screen)$/.test(check) ? [{ check, ...identity }] : [],
    ),
  ).toEqual([
    { check: 'lost-screen', screen: 'pass', subject: 'screen', aspect: 'process-death' },
    { check: 'lost-state', screen: 'booking', subject: 'note_field', aspect: 'process-death' },
  ]);
  const cell = (screen: string) =>
    drills.find(
      (one: { cell: { screen: string; procedure: string } }) =>
        one.cell.screen === screen && one.cell.procedure === 'process-death',
    );
  expect([cell('booking').outcome, cell('settings').outcome, cell('alerts').outcome]).toEqual([
    'failed',
    'passed',
    'untested',
  ]);
  expect(coverage.filter(({ outcome }: { outcome: string }) => outcome !== 'untested').length).toBe(13);
  const item = items.find(({ id }: { id: string }) => id === 'state.process-death');
  expect([item.outcome, item.why]).toEqual(['failed', 'Fails on booking, pass.']);
  expect(items.find(({ id }: { id: string }) => id === 'state.rotate').why).toBe(
    'Not run yet: fenlok drill rotate',
  );
  expect(items.find(({ id }: { id: string }) => id === 'state.settings-put-back').outcome).toBe('passed');
  const junit = readFileSync(join(cwd, 'dossier/report/junit.xml'), 'utf8');
  expect(junit).toMatch(
    /<testcase classname="fenlok.coverage" name="booking, light, en, process-death">\s*<failure/,
  );
  const page = readFileSync(join(cwd, 'dossier/report/index.html'), 'utf8');
  expect(page).toMatch(/<section class="sheet" id="drills">.*href="\.\.\/traces\/[0-9a-f]{16}\.jsonl"/s);
});

test('a run is evidence of its build alone: taken in elsewhere, and refused beside another build', async () => {
  const from = await project('origin');
  await drill(from, 'home-and-return', '--screen', 'settings');
  const traces = join(from, 'dossier/traces');
  const run = readdirSync(traces)
    .map((name) => join(traces, name))
    .find((file) => readFileSync(file, 'utf8').includes('"drill":"home-and-return"'))!;
  const to = await project('elsewhere');
  const taken = await fenlok(['add', run], to, env);
  expect([taken.code, taken.out]).toEqual([0, expect.stringMatching(/^taken in {2}trace /)]);
  const judged = JSON.parse((await fenlok(['judge', '--json'], to, env)).out);
  const proven = judged.drills.filter(({ outcome }: { outcome: string }) => outcome !== 'untested');
  expect(
    proven.map(
      ({ cell }: { cell: { screen: string; procedure: string } }) => `${cell.procedure} ${cell.screen}`,
    ),
  ).toEqual(['home-and-return settings']);
  pretendBuild(join(to, 'dossier'), { version: '2.4.1' });
  const stale = await fenlok(['add', run], to, env);
  expect([stale.code, stale.err]).toEqual([
    3,
    expect.stringMatching(/evidence of another build: .*2\.4\.0.*begin a new dossier/),
  ]);
  // half a trace is told by its line
  const half = join(scratch, 'half.jsonl');
  writeFileSync(half, readFileSync(run, 'utf8').slice(0, 5000));
  const broken = await fenlok(['add', half], from, env);
  expect([broken.code, broken.err]).toEqual([3, expect.stringMatching(/half.jsonl, line \d+/)]);
});

test('several phones are driven at once, each by itself, into one dossier', async () => {
  const cwd = await project('several');
  const small = await bootPhone({ shape: shapes.small });
  try {
    const both = [
      'drill',
      'discard',
      'capture-sweep',
      '--screen',
      'settings',
      '--only',
      'settings',
      '--json',
    ];
    const run = await fenlok([...both, '--device', phone.address, '--device', small.address], cwd, env);
    // on the small one the discard setting does nothing
    expect(run.code).toBe(4);
    expect(run.err).toMatch(
      new RegExp(`${small.address}: left out: .* and 7 more: languages of one app alone need Android 13`),
    );
    const reports: { name: string; runs: { drill: string; came?: { kind: string } }[] }[] = JSON.parse(
      run.out,
    );
    const came = reports.map(({ name, runs }) => [
      name,
      runs.length,
      runs.find(({ drill: id }) => id === 'discard')!.came!.kind,
    ]);
    expect(came).toEqual([
      ['common', 14, 'restored'],
      ['small', 6, 'invalid'],
    ]);
    const judged = JSON.parse((await fenlok(['judge', '--json'], cwd, env)).out);
    const cell = judged.drills.find(
      (one: { cell: { screen: string; procedure: string } }) =>
        one.cell.screen === 'settings' && one.cell.procedure === 'discard',
    );
    // one device proves it, and what the other lacks is said
    expect([cell.outcome, cell.evidence.length, cell.why]).toEqual([
      'passed',
      2,
      expect.stringContaining('reads the setting only at start'),
    ]);
    expect(readdirSync(join(cwd, 'dossier/captures')).length).toBe(13 + 5);
  } finally {
    await small.close();
  }
});

test('killed half way, it leaves settings changed; the next call restores them, and a person can ask for it', async () => {
  const cwd = await project('killed');
  const args = [join(root, 'dist/bin/fenlok.js'), 'drill', 'capture-sweep', '--device', phone.address];
  const child = spawn(process.execPath, args, { cwd, env: { ...process.env, ...env }, stdio: 'ignore' });
  const dark = await new Promise<boolean>((resolve) => {
    const timer = setInterval(() => {
      if (!phone.os.night && child.exitCode === null) return;
      clearInterval(timer);
      resolve(phone.os.night);
    }, 20);
  });
  expect(dark).toBe(true);
  child.kill('SIGKILL');
  await new Promise((resolve) => child.once('exit', resolve));
  expect([phone.os.night, phone.os.settings.get('system', 'font_scale')]).toEqual([true, expect.any(String)]);
  const back = await restore(cwd);
  expect(back.out).toMatch(/night reads no again\n/);
  // read from the phone by a client that knows nothing of the journal
  const device = await openDevice(phone.address, { stateFolder: join(scratch, 'other') });
  const read = await device.run(
    'cmd uimode night; settings get system font_scale; settings get system user_rotation; cmd locale get-app-locales example.kelpline',
  );
  expect(read.out).toBe('Night mode: no\nnull\n0\nLocales for example.kelpline for user 0 are []\n');
  await device.close();
  expect((await restore(cwd)).out).toContain('no setting is left changed');
  expect(await drill(cwd, '--put-back')).toMatchObject({
    code: 2,
    err: 'fenlok: --put-back is now called fenlok restore\n',
  });
});

test('a second call leaves a phone alone that is driven; Ctrl-C restores the settings, and what was done stays done', async () => {
  const cwd = await project('stopped');
  const args = [join(root, 'dist/bin/fenlok.js'), 'drill', 'rotate', '--device', phone.address];
  const child = spawn(process.execPath, args, {
    cwd,
    env: { ...process.env, ...env },
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  let err = '';
  child.stderr.on('data', (chunk) => {
    err += chunk;
  });
  const ended = new Promise((resolve) => child.once('exit', resolve));
  await new Promise<void>((resolve) => {
    const turned = phone.os.log.follow(({ tag }) => {
      if (tag !== 'wm_relaunch_resume_activity') return;
      turned();
      resolve();
    });
  });
  const second = await restore(cwd);
  child.kill('SIGINT');
  expect([second.code, second.err]).toEqual([
    5,
    expect.stringMatching(new RegExp(`driven by another call of Fenlok .*process ${child.pid} `)),
  ]);
  expect([await ended, err]).toEqual([130, expect.stringContaining('stopped')]);
  expect([
    phone.os.settings.get('system', 'accelerometer_rotation'),
    phone.os.settings.get('system', 'user_rotation'),
  ]).toEqual(['1', '0']);
  expect((await drill(cwd, 'rotate', '--dry-run')).out).toMatch(/: [1-6] to run, [1-6] done before/);
});

describe('what cannot be done is said', () => {
  test.each<[string, string[], number, RegExp]>([
    [
      'an unknown drill',
      ['earthquake'],
      2,
      /there is no drill "earthquake"; there are capture-sweep, cold-start/,
    ],
    [
      'an unknown screen',
      ['back', '--screen', 'harbour'],
      2,
      /there is no screen "harbour" in fenlok.yaml; there are timetable/,
    ],
    ['an unknown way', ['--bridge', 'carrier-pigeon'], 2, /say server or direct/],
    ['a part that is none', ['back', '--part', '3/2'], 2, /--part 3\/2: say 2\/4/],
    ['a budget of nothing', ['roam', '--steps', '0'], 2, /--steps 0: expected a number above 0/],
    ['a server without a port', ['--server', 'here'], 2, /expected host:port/],
  ])('%s', async (_, args, code, message) => {
    const cwd = await project('wrong');
    const run = await drill(cwd, ...args);
    expect([run.code, run.err]).toEqual([code, expect.stringMatching(message)]);
  });

  test('no phone, no server, a phone that does not let us in', async () => {
    const cwd = await project('none');
    const closed = await fenlok(['drill', '--device', '127.0.0.1:9'], cwd, env);
    expect([closed.code, closed.err]).toEqual([5, expect.stringContaining('nothing answers at 127.0.0.1:9')]);
    const none = await fenlok(['drill', '--server', '127.0.0.1:9'], cwd, env);
    expect([none.code, none.err]).toEqual([
      5,
      expect.stringMatching(/no bridge server answers at 127.0.0.1:9. Start it with/),
    ]);
    // as the bridge's own client is told by
    const surroundings: [Record<string, string>, RegExp][] = [
      [{ ANDROID_ADB_SERVER_PORT: '9' }, /no bridge server answers at 127\.0\.0\.1:9/],
      [{ ANDROID_ADB_SERVER_ADDRESS: '127.0.0.2', ANDROID_ADB_SERVER_PORT: '9' }, /at 127\.0\.0\.2:9/],
      [{ ADB_SERVER_SOCKET: 'tcp:9', ANDROID_ADB_SERVER_PORT: '10' }, /at 127\.0\.0\.1:9/],
      [{ ADB_SERVER_SOCKET: 'tcp:127.0.0.2:9' }, /at 127\.0\.0\.2:9/],
      [{ ANDROID_SERIAL: '127.0.0.1:9' }, /nothing answers at 127\.0\.0\.1:9/],
    ];
    for (const [more, message] of surroundings) {
      const run = await fenlok(['drill'], cwd, { ...env, ...more });
      expect([run.code, run.err]).toEqual([5, expect.stringMatching(message)]);
    }
    const local = await fenlok(['drill'], cwd, { ...env, ADB_SERVER_SOCKET: 'localfilesystem:/x' });
    expect([local.code, local.err]).toEqual([
      2,
      expect.stringMatching(/ADB_SERVER_SOCKET.*expected host:port/),
    ]);
    const refusing = await bootPhone({ access: 'refused' });
    try {
      const refused = await fenlok(['drill', '--device', refusing.address], cwd, env);
      expect([refused.code, refused.err]).toEqual([
        5,
        expect.stringContaining('does not let this computer in'),
      ]);
    } finally {
      await refusing.close();
    }
  });

  test('the app is not installed; another build is; --install fix it', async () => {
    const bare = await bootPhone();
    bare.os.packages.uninstall('example.kelpline');
    try {
      const cwd = await project('installed');
      const on = (...args: string[]) =>
        fenlok(['drill', 'back', '--screen', 'settings', '--device', bare.address, ...args], cwd, env);
      const missing = await on();
      expect([missing.code, missing.err]).toEqual([
        3,
        expect.stringMatching(/example.kelpline is not installed.*--install/),
      ]);
      expect((await on('--install')).code).toBe(0);
      pretendBuild(join(cwd, 'dossier'), { code: '0123456789abcdef' });
      const stale = await on();
      expect([stale.code, stale.err]).toEqual([
        3,
        expect.stringMatching(
          /another build is installed: .*; expected the candidate: .*0123456789abcdef.*stale/,
        ),
      ]);
    } finally {
      await bare.close();
    }
  });

  test('a screen that cannot be reached is undecided, with the step that failed', async () => {
    const cwd = await project('lost', (text) =>
      text.replace('{ tap: setting_ads }', '{ tap: setting_adds }'),
    );
    const { code, out } = await drill(cwd, 'rotate', 'capture-sweep', '--screen', 'pass', '--only', 'pass');
    expect(code).toBe(4);
    expect(out).toMatch(
      /□ rotate on pass: Invalid: the screen was not reached \(tap setting_adds: there is no "setting_adds"/,
    );
    expect(out).toMatch(/□ capture of pass, light, en: tap setting_adds: there is no/);
  });
});

describe('the stand-in as a command', () => {
  const lineOf = (child: ChildProcess) =>
    new Promise<string>((resolve) => createInterface({ input: child.stdout! }).once('line', resolve));

  test('it says where it is, is driven there, logs, and ends with Ctrl-C', async () => {
    const args = [
      join(root, 'dist/bin/fenlok.js'),
      'standin',
      'phone',
      '--shape',
      'small',
      '--package',
      demoApk,
      '--log',
    ];
    const child = spawn(process.execPath, args, { stdio: ['ignore', 'pipe', 'pipe'] });
    let log = '';
    child.stderr!.on('data', (chunk) => {
      log += chunk;
    });
    const line = await lineOf(child);
    const address = /at (127\.0\.0\.1:\d+)\./.exec(line)![1]!;
    const device = await openDevice(address, { stateFolder: join(scratch, 'other') });
    expect((await device.run('am start -W example.kelpline')).out).toContain('LaunchState: COLD');
    await device.close();
    child.kill('SIGINT');
    expect(await new Promise((resolve) => child.once('exit', resolve))).toBe(0);
    expect(log).toMatch(/Installed Kelpline 2.4.0\n[\s\S]*am_proc_start: \[0,\d+,\d+,example.kelpline/);
  });

  test.each([
    [['--shape', 'brick'], /no phone is shaped "brick"; there are common, small, foldable, tablet/],
    [['--port', '5556'], /takes 5554 to 5585 for emulators/],
    [['--access', 'maybe'], /say open, asked, refused/],
  ])('%s', async (args, message) => {
    const { code, err } = await fenlok(['standin', 'phone', ...args], scratch);
    expect([code, err]).toEqual([2, expect.stringMatching(message)]);
  });

  test('a package that no phone takes', async () => {
    const file = join(scratch, 'half.apk');
    writeFileSync(file, readFileSync(demoApk).subarray(0, 5000));
    const { code, err } = await fenlok(['standin', 'phone', '--package', file], scratch);
    expect([code, err]).toEqual([
      3,
      expect.stringMatching(/half.apk: a package that the phone refuses: INSTALL_PARSE_FAILED/),
    ]);
  });
});

test('what is dropped into a watched folder is taken in: at once where it is whole, later where it is not yet', async () => {
  const cwd = await project('watch');
  await drill(cwd, 'capture-sweep', '--only', 'settings light en', '--screen', 'settings');
  const from = join(cwd, 'dossier/captures', readdirSync(join(cwd, 'dossier/captures'))[0]!);
  const other = await project('watching');
  const inbox = join(other, 'inbox');
  mkdirSync(inbox);
  const args = [join(root, 'dist/bin/fenlok.js'), 'add', '--watch', inbox];
  const child = spawn(process.execPath, args, { cwd: other, stdio: ['ignore', 'pipe', 'pipe'] });
  const said = { out: '', err: '' };
  child.stdout.on('data', (chunk) => {
    said.out += chunk;
  });
  const told = (stream: 'out' | 'err', pattern: RegExp) =>
    new Promise<void>((resolve) => {
      const look = () => {
        if (pattern.test(said[stream])) resolve();
      };
      child[stream === 'out' ? 'stdout' : 'stderr'].on('data', look);
      look();
    });
  child.stderr.on('data', (chunk) => {
    said.err += chunk;
  });
  await told('err', /Watching/);
  copyFileSync(join(from, 'capture.json'), join(inbox, 'settings.json'));
  await told('err', /screen.png: no such file/);
  for (const name of ['screen.xml', 'screen.png']) copyFileSync(join(from, name), join(inbox, name));
  await told('out', /taken in {2}capture settings.json/);
  writeFileSync(join(inbox, 'app.jsonl'), '{"at":"2026-11-23T10:00:00Z","kind":"link.opened"}\n');
  await told('out', /taken in {2}trace app.jsonl/);
  child.kill('SIGINT');
  expect(await new Promise((resolve) => child.once('exit', resolve))).toBe(0);
  expect(readdirSync(join(other, 'dossier/captures')).length).toBe(1);
  const none = await fenlok(['add', '--watch', 'nowhere'], other);
  expect([none.code, none.err]).toEqual([2, expect.stringContaining('no such folder')]);
});

test('what a drill is named after stands on the checklist', () => {
  const list = parse(readFileSync(join(root, 'checklists/mobile-release.yaml'), 'utf8'));
  const named = new Set(list.items.flatMap(({ by }: { by: { drill?: string } }) => by.drill ?? []));
  for (const id of [
    'back',
    'process-death',
    'discard',
    'rotate',
    'resize',
    'background-services',
    'cold-start',
    'roam',
    'capture-sweep',
  ])
    expect(named).toContain(id);
});
