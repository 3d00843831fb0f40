/** Drills on the stand-in phone, straight over TCP and through Debian's bridge server: what they prove, and what they refuse. */
import { execFile } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { parse } from 'yaml';
import { classOfRun } from '../../src/core/areas/lifecycle/runs/class-of-run.ts';
import { intentSchema } from '../../src/core/model/intent.ts';
import type { RoamMap } from '../../src/core/model/roam-map.ts';
import type { AndroidDevice } from '../../src/device/android/android-device.ts';
import { listDevices, openDevice } from '../../src/device/bridge/open-device.ts';
import { drillDevice } from '../../src/device/drill-session.ts';
import type { DrillSubject } from '../../src/device/drills/drill-subject.ts';
import { processDeath } from '../../src/device/drills/on-screen/process-death.ts';
import { runScreenDrill } from '../../src/device/drills/on-screen/run-screen-drill.ts';
import type { ScreenDrill } from '../../src/device/drills/on-screen/screen-drill.ts';
import { allScreenDrills } from '../../src/device/drills/on-screen/screen-drills.ts';
import { type Dossier, listTraces } from '../../src/node/dossier.ts';
import type { ServedPhone } from '../../src/standins/phone/bridge/serve-phone.ts';
import { shapes } from '../../src/standins/phone/shapes.ts';
import { fenlok } from '../support/command.ts';
import {
  classOf,
  formatClass,
  kelplineDossier,
  kelplineIntent,
  runFactOf,
  screenOf,
  subjectOn,
} from '../support/drill-bench.ts';
import { scratchFolder, tools } from '../support/paths.ts';
import { copyIntent } from '../support/project.ts';
import { bootPhone } from '../support/served-phone.ts';

const scratch = scratchFolder();
const stateFolder = join(scratch, 'state');
const bridge = { stateFolder };
let phone: ServedPhone;
let device: AndroidDevice;
let dossier: Dossier;
let subject: DrillSubject;

beforeAll(async () => {
  phone = await bootPhone();
  dossier = await kelplineDossier(join(scratch, 'dossier'));
  device = await openDevice(phone.address, bridge);
  subject = await subjectOn(device, dossier, stateFolder);
});
afterAll(async () => {
  await device.close();
  await phone.close();
});

const drillNamed = (id: string): ScreenDrill => allScreenDrills.find((drill) => drill.id === id)!;
const cameOf = async (id: string, screen: string, on = subject) =>
  formatClass(await classOf(await runScreenDrill(drillNamed(id), on, screenOf(screen))));

// as planted, see demo/kelpline/truth.yaml
const AFTER_DEATH: [screen: string, came: string][] = [
  ['timetable', 'partly-restored content scroll'],
  ['sailing', 'restored'],
  ['booking', 'partly-restored note_field typed'],
  ['tickets', 'partly-restored details gone'],
  ['pass', 'restarted first'],
  ['alerts', 'crashed'],
  ['settings', 'restored'],
];

test.each(AFTER_DEATH)('process death on %s: another process, and %s', async (screen, expected) => {
  const lines = await runScreenDrill(processDeath, subject, screenOf(screen));
  expect(formatClass(await classOf(lines))).toBe(expected);
  const { ended, process } = await runFactOf(lines);
  expect([process.before?.pid, process.away, ended]).toEqual([expect.any(Number), null, 'kill background']);
  expect(process.after!.pid).not.toBe(process.before!.pid);
});

test.each([
  ['rotate', 'booking', 'restored'],
  ['rotate', 'tickets', 'partly-restored details gone'],
  ['resize', 'timetable', 'restored'],
  ['discard', 'booking', 'partly-restored note_field typed'],
  ['home-and-return', 'tickets', 'restored'],
  ['recents', 'booking', 'restored'],
  ['screen-off', 'timetable', 'restored'],
  ['covered', 'tickets', 'restored'],
  ['interrupted', 'booking', 'restored'],
  // it has none that could be taken back
  ['permission-revoked', 'booking', 'invalid unreached'],
  ['network-lost', 'sailing', 'restored'],
  ['offline', 'sailing', 'restored'],
  ['offline', 'alerts', 'crashed'],
  ['low-battery', 'settings', 'restored'],
  ['location-off', 'pass', 'restored'],
])('%s on %s: %s', async (drill, screen, expected) => {
  expect(await cameOf(drill, screen)).toBe(expected);
});

test('a permission taken back ends the process; state is lost as in process death, and the permission is there again afterwards', async () => {
  const granted = phone.os.packages.get('example.kelpline')!.granted;
  granted.add('android.permission.POST_NOTIFICATIONS');
  try {
    const lines = await runScreenDrill(drillNamed('permission-revoked'), subject, screenOf('booking'));
    expect(formatClass(await classOf(lines))).toBe('partly-restored note_field typed');
    const { borrowed, ended } = await runFactOf(lines);
    expect([borrowed, ended]).toEqual([
      [
        {
          setting: 'permission example.kelpline android.permission.POST_NOTIFICATIONS',
          wanted: 'denied',
          reads: 'denied',
        },
      ],
      'permissions revoked',
    ]);
    await subject.overrides.putBack();
    expect([...granted]).toEqual(['android.permission.POST_NOTIFICATIONS']);
  } finally {
    granted.clear();
  }
});

describe('a drill that does not do what its name says is invalid, never passed', () => {
  const sabotaged = (run: ScreenDrill['run']): ScreenDrill => ({ ...processDeath, run });
  test.each<[string, ScreenDrill['run'], string]>([
    ['killed in front', ({ kill }) => kill(), 'invalid not-left'],
    [
      'killed under a wrong name',
      async ({ launch, press, untilStopped, write }) => {
        await press('HOME');
        await untilStopped();
        write('command.ran', { ...(await device.kill({ appId: 'example.kelplime', component: '' })) });
        await launch();
      },
      'invalid same-process',
    ],
    [
      'stopped by force',
      async ({ app, launch, press, untilStopped }) => {
        await press('HOME');
        await untilStopped();
        await device.stop(app);
        await launch();
      },
      'invalid forced-stop',
    ],
  ])('%s', async (_, run, expected) => {
    expect(
      formatClass(await classOf(await runScreenDrill(sabotaged(run), subject, screenOf('booking')))),
    ).toBe(expected);
  });

  test('a setting that the device refuses', async () => {
    const refused: ScreenDrill = {
      ...drillNamed('resize'),
      run: async ({ override }) => override('posture', '9'),
    };
    const run = await runFactOf(await runScreenDrill(refused, subject, screenOf('booking')));
    expect([formatClass(classOfRun(run)), run.commands]).toEqual([
      'invalid command-failed',
      [{ line: 'cmd device_state state 9', code: 255, said: expect.stringContaining('unsupported state') }],
    ]);
  });

  test('a screen that cannot be reached, with the step that failed', async () => {
    const lost = { ...screenOf('booking'), reach: [{ tap: 'sailing_row' }, { tap: 'buy_boat' }] };
    const { stopped } = await runFactOf(await runScreenDrill(processDeath, subject, lost));
    expect(stopped).toEqual({
      step: 'tap buy_boat',
      why: 'there is no "buy_boat" on example.kelpline/.SailingActivity',
    });
    const elsewhere = {
      ...screenOf('booking'),
      reach: [{ tap: 'sailing_row' }, { type: 'Åsa', into: 'name' }],
    };
    expect((await runFactOf(await runScreenDrill(processDeath, subject, elsewhere))).stopped?.why).toContain(
      'only ASCII',
    );
  });
});

test('a phone that reads the discard setting only at boot, and one that animates long', async () => {
  const phones = await Promise.all([bootPhone({ shape: shapes.small }), bootPhone({ shape: shapes.tablet })]);
  try {
    const [small, tablet] = await Promise.all(phones.map(({ address }) => openDevice(address, bridge)));
    expect(small!.info).toMatchObject({
      model: 'Stand-in Small',
      sdk: 28,
      widthPx: 480,
      densityDpi: 240,
      isFoldable: false,
    });
    expect(await cameOf('discard', 'booking', await subjectOn(small!, dossier, stateFolder))).toBe(
      'invalid not-destroyed',
    );
    expect(await cameOf('process-death', 'booking', await subjectOn(tablet!, dossier, stateFolder))).toBe(
      'partly-restored note_field typed',
    );
    await Promise.all([small!.close(), tablet!.close()]);
  } finally {
    await Promise.all(phones.map((one) => one.close()));
  }
});

test('a foldable is folded for it', async () => {
  const foldable = await bootPhone({ shape: shapes.foldable });
  const on = await openDevice(foldable.address, bridge);
  try {
    const here = await subjectOn(on, dossier, stateFolder);
    const lines = await runScreenDrill(drillNamed('resize'), here, screenOf('booking'));
    const widths = lines.flatMap((line) =>
      line.kind === 'screen.seen' && /^(before|away|after)$/.test(line.step)
        ? [Number(/bounds="\[0,\d+\]\[(\d+)/.exec(line.hierarchy)![1])]
        : [],
    );
    // dp are rounded to pixels
    expect(widths.map((px) => Math.round(px / 10) * 10)).toEqual([1840, 1080, 1840]);
    expect(await here.overrides.putBack()).toEqual([{ setting: 'posture', was: '2', now: '2' }]);
  } finally {
    await on.close();
    await foldable.close();
  }
});

describe('settings are borrowed', () => {
  const journal = () => join(stateFolder, 'borrowed', `${device.info.id}.jsonl`);
  beforeAll(() => subject.overrides.putBack());

  test.each([
    ['system/font_scale', null, '2', () => phone.os.settings.get('system', 'font_scale')],
    ['night', 'no', 'yes', () => (phone.os.night ? 'yes' : 'no')],
    ['density', null, '600', () => phone.os.densityDpi?.toString()],
    [
      'size',
      null,
      '1080x1200',
      () => phone.os.sizePx && `${phone.os.sizePx.widthPx}x${phone.os.sizePx.heightPx}`,
    ],
    ['battery', null, '3', () => (phone.os.battery.isFaked ? String(phone.os.battery.level) : undefined)],
    [
      'wifi',
      'enable',
      'disable',
      () => (phone.os.settings.get('global', 'wifi_on') === '1' ? 'enable' : 'disable'),
    ],
    ['location', 'true', 'false', () => String(phone.os.settings.get('secure', 'location_mode') !== '0')],
    ['locale example.kelpline', null, 'ar', () => phone.os.packages.get('example.kelpline')!.locales[0]],
  ])('%s: from %s to %s and back', async (setting, was, value, onPhone) => {
    const { overrides } = subject;
    expect(await device.setting(setting).read()).toBe(was);
    await overrides.override(setting, value);
    expect(onPhone()).toBe(value);
    expect(await overrides.putBack()).toEqual([{ setting, was, now: was }]);
    expect(onPhone() ?? null).toBe(was);
    expect(existsSync(journal())).toBe(false);
  });

  test('a journal with half a line at its end is worked off all the same', async () => {
    const file = journal();
    await device.run('settings put system font_scale 2');
    writeFileSync(file, '{"setting":"system/font_scale","was":null}\n{"setting":"night","w');
    const here = await subjectOn(device, dossier, stateFolder);
    expect(here.overrides.left).toEqual(['system/font_scale']);
    await here.overrides.putBack();
    expect([phone.os.settings.get('system', 'font_scale'), existsSync(file)]).toEqual([undefined, false]);
  });

  test('a name that no setting has is a defect of ours', () => {
    expect(() => device.setting('brightness')).toThrow('no setting is called brightness');
  });
});

test('the device goes away in the middle of process death: the line is taken up, and the drill done again', async () => {
  const own = await kelplineDossier(join(scratch, 'gone'));
  const here = await openDevice(phone.address, bridge);
  const stop = phone.os.log.follow(({ message, tag }) => {
    if (tag !== 'am_kill' || !message.includes('kill background')) return;
    stop();
    phone.cutOff();
  });
  const { putBack, results } = await drillDevice(here, {
    dossier: own,
    intent: kelplineIntent,
    stateFolder,
    wanted: { drills: ['process-death'], screens: ['booking'] },
  });
  expect(results.map(({ came }) => came && formatClass(came))).toEqual(['partly-restored note_field typed']);
  expect(putBack.every(({ now, was }) => now === was)).toBe(true);
  await here.close();
  await device.reconnect();
});

describe('roam', () => {
  let map: RoamMap;
  const roam = async (steps: number) => {
    const own = await kelplineDossier(join(scratch, 'roam'));
    const session = {
      dossier: own,
      intent: kelplineIntent,
      stateFolder,
      roamSteps: steps,
      wanted: { drills: ['roam' as const] },
    };
    const { results } = await drillDevice(device, session);
    map = JSON.parse(readFileSync(join(own.folder, 'roam/common/map.json'), 'utf8'));
    return results[0];
  };
  beforeAll(() => device.run('pm clear example.kelpline'));

  test('its budget used up, it says so, and the next run goes on from there', async () => {
    expect((await roam(12))!.trouble).toMatch(/The budget is used up with \d+ things untried/);
    expect([map.stepsTaken, map.finished]).toEqual([12, false]);
    const before = map.screens.length;
    expect(await roam(80)).toMatchObject({ trouble: undefined });
    expect(map.finished).toBe(true);
    expect(map.screens.length).toBeGreaterThan(before);
  });

  test('it finds all screens, the one behind the sign-in, and the planted crash', () => {
    expect(map.screens.map(({ id }) => id).sort()).toEqual([
      'alerts',
      'booking',
      'gangway',
      'pass',
      'sailing',
      'settings',
      'signin',
      'tickets',
      'tickets-details',
      'timetable',
    ]);
    // what networks bring along comes to the front where ads are loaded
    expect(map.neverReached).toEqual(
      ['brightbuoy', 'northmast', 'ropewalk'].map((network) => `com.${network}.ads.FullScreenActivity`),
    );
    expect(map.stepsTaken).toBeLessThan(80);
    expect(map.crashes).toEqual([
      expect.objectContaining({
        screen: 'gangway',
        action: 'Where to sit',
        frame: expect.stringContaining('GangwayActivity.onClick'),
      }),
    ]);
    const { way } = map.screens.find(({ id }) => id === 'gangway')!;
    expect(way).toEqual([
      { tap: 'nav_tickets' },
      { tap: 'ticket_show' },
      { type: 'ada@isle.example', into: 'account_field' },
      { type: '4711', into: 'code_field' },
      { tap: 'sign_in' },
    ]);
  });

  test('it touches nothing that pays, signs out or buys', () => {
    const avoided = map.screens.flatMap(({ actions }) =>
      actions.filter(({ outcome }) => outcome === 'avoided').map(({ name }) => name),
    );
    expect(avoided.sort()).toEqual(['continue', 'pay', 'sign_out']);
  });

  test('a screen to which the intent file has no way is reached as the walk did', async () => {
    const own = await kelplineDossier(join(scratch, 'roam'));
    const intent = {
      ...kelplineIntent,
      screens: [
        { id: 'booking', change: [] },
        { id: 'attic', change: [] },
      ],
    };
    const { results } = await drillDevice(device, {
      dossier: own,
      intent,
      stateFolder,
      wanted: { drills: ['rotate'] },
    });
    expect(results.map(({ came, trouble }) => [came?.kind, trouble])).toEqual([
      ['restored', undefined],
      ['invalid', expect.stringContaining('fenlok.yaml has no way to it')],
    ]);
  });

  test('the map as a picture, the screens as they were seen, and a trace of the crash', async () => {
    const folder = join(scratch, 'roam/roam/common');
    expect(readdirSync(folder).filter((name) => name.endsWith('.png')).length).toBe(10);
    // what it proposes is an intent file's section, and leads there
    const proposed = parse(readFileSync(join(folder, 'screens.yaml'), 'utf8'));
    const { screens } = intentSchema.parse({
      ...proposed,
      fenlok: 'intent/1',
      app: { id: 'example.kelpline' },
    });
    expect(screens.find(({ id }) => id === 'booking')).toEqual({
      id: 'booking',
      activity: 'BookingActivity',
      parent: 'sailing',
      reach: [{ tap: 'sailing_row' }, { tap: 'book' }],
      change: [],
    });
    const svg = readFileSync(join(folder, 'map.svg'), 'utf8');
    expect(svg).toContain('10 screens');
    expect(svg).toMatch(/gangway<\/text>.*▲ crashes/);
    expect((await listTraces({ ...dossier, folder: join(scratch, 'roam') })).length).toBeGreaterThanOrEqual(
      3,
    );
  });
});

const describeWithAdb = existsSync(tools.adb) ? describe : describe.skip;
describeWithAdb("through Debian's bridge server", () => {
  const run = promisify(execFile);
  let port: number;
  const server = () => ({ ...bridge, server: { host: '127.0.0.1', port } });
  const adb = (...args: string[]) =>
    run('/usr/bin/adb', args, {
      env: { ...process.env, ANDROID_ADB_SERVER_PORT: String(port), HOME: scratch },
    });

  beforeAll(async () => {
    port = await new Promise((resolve) => {
      const probe = createServer().listen(0, '127.0.0.1', () => {
        const { port: free } = probe.address() as { port: number };
        probe.close(() => resolve(free));
      });
    });
    await adb('connect', phone.address);
  });
  afterAll(() => adb('kill-server'));

  test('the same results as straight over TCP', async () => {
    expect(await listDevices(server())).toEqual([
      expect.objectContaining({ serial: phone.address, state: 'device' }),
    ]);
    const served = await openDevice(undefined, server());
    expect(served.info).toEqual(device.info);
    const on = await subjectOn(served, dossier, stateFolder);
    for (const [screen, expected] of AFTER_DEATH.slice(1, 4))
      expect(await cameOf('process-death', screen, on)).toBe(expected);
    await served.close();
  });

  test('the command lists what the server knows, and drills the only one without being told which', async () => {
    const env = { FENLOK_STATE: stateFolder };
    const at = ['--server', `127.0.0.1:${port}`];
    const listed = await fenlok(['drill', '--devices', ...at], scratch, env);
    expect(listed).toMatchObject({
      code: 0,
      out: expect.stringMatching(
        /^127\.0\.0\.1:\d+ +device +Stand-in Common, API 34, 1080 × 2400 px at 480 dpi\n$/,
      ),
    });
    const json = JSON.parse((await fenlok(['drill', '--devices', '--json', ...at], scratch, env)).out);
    expect(json).toEqual([{ ...device.info, platform: 'android', serial: phone.address, state: 'device' }]);
    const own = join(scratch, 'served');
    await kelplineDossier(join(own, 'dossier'));
    copyIntent(own);
    const run = await fenlok(['drill', 'covered', '--screen', 'alerts', ...at], own, env);
    expect([run.code, run.out]).toEqual([0, expect.stringMatching(/covered +■\n/)]);
  });

  test('two devices and none chosen; one that is not there; one that asks first', async () => {
    const second = await bootPhone({ access: 'refused' });
    try {
      await adb('connect', second.address);
      await expect(openDevice(undefined, server())).rejects.toMatchObject({
        code: 'unknown',
        message: expect.stringContaining('several devices'),
      });
      await expect(openDevice('nobody', server())).rejects.toMatchObject({
        code: 'unknown',
        message: expect.stringContaining(phone.address),
      });
      await expect(openDevice(second.address, server(), 'server')).rejects.toMatchObject({
        name: 'OutOfReach',
        message: expect.stringMatching(/let this computer in|offline|no device/),
      });
    } finally {
      await second.close();
    }
  });
});
