/** With a phone in the hand and no files: an app reached by taps of Debian's bridge client, then asked about. */
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import sharp from 'sharp';
import type { AndroidDevice } from '../../src/device/android/android-device.ts';
import { openDevice } from '../../src/device/bridge/open-device.ts';
import { fileNameOf } from '../../src/device/device-lock.ts';
import { runScreenDrill } from '../../src/device/drills/on-screen/run-screen-drill.ts';
import { allScreenDrills } from '../../src/device/drills/on-screen/screen-drills.ts';
import { openOverrides } from '../../src/device/overrides/setting-overrides.ts';
import type { ServedPhone } from '../../src/standins/phone/bridge/serve-phone.ts';
import type { Quirk } from '../../src/standins/phone/quirks.ts';
import { adb, goByThumb, stepByThumb } from '../support/by-thumb.ts';
import { fenlok } from '../support/command.ts';
import { classOf, formatClass, kelplineIntent, screenOf } from '../support/drill-bench.ts';
import { GANNET, gannet, KEPT, type Kept, packGannet } from '../support/gannet.ts';
import { demoApk, describeWith, root, scratchFolder } from '../support/paths.ts';
import { bootPhone, kelplineSites } from '../support/served-phone.ts';
import { openTerminal, testInTerminal } from '../support/terminal.ts';

const scratch = scratchFolder();
const env = { FENLOK_STATE: join(scratch, 'state') };
const APP = 'example.kelpline/.TimetableActivity';
const BOOKING = screenOf('booking');

describeWith('adb')('with a phone in the hand', () => {
  let phone: ServedPhone;
  let device: AndroidDevice;
  const on = (address: string, ...args: string[]) => fenlok([...args, '--device', address], scratch, env);
  const here = (...args: string[]) => on(phone.address, ...args);
  /** Goes on until it is ended, or ends. */
  const begin = (...args: string[]) => {
    const child = spawn(
      process.execPath,
      [join(root, 'dist/bin/fenlok.js'), ...args, '--device', phone.address],
      { cwd: scratch, env: { ...process.env, ...env }, stdio: ['ignore', 'pipe', 'pipe'] },
    );
    let said = '';
    const heard = new Set<() => void>();
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (text) => {
        said += text;
        for (const hear of heard) hear();
      });
    const ended = new Promise<number | null>((resolve) => child.once('close', resolve));
    const says = (words: string) =>
      Promise.race([
        ended,
        new Promise<void>((resolve) => {
          const hear = () => said.includes(words) && resolve();
          heard.add(hear);
          hear();
        }),
      ]);
    return { child, ended, says, said: () => said };
  };
  const jsonOf = async (...args: string[]) => JSON.parse((await here(...args, '--json')).out);
  const setting = (key: string) => adb(phone.address, 'shell', 'settings', 'get', 'system', key);

  beforeAll(async () => {
    phone = await bootPhone({ sites: kelplineSites() });
    device = await openDevice(phone.address, { stateFolder: env.FENLOK_STATE });
    await adb(phone.address, 'connect', phone.address);
  });
  afterAll(async () => {
    await device.close();
    await phone.close();
  });

  describe('drill --here', () => {
    // a screen of each class
    const SOME = ['booking', 'tickets', 'alerts'];
    test.each([
      ['process-death', kelplineIntent.screens.map((screen) => screen.id)],
      ['rotate', SOME],
      ['discard', SOME],
    ] as const)('%s comes to what the scripted drill comes to, on each screen', async (id, screens) => {
      const drill = allScreenDrills.find((one) => one.id === id)!;
      const subject = {
        device,
        app: { appId: 'example.kelpline', component: APP },
        build: { appId: 'example.kelpline', version: '', build: '', code: '' },
        overrides: await openOverrides(env.FENLOK_STATE, device),
        cell: { device: '', locale: 'en', theme: 'light', textScale: 1, orientation: 'portrait' } as const,
      };
      for (const screen of screens.map(screenOf)) {
        const scripted = await classOf(await runScreenDrill(drill, subject, screen));
        await subject.overrides.putBack();
        await goByThumb(phone.address, APP, [...(screen.reach ?? []), ...screen.change]);
        const { runs } = await jsonOf('drill', id, '--here', '--no-pictures');
        expect([screen.id, formatClass(runs[0].came)]).toEqual([screen.id, formatClass(scripted)]);
      }
    });

    test('says on one screenful what was lost and how that is known, and keeps both pictures beside each other', async () => {
      await goByThumb(phone.address, APP, [...BOOKING.reach!, ...BOOKING.change]);
      const { code, out } = await here('drill', 'process-death', '--here', '--pictures', 'shots');
      expect(code).toBe(1);
      expect(out.split('\n').length).toBeLessThan(24);
      expect(out).toMatch(
        /^example\.kelpline 2\.4\.0 \(240\) on Stand-in Common, API 34\n▲ process-death {2}the screen came back, /,
      );
      expect(out).toContain('“Window seat” in note_field is lost');
      expect(out).toMatch(
        /process +before \d+, started [\d.]+ s after the phone; meanwhile gone \(log: kill background\);\s+after\s+\d+/,
      );
      expect(out).toMatch(/log +BookingActivity paused stop create start resume/);
      const [file] = readdirSync(join(scratch, 'shots'));
      const { height, width } = await sharp(join(scratch, 'shots', file!)).metadata();
      expect([height, width! > 2 * 1080]).toEqual([2400, true]);
    });

    test('cold starts are timed, and where the phone tells no time nothing is claimed', async () => {
      await goByThumb(phone.address, APP, []);
      const { code, out } = await here('drill', 'cold-start', '--here', '--no-pictures');
      expect([code, out]).toEqual([
        0,
        expect.stringMatching(
          /^■ cold-start {2}\d+ ms to the first frame, the median of 5 cold starts; the slowest \d+ ms/m,
        ),
      ]);
      const quirky = await bootPhone({ quirks: ['task-brought'] });
      try {
        await quirky.os.launch('example.kelpline');
        const silent = await on(quirky.address, 'drill', 'cold-start', '--here', '--no-pictures', '--json');
        expect([silent.code, JSON.parse(silent.out).runs[0].outcome]).toEqual([4, 'untested']);
      } finally {
        await quirky.close();
      }
    });

    test('what is lost is asked for again before more is run; where a person brings it back, it goes on', async () => {
      const reach = async () => goByThumb(phone.address, APP, [...BOOKING.reach!, ...BOOKING.change]);
      await reach();
      const stopped = await here('drill', 'process-death', '--here', '--repeat', '2', '--no-pictures');
      expect(stopped).toMatchObject({ code: 4, err: expect.stringContaining('1 of 2 are not run') });
      await reach();
      // what was run is told all the same
      expect(
        (await jsonOf('drill', 'process-death', '--here', '--repeat', '2', '--no-pictures')).runs.length,
      ).toBe(1);
      await reach();
      const going = begin(
        'drill',
        'process-death',
        '--here',
        '--repeat',
        '2',
        '--no-pictures',
        '--wait',
        '90',
      );
      await going.says('Bring the screen back');
      // the note is what is lost
      await stepByThumb(phone.address, BOOKING.change.slice(0, 1));
      expect([await going.ended, going.said().match(/note_field is lost/g)?.length]).toEqual([1, 2]);
    });

    test('what cannot be done from here is told', async () => {
      await adb(phone.address, 'shell', 'input', 'keyevent', 'HOME');
      expect(await here('drill', 'rotate', '--here')).toMatchObject({
        code: 3,
        err: expect.stringContaining('com.android.launcher is in front, which has no entry in the launcher'),
      });
      await goByThumb(phone.address, APP, []);
      expect(await here('drill', 'rotate', '--here', '--app', 'a.b')).toMatchObject({
        code: 3,
        err: expect.stringContaining('example.kelpline is in front, not a.b'),
      });
      await adb(phone.address, 'shell', 'cmd', 'statusbar', 'expand-notifications');
      for (const call of [['look'], ['drill', 'rotate', '--here']])
        expect(await here(...call)).toMatchObject({
          code: 3,
          err: expect.stringContaining('a window of com.android.systemui above example.kelpline'),
        });
      await adb(phone.address, 'shell', 'cmd', 'statusbar', 'collapse');
      expect(await here('drill', '--here')).toMatchObject({
        code: 2,
        err: expect.stringContaining('name a drill, or --all'),
      });
      expect(await here('drill', 'push', '--here')).toMatchObject({ code: 2 });
      expect(await here('drill', 'rotate', '--all')).toMatchObject({
        code: 2,
        err: 'fenlok: --all: it works with --here only\n',
      });
    });
  });

  describe('look', () => {
    test('tells at once what is wrong with the screen in front, and what a screen reader meets', async () => {
      await goByThumb(phone.address, APP, []);
      const { code, out } = await here('look', '--picture', 'look.png', '--save', 'kept');
      expect(code).toBe(1);
      expect(out).toMatch(
        /^example\.kelpline \.TimetableActivity, light, en-US {2}\d+ things to look at\n {2}▲ ImageButton swap_direction has no name/,
      );
      expect(out).toMatch(/A screen reader meets {2}15 stops\n {3}1 {2}Timetable +its text · title\n/);
      expect(existsSync(join(scratch, 'look.png'))).toBe(true);
      const capture = readdirSync(join(scratch, 'kept')).find((name) => name.endsWith('.json'))!;
      expect((await fenlok(['try', 'stops', join('kept', capture)], scratch, env)).out).toContain('15 stops');
    });

    test('at two text sizes it tells what grows, and leaves the setting as it was', async () => {
      await goByThumb(phone.address, APP, []);
      const { growth } = await jsonOf('look', '--at-scale', '2');
      expect(growth.length).toBeGreaterThan(8);
      for (const { afterDp, beforeDp } of growth) expect(afterDp / beforeDp).toBeCloseTo(2, 0);
      expect(await setting('font_scale')).toBe('null\n');
    });
  });

  describe('hold', () => {
    const start = (...args: string[]) => begin('hold', ...args);

    test('keeps settings while a command runs, with its exit code, and restores and reads them', async () => {
      await goByThumb(phone.address, APP, []);
      const { code, err } = await fenlok(
        [
          'hold',
          '--text-scale',
          '1.3',
          '--theme',
          'dark',
          '--locale',
          'ar',
          '--device',
          phone.address,
          '--',
          'adb',
          '-s',
          phone.address,
          'shell',
          'settings get system font_scale; cmd uimode night; exit 7',
        ],
        scratch,
        env,
      );
      expect(code).toBe(7);
      expect(err).toMatch(/Restored, and read so: locale example\.kelpline, night, system\/font_scale\n$/);
      expect([
        await setting('font_scale'),
        await adb(phone.address, 'shell', 'cmd', 'uimode', 'night'),
      ]).toEqual(['null\n', 'Night mode: no\n']);
    });

    test('a drill beside it restores to what is held; a second hold of the same setting is refused, of another is not', async () => {
      await goByThumb(phone.address, APP, []);
      const first = start('--rotation', 'sideways', '--text-scale', '1.5');
      await first.says('until Ctrl-C');
      expect((await here('drill', 'rotate', '--here', '--no-pictures')).code).not.toBe(5);
      expect(await setting('user_rotation')).toBe('1\n');
      expect(await here('hold', '--text-scale', '2')).toMatchObject({
        code: 5,
        err: expect.stringMatching(
          new RegExp(`held by process ${first.child.pid} .*hold --rotation sideways`),
        ),
      });
      const second = start('--theme', 'dark');
      await second.says('until Ctrl-C');
      const listed = await fenlok(['hold', '--list'], scratch, env);
      expect(listed.out.match(/Stand-in Common/g)?.length).toBe(2);
      second.child.kill('SIGTERM');
      first.child.kill('SIGINT');
      expect([await second.ended, await first.ended]).toEqual([0, 0]);
      expect([await setting('user_rotation'), await setting('font_scale')]).toEqual(['0\n', 'null\n']);
      expect(phone.os.night).toBe(false);
    });

    test('however it ends, the settings are back after the next call', async () => {
      const endings = fc.sample(
        fc.record({
          signal: fc.constantFrom('SIGKILL', 'SIGKILL', 'SIGINT', 'SIGHUP', 'cable'),
          afterMs: fc.integer({ min: 0, max: 900 }),
        }),
        { numRuns: Number(process.env.HOLD_ENDINGS ?? 8), seed: 7 },
      );
      for (const { afterMs, signal } of endings) {
        const hold = start('--text-scale', '1.7', '--contrast-text', '--rotation', 'sideways');
        setTimeout(() => {
          if (signal === 'cable') phone.cutOff();
          hold.child.kill(signal === 'cable' ? 'SIGINT' : (signal as NodeJS.Signals));
        }, afterMs);
        await hold.ended;
        expect(await here('restore')).toMatchObject({ code: 0 });
        const { settings } = phone.os;
        expect([
          signal,
          afterMs,
          settings.get('system', 'font_scale'),
          settings.get('system', 'user_rotation'),
          settings.get('system', 'accelerometer_rotation'),
          settings.get('secure', 'high_text_contrast_enabled'),
        ]).toEqual([signal, afterMs, undefined, '0', '1', undefined]);
      }
      await adb(phone.address, 'connect', phone.address);
    });

    testInTerminal('in a terminal a key changes each, and at the end all are restored', async () => {
      await goByThumb(phone.address, APP, []);
      const args = ['hold', '--bar', '--theme', 'light', '--device', phone.address];
      const { ended, press, says } = openTerminal(args, scratch, env);
      await says('held: theme light');
      press('l++');
      await says('held: theme light   locale ar   text-scale 1.3');
      expect(phone.os.settings.get('system', 'font_scale')).toBe('1.3');
      press('lll0b');
      await says('held: bold');
      expect([
        phone.os.settings.get('system', 'font_scale'),
        phone.os.settings.get('secure', 'font_weight_adjustment'),
      ]).toEqual([undefined, '300']);
      press('q');
      expect([await ended, phone.os.settings.get('secure', 'font_weight_adjustment')]).toEqual([
        0,
        undefined,
      ]);
    });

    test('what a killed one left is restored by the next call, which says so', async () => {
      const killed = start('--text-scale', '1.7');
      await killed.says('until Ctrl-C');
      killed.child.kill('SIGKILL');
      await killed.ended;
      expect((await fenlok(['hold', '--list'], scratch, env)).out).toContain(
        `by process ${killed.child.pid}, which has ended,`,
      );
      await goByThumb(phone.address, APP, []);
      expect(await here('drill', 'rotate', '--here', '--no-pictures')).toMatchObject({
        code: 0,
        err: expect.stringMatching(
          /a call that was killed had left settings changed\n.*font_scale reads no value again/,
        ),
      });
      expect((await fenlok(['hold', '--list'], scratch, env)).out).toBe('Nothing is held.\n');
    });

    test('one that was killed while it took the phone keeps nobody from it', async () => {
      // the lock lies there, and nothing says whose it is
      const lock = join(env.FENLOK_STATE, 'in-use', `${fileNameOf(device)}.json.lock`);
      mkdirSync(lock, { recursive: true });
      expect(await here('restore')).toMatchObject({ code: 0 });
      expect(existsSync(lock)).toBe(false);
    });

    test('what a phone or a value cannot be is told', async () => {
      expect(await here('hold')).toMatchObject({ code: 2, err: expect.stringContaining('--text-scale') });
      expect(await here('hold', '--theme', 'purple')).toMatchObject({
        code: 2,
        err: 'fenlok: --theme purple: say dark, light\n',
      });
      expect(await here('hold', '--text-scale', '9')).toMatchObject({ code: 2 });
      expect((await here('restore')).out).toContain('no setting is left changed');
    });
  });

  test('a link is fired with the app gone, left and in front; what would make one open is proposed and held against the matcher', async () => {
    const taken = await jsonOf('try', 'link', 'https://kelpline.example/pass');
    expect(
      taken.fired.map(({ how, taker }: { how: string; taker: string }) => [how, taker.split('/')[0]]),
    ).toEqual([
      ['cold', 'example.kelpline'],
      ['warm', 'example.kelpline'],
      ['front', 'example.kelpline'],
    ]);
    const refused = await here(
      'try',
      'link',
      'https://kelpline.example/no/such/place',
      '--app',
      'example.kelpline',
    );
    expect(refused).toMatchObject({ code: 1, out: expect.stringContaining('com.android.browser') });
    const args = [
      'try',
      'link',
      'https://winter.example/offer',
      '--package',
      demoApk,
      '--propose',
      'PassActivity',
    ];
    const { decision, ofApp, site } = JSON.parse((await fenlok([...args, '--json'], scratch, env)).out);
    expect(decision).toMatchObject({ opens: 'app', components: ['example.kelpline.PassActivity'] });
    expect(ofApp).toContain('<data android:host="winter.example" />');
    expect(JSON.parse(site.text)[0].target.package_name).toBe('example.kelpline');
  });

  describe('quirks of phones in the field', () => {
    // what each comes to on every drill is in tests/device/quirks.test.ts; here, what a person reads
    const EXPECTED: Partial<Record<Quirk, { code: number; says: RegExp }>> = {
      'two-displays': { code: 0, says: /everything is as it was/ },
      'locks-itself': { code: 4, says: /its screen is off or locked.*hold --stay-on/s },
      'never-idle': { code: 4, says: /could not get idle state.*hold --animations off/s },
      'input-refused': { code: 5, says: /refuses touches and keys of the bridge/ },
      'kills-at-once': { code: 4, says: /the process ended by itself/ },
    };
    test.each(Object.entries(EXPECTED))(
      '%s: what a drill comes to, or why it proves nothing',
      async (quirk, { code, says }) => {
        const quirky = await bootPhone({ quirks: [quirk as Quirk] });
        try {
          await adb(quirky.address, 'connect', quirky.address);
          await adb(quirky.address, 'shell', 'am', 'start', '-W', '-n', APP);
          const run = await on(
            quirky.address,
            'drill',
            'home-and-return',
            '--here',
            '--pictures',
            `of-${quirk}`,
          );
          expect([quirk, run.code, `${run.out}${run.err}`]).toEqual([
            quirk,
            code,
            expect.stringMatching(says),
          ]);
          if (code === 0)
            expect(
              readFileSync(join(scratch, `of-${quirk}`, readdirSync(join(scratch, `of-${quirk}`))[0]!))
                .length,
            ).toBeGreaterThan(1000);
        } finally {
          await quirky.close();
        }
      },
    );
  });

  describe('an app that nobody wrote an intent file for', () => {
    // what a person does on an entry, each with what a class calls its loss
    const STEPS = [
      { tap: 'open_entry' },
      { type: 'It dived', into: 'note' },
      { tap: 'star' },
      { tap: 'season_autumn' },
    ];
    const LOSSES = { note: 'typed', starred: 'checked', season: 'selected' } as const;

    /** By the model alone: the page that is not kept is the screen that is lost. */
    const truth = (kept: readonly Kept[]): string => {
      if (!kept.includes('page')) return 'restarted first';
      const lost = Object.entries(LOSSES).flatMap(([value, loss]) =>
        kept.includes(value as Kept) ? [] : [loss],
      );
      return lost.length === 0 ? 'restored' : `lost ${[...new Set(lost)].sort().join(' ')}`;
    };
    const classIn = ({ came }: { came: { kind: string; at?: string; lost?: { what: string }[] } }): string =>
      came.kind === 'partly-restored'
        ? `lost ${[...new Set(came.lost!.map(({ what }) => what).filter((what) => what !== 'focused'))].sort().join(' ')}`
        : [came.kind, came.at].filter(Boolean).join(' ');

    let apk: Uint8Array;
    const onGannet = async (
      saves: readonly Kept[],
      retains: readonly Kept[],
      work: (address: string) => Promise<void>,
    ) => {
      const own = await bootPhone({ apps: [gannet(saves, retains)] });
      try {
        expect(typeof (await own.os.packages.install(apk, { replace: true }))).toBe('object');
        await adb(own.address, 'connect', own.address);
        await goByThumb(own.address, `${GANNET}/.MainActivity`, STEPS);
        await work(own.address);
      } finally {
        await own.close();
      }
    };
    beforeAll(() => {
      apk = packGannet(join(scratch, 'gannet'));
    });

    const all = [...KEPT];
    const without = (...lost: Kept[]) => all.filter((one) => !lost.includes(one));
    test.each<[string, Kept[], Kept[]]>([
      ['everything', all, []],
      ['all but the note', without('note'), []],
      ['all but the star', without('starred'), ['starred']],
      ['all but the season', without('season'), []],
      ['all but note and star', without('note', 'starred'), ['note']],
      ['all but the page', without('page'), ['page']],
      ['nothing', [], all],
    ])('that keeps %s: classes follow from its model', async (_, saves, retains) => {
      await onGannet(saves, retains, async (address) => {
        const runs = async (id: string) =>
          JSON.parse((await on(address, 'drill', id, '--here', '--no-pictures', '--json')).out).runs[0];
        const rotated = classIn(await runs('rotate'));
        expect(rotated).toBe(truth([...saves, ...retains]));
        await goByThumb(address, `${GANNET}/.MainActivity`, STEPS);
        expect(classIn(await runs('process-death'))).toBe(truth(saves));
      });
    });

    test('is looked at: what was planted is found, and nothing else; stops are those of its model', async () => {
      await onGannet(all, [], async (address) => {
        const { findings, stops } = JSON.parse((await on(address, 'look', '--json')).out);
        expect(
          findings
            .map(
              ({ check, element }: { check: string; element: string }) =>
                `${check} ${element.split(' > ')[0]}`,
            )
            .sort(),
        ).toEqual(['small-target remove', 'text-contrast root', 'unnamed-control remove']);
        expect(stops.map(({ name }: { name: string }) => name)).toEqual([
          'Gannet, 14 May',
          'Seen from the north pier, in fog',
          'Spring',
          'Autumn',
          'Note',
          'It dived',
          'Remember this one',
          '',
          'Kept on this phone only',
        ]);
      });
    });
  });
});
