/** The stand-in phone's system, asked through its own shell: what the platform documents, and no more. */
import { readFile } from 'node:fs/promises';
import { nodePorts } from '../../src/node/ports.ts';
import { column, type PhoneApp, text } from '../../src/standins/phone/app-model.ts';
import { kelpline } from '../../src/standins/phone/apps/kelpline/kelpline.ts';
import { PhoneOs } from '../../src/standins/phone/os/phone-os.ts';
import { type PhoneShape, shapes } from '../../src/standins/phone/shapes.ts';
import { runLine } from '../../src/standins/phone/shell/run-line.ts';
import { demoApk } from '../support/paths.ts';
import { kelplineSites } from '../support/served-phone.ts';

interface Said {
  code: number;
  out: string;
  err: string;
}

const quick = { ...shapes.common, coldStartMs: 1, stopDelayMs: 1, animationMs: 0 };
const open: PhoneOs[] = [];
afterEach(() => {
  for (const os of open.splice(0)) os.close();
});

async function boot(app: PhoneApp = kelpline, shape: PhoneShape = quick) {
  const os = new PhoneOs(shape, nodePorts, [app], kelplineSites());
  open.push(os);
  const installed = await os.packages.install(await readFile(demoApk), { replace: true });
  if (typeof installed === 'string') throw new Error(installed);
  const sh = async (line: string, signal = new AbortController().signal): Promise<Said> => {
    const said = { out: '', err: '' };
    const add = (stream: 'out' | 'err') => (bytes: Uint8Array) => {
      said[stream] += Buffer.from(bytes).toString();
    };
    const input = (async function* () {})();
    const code = await runLine(os, line, { input, out: add('out'), err: add('err'), signal });
    return { code, ...said };
  };
  /** Until the log tells so often of it. */
  const told = (pattern: RegExp, times = 1) =>
    new Promise<void>((resolve) => {
      const count = () =>
        os.log
          .lines(new Set(['events', 'crash']))
          .filter((line) => pattern.test(`${line.tag}: ${line.message}`)).length;
      if (count() >= times) resolve();
      else {
        const stop = os.log.follow(() => {
          if (count() < times) return;
          stop();
          resolve();
        });
      }
    });
  /** `create Timetable`, in the order of the log since the last call. */
  let from = 0;
  const calls = () => {
    const lines = os.log.lines(new Set(['events']));
    const fresh = lines.slice(from);
    from = lines.length;
    return fresh.flatMap(({ message, tag }) => {
      const [, call] = /^wm_on_(\w+)_called$/.exec(tag) ?? [];
      const [, name] = /example\.kelpline\.(\w+)Activity/.exec(message) ?? [];
      return call && name ? [`${call} ${name}`] : [];
    });
  };
  return { os, sh, told, calls };
}

const LAUNCH =
  'am start -W -a android.intent.action.MAIN -c android.intent.category.LAUNCHER example.kelpline';
const HOME = 'input keyevent HOME';
const centreOf = (xml: string, id: string) => {
  const [, left, top, right, bottom] = new RegExp(
    `resource-id="example.kelpline:id/${id}"[^>]*bounds="\\[(\\d+),(\\d+)\\]\\[(\\d+),(\\d+)\\]"`,
  )
    .exec(xml)!
    .map(Number);
  return `${Math.round((left! + right!) / 2)} ${Math.round((top! + bottom!) / 2)}`;
};

describe('activities are called as the platform documents it', () => {
  const phone = async () => {
    const all = await boot();
    const tap = async (id: string) => {
      const { out } = await all.sh('uiautomator dump /dev/tty');
      await all.sh(`input tap ${centreOf(out, id)}`);
    };
    await all.sh(LAUNCH);
    return { ...all, tap };
  };

  test('launched, left, come back to', async () => {
    const { calls, sh, told } = await phone();
    expect(calls()).toEqual(['create Timetable', 'start Timetable', 'resume Timetable']);
    await sh(HOME);
    await told(/wm_on_stop_called.*Timetable/);
    expect(calls()).toEqual(['paused Timetable', 'stop Timetable']);
    expect((await sh(LAUNCH)).out).toContain('LaunchState: HOT');
    expect(calls()).toEqual(['restart Timetable', 'start Timetable', 'resume Timetable']);
    expect((await sh(LAUNCH)).out).toMatch(
      /Warning: Activity not started.*currently running top-most instance/,
    );
    expect(calls()).toEqual([]);
  });

  test('one opens another, and back ends it', async () => {
    const { calls, sh, tap, told } = await phone();
    calls();
    await tap('nav_settings');
    await told(/wm_on_stop_called.*Timetable/);
    expect(calls()).toEqual([
      'paused Timetable',
      'create Settings',
      'start Settings',
      'resume Settings',
      'stop Timetable',
    ]);
    await sh('input keyevent 4');
    await told(/wm_on_destroy_called.*Settings/);
    expect(calls()).toEqual([
      'paused Settings',
      'restart Timetable',
      'start Timetable',
      'resume Timetable',
      'stop Settings',
      'destroy Settings',
    ]);
  });

  test.each([
    ['turned', 'settings put system accelerometer_rotation 0; settings put system user_rotation 1'],
    ['at another text size', 'settings put system font_scale 1.5'],
    ['at another density', 'wm density 560'],
    ['at another size', 'wm size 1080x1600'],
    ['at night', 'cmd uimode night yes'],
    ['in another language', 'cmd locale set-app-locales example.kelpline --locales ar'],
    ['with bold text', 'settings put secure font_weight_adjustment 300'],
  ])('%s the one in front is made again', async (_, line) => {
    const { calls, sh } = await phone();
    calls();
    await sh(line);
    expect(calls()).toEqual([
      'paused Timetable',
      'stop Timetable',
      'destroy Timetable',
      'create Timetable',
      'start Timetable',
      'resume Timetable',
    ]);
  });

  test('the first screen: from Android 12 on back only leaves it, before it ends it', async () => {
    for (const [rootBack, last] of [
      ['to-background', 'stop Timetable'],
      ['finishes', 'destroy Timetable'],
    ] as const) {
      const { calls, sh, told } = await boot(kelpline, { ...quick, rootBack });
      await sh(LAUNCH);
      await sh('input keyevent BACK');
      await told(new RegExp(`wm_on_${last.split(' ')[0]}_called.*Timetable`));
      expect(calls().at(-1)).toBe(last);
    }
  });
});

/** An app with one value of each sort: written into the saved state, kept over a change of configuration, or nowhere. */
const keeper = (seen: { values?: Record<string, unknown> }): PhoneApp => ({
  appId: 'example.kelpline',
  screens: {
    one: {
      activity: 'TimetableActivity',
      first: { saved: 'first', retained: 'first', plain: 'first' },
      saves: ['saved'],
      retains: ['retained'],
      view: (_, state) => {
        seen.values = { ...state };
        return column(
          { id: 'root' },
          text(String(state.saved), { id: 'change', clickable: true, sizeSp: 20 }),
        );
      },
      taps: { change: (host) => host.set({ saved: 'new', retained: 'new', plain: 'new' }) },
    },
  },
});

test.each<
  [
    string,
    (
      sh: (line: string) => Promise<Said>,
      told: (pattern: RegExp, times?: number) => Promise<void>,
    ) => Promise<void>,
    string,
  ]
>([
  [
    'left and come back to',
    async (sh, told) => {
      await sh(HOME);
      await told(/wm_on_stop/);
      await sh(LAUNCH);
    },
    'new new new',
  ],
  [
    'turned',
    async (sh) => {
      await sh('settings put system accelerometer_rotation 0; settings put system user_rotation 1');
    },
    'new new first',
  ],
  [
    'discarded',
    async (sh, told) => {
      await sh('settings put global always_finish_activities 1');
      await sh(HOME);
      await told(/wm_on_destroy_called.*kelpline/);
      await sh(LAUNCH);
    },
    'new first first',
  ],
  [
    'killed in the background',
    async (sh, told) => {
      await sh(HOME);
      await told(/wm_on_stop_called.*kelpline/);
      await sh('am kill example.kelpline');
      await sh(LAUNCH);
    },
    'new first first',
  ],
  [
    'killed in front, which spares it',
    async (sh) => {
      await sh('am kill example.kelpline');
      await sh(LAUNCH);
    },
    'new new new',
  ],
  [
    'stopped by force',
    async (sh) => {
      await sh('am force-stop example.kelpline');
      await sh(LAUNCH);
    },
    'first first first',
  ],
  [
    'its data cleared',
    async (sh) => {
      await sh('pm clear example.kelpline');
      await sh(LAUNCH);
    },
    'first first first',
  ],
  [
    'installed again',
    async (sh) => {
      await sh('am force-stop example.kelpline');
      await sh(LAUNCH);
    },
    'first first first',
  ],
])('%s: what is saved, retained and plain', async (_, procedure, expected) => {
  const seen: { values?: Record<string, unknown> } = {};
  const { sh, told } = await boot(keeper(seen));
  await sh(LAUNCH);
  await sh(`input tap ${centreOf((await sh('uiautomator dump /dev/tty')).out, 'change')}`);
  await procedure(sh, told);
  await sh('uiautomator dump /dev/tty');
  const { plain, retained, saved } = seen.values!;
  expect([saved, retained, plain].join(' ')).toBe(expected);
});

test('where the discard setting is read at boot alone, writing it does nothing and its own page does', async () => {
  const { calls, os, sh, told } = await boot(kelpline, { ...quick, discardSetting: 'read-at-boot' });
  await sh(`settings put global always_finish_activities 1; ${LAUNCH}; ${HOME}`);
  await told(/wm_on_stop_called.*Timetable/);
  expect(calls().filter((call) => call.startsWith('destroy'))).toEqual([]);
  await sh('am start -W -a android.settings.APPLICATION_DEVELOPMENT_SETTINGS');
  const { out } = await sh('uiautomator dump /dev/tty');
  const [, left, top] =
    /resource-id="com.android.settings:id\/discard_switch"[^>]*bounds="\[(\d+),(\d+)\]/.exec(out)!;
  await sh(`input tap ${Number(left) + 20} ${Number(top) + 20}`);
  expect(os.settings.get('global', 'always_finish_activities')).toBe('1');
  await sh(`${LAUNCH}; ${HOME}`);
  await told(/wm_on_destroy_called.*Timetable/);
});

test('a started service brings its process back after the background kill', async () => {
  const { os, sh, told } = await boot();
  await sh(LAUNCH);
  await sh(`input tap ${centreOf((await sh('uiautomator dump /dev/tty')).out, 'sailing_row')}`);
  expect((await sh('dumpsys activity services example.kelpline')).out).toContain(
    'example.kelpline/.TideSyncService',
  );
  const first = os.processes.find('example.kelpline')!.pid;
  await sh(HOME);
  await told(/wm_on_stop_called.*Sailing/);
  await sh('am kill example.kelpline');
  expect((await sh('pidof example.kelpline')).code).toBe(1);
  await told(/am_proc_start.*example.kelpline,service/);
  expect(os.processes.find('example.kelpline')!.pid).not.toBe(first);
  await sh('am force-stop example.kelpline');
  expect((await sh('dumpsys activity services example.kelpline')).out).toContain('(nothing)');
});

test('code that throws ends the process, with the lines that people know; the second time the user is told', async () => {
  const seen: { values?: Record<string, unknown> } = {};
  const model = keeper(seen);
  const throws: PhoneApp = {
    ...model,
    screens: {
      one: {
        ...model.screens.one!,
        taps: {
          change: () => {
            throw new TypeError('no boat');
          },
        },
      },
    },
  };
  const { os, sh } = await boot(throws);
  for (let crash = 1; crash <= 2; crash++) {
    await sh(LAUNCH);
    await sh(`input tap ${centreOf((await sh('uiautomator dump /dev/tty')).out, 'change')}`);
    expect(os.processes.find('example.kelpline')).toBeUndefined();
  }
  const { out } = await sh('logcat -d -b crash -v brief');
  expect(out).toMatch(
    /^E\/AndroidRuntime\( *\d+\): FATAL EXCEPTION: main\n.*Process: example.kelpline, PID: \d+\n.*java.lang.NullPointerException: no boat\n.*\tat example.kelpline.TimetableActivity.onClick\(TimetableActivity.java\)/m,
  );
  expect((await sh('logcat -d -b events')).out).toMatch(
    /am_crash: \[\d+,0,example.kelpline,0,java.lang.NullPointerException,no boat/,
  );
  const shown = (await sh('uiautomator dump /dev/tty')).out;
  expect(shown).toContain('keeps stopping');
  await sh(`input tap ${centreOf(shown.replaceAll('android:id/', 'example.kelpline:id/'), 'aerr_close')}`);
  expect((await sh('dumpsys window')).out).toContain('mCurrentFocus=Window');
});

test('an app that hangs is told of, and is closed by the user', async () => {
  const model = keeper({});
  const hangs: PhoneApp = {
    ...model,
    screens: { one: { ...model.screens.one!, taps: { change: (host) => host.hang() } } },
  };
  const { os, sh } = await boot(hangs);
  await sh(LAUNCH);
  await sh(`input tap ${centreOf((await sh('uiautomator dump /dev/tty')).out, 'change')}`);
  expect((await sh('logcat -d -b events')).out).toMatch(
    /am_anr +: \[0,\d+,example.kelpline,0,Input dispatching timed out\]/,
  );
  const shown = (await sh('uiautomator dump /dev/tty')).out;
  expect(shown).toMatch(/package="android".*isn't responding/s);
  await sh(`input tap ${centreOf(shown.replaceAll('android:id/', 'example.kelpline:id/'), 'aerr_close')}`);
  expect(os.processes.find('example.kelpline')).toBeUndefined();
});

describe('fingers and keys', () => {
  test('what is typed reaches the field that was tapped, and the keys erase it', async () => {
    const { sh } = await boot();
    await sh(LAUNCH);
    const dump = async () => (await sh('uiautomator dump /dev/tty')).out;
    for (const id of ['sailing_row', 'book', 'note_field'])
      await sh(`input tap ${centreOf(await dump(), id)}`);
    await sh("input text 'Two%skayaks!'");
    expect(await dump()).toMatch(/text="Two kayaks!"[^>]*note_field[^>]*focused="true"/);
    await sh('input keyevent 67 DEL KEYCODE_DEL');
    expect(await dump()).toContain('text="Two kaya"');
    expect(await sh('input text Åse')).toMatchObject({
      code: 255,
      err: expect.stringContaining('null object reference'),
    });
  });

  test('a swipe scrolls as far as there is something, and no further', async () => {
    const { sh } = await boot(kelpline, { ...shapes.small, coldStartMs: 1, stopDelayMs: 1, animationMs: 0 });
    await sh(LAUNCH);
    const topOf = async () =>
      Number(
        /resource-id="example.kelpline:id\/swap_direction"[^>]*bounds="\[\d+,(\d+)/.exec(
          (await sh('uiautomator dump /dev/tty')).out,
        )?.[1] ?? -1,
      );
    const first = await topOf();
    await sh('input swipe 240 500 240 470 100');
    expect(await topOf()).toBe(first - 30);
    await sh('input swipe 240 200 240 700 100');
    expect(await topOf()).toBe(first);
  });

  test('locked, covered, over the recent apps', async () => {
    const { os, sh } = await boot();
    await sh(LAUNCH);
    await sh('cmd statusbar expand-notifications');
    expect((await sh('uiautomator dump /dev/tty')).out).toContain('package="com.android.systemui"');
    await sh('cmd statusbar collapse; input keyevent SLEEP');
    expect((await sh('dumpsys power')).out).toContain('mWakefulness=Asleep');
    expect((await sh('uiautomator dump /dev/tty')).err).toContain('null root node');
    expect((await sh('screencap -p')).code).toBe(1);
    await sh('input keyevent 224');
    expect((await sh('uiautomator dump /dev/tty')).out).toContain('Swipe up to unlock');
    await sh('input swipe 500 2000 500 800');
    expect(os.isLocked).toBe(false);
    await sh('am start -W -a android.settings.SETTINGS; input keyevent APP_SWITCH');
    expect((await sh('uiautomator dump /dev/tty')).out).toMatch(/text="Settings".*text="Kelpline"/s);
    await sh('input keyevent APP_SWITCH');
    expect((await sh('dumpsys activity activities')).out).toMatch(
      /topResumedActivity=ActivityRecord\{\w+ u0 example.kelpline\/.TimetableActivity/,
    );
  });

  test('no dump while something moves, unless animations are off', async () => {
    const { sh } = await boot(kelpline, { ...quick, animationMs: 60_000 });
    await sh(LAUNCH);
    expect((await sh('uiautomator dump /dev/tty')).err).toBe('ERROR: could not get idle state.\n');
    await sh('settings put global window_animation_scale 0');
    expect((await sh('uiautomator dump /dev/tty')).out).toContain('screen_root');
  });
});

describe('the shell answers as the platform does', () => {
  test.each<[string, Partial<Said>]>([
    [
      'am start -W -n example.kelpline/.BookingActivity',
      { code: 255, err: expect.stringContaining('not exported') },
    ],
    ['am start -n example.kelpline/.NoActivity', { code: 1, err: expect.stringContaining('does not exist') }],
    [
      'am start -W -a android.intent.action.VIEW -d kelpline://timetable',
      { code: 0, out: expect.stringContaining('Activity: example.kelpline/.TimetableActivity') },
    ],
    [
      'am start -a android.intent.action.VIEW -d ftp://nobody.example',
      { code: 1, err: expect.stringContaining('unable to resolve') },
    ],
    ['am fly', { code: 255, err: expect.stringContaining('Unknown command: fly') }],
    ['pm list packages -3', { out: 'package:example.kelpline\n' }],
    ['pm list packages kelp', { out: 'package:example.kelpline\n' }],
    [
      'pm path example.kelpline',
      { out: expect.stringMatching(/^package:\/data\/app\/~~\w+==\/example.kelpline-\w+==\/base.apk\n$/) },
    ],
    ['pm path nobody', { code: 1, out: '' }],
    [
      'pm grant example.kelpline android.permission.POST_NOTIFICATIONS && dumpsys package example.kelpline | grep granted=true',
      { out: '      android.permission.POST_NOTIFICATIONS: granted=true\n' },
    ],
    [
      'pm grant example.kelpline android.permission.CAMERA',
      { code: 255, err: expect.stringContaining('has not requested permission') },
    ],
    ['pm get-app-links example.kelpline', { out: expect.stringMatching(/kelpline.example: verified\n/) }],
    ['pm uninstall nobody', { code: 1, out: 'Failure [DELETE_FAILED_INTERNAL_ERROR]\n' }],
    [
      'dumpsys battery set level 3; dumpsys battery | grep -E "level|UPDATES"',
      { out: "  (UPDATES STOPPED -- use 'reset' to restart)\n  level: 3\n" },
    ],
    [
      'dumpsys battery set level 3; dumpsys battery reset; dumpsys battery | grep -c UPDATES',
      { code: 1, out: '0\n' },
    ],
    ['dumpsys nothing', { err: "Can't find service: nothing\n" }],
    ['svc wifi disable; settings get global wifi_on', { out: '0\n' }],
    ['cmd connectivity airplane-mode enable; cmd connectivity airplane-mode', { out: 'enabled\n' }],
    ['cmd location set-location-enabled false; settings get secure location_mode', { out: '0\n' }],
    ['cmd device_state print-states', { out: expect.stringContaining("name='DEFAULT'") }],
    ['cmd device_state state 2', { code: 255 }],
    ['cmd nonesuch', { code: 20, err: "cmd: Can't find service: nonesuch\n" }],
    ['cmd uimode night perhaps', { code: 255 }],
    ['wm density 7', { code: 255, err: expect.stringContaining('>= 72') }],
    ['wm size 100x200; wm size', { out: 'Physical size: 1080x2400\nOverride size: 100x200\n' }],
    ['getprop ro.build.version.sdk', { out: '34\n' }],
    ['setprop persist.sys.locale de-DE; getprop persist.sys.locale', { out: 'de-DE\n' }],
    ['setprop ro.product.model X', { code: 1 }],
    ['settings put secret x 1', { code: 255 }],
    ['settings list system | head -1', { out: 'accelerometer_rotation=1\n' }],
    ['ps -o PID,NAME -A | tail -n 1', { out: expect.stringMatching(/^\s*\d+ com.android.launcher\s*\n$/) }],
    ['ps -o NOSUCH', { code: 1, err: 'ps: bad -o NOSUCH\n' }],
    ['echo a b > /sdcard/x; echo c >> /sdcard/x; wc -l < /sdcard/x; cat /sdcard/x', { out: '2\na b\nc\n' }],
    ['ls /sdcard/nowhere', { code: 1 }],
    ['cat /proc/1/cmdline', { out: 'init\0' }],
    ['rm /sdcard/none 2>/dev/null; echo $?', { out: '1\n' }],
    ['nosuch 2>&1 | grep -c found', { out: '1\n' }],
    ['true && echo yes || echo no; false && echo yes || echo no', { out: 'yes\nno\n' }],
    ["echo 'it'\\''s' \"a $HOME b\" # done", { out: "it's a / b\n" }],
    ['logcat -d -b kernel', { code: 1, err: "logcat: Unknown buffer 'kernel'\n" }],
    ['which am nosuch', { code: 1, out: '/system/bin/am\n' }],
    ['| grep x', { code: 1, err: expect.stringContaining('syntax error') }],
  ])('%s', async (line, expected) => {
    const { sh } = await boot();
    expect(await sh(line)).toMatchObject(expected);
  });

  test('logcat: formats, filters, a moment to begin at, and following until the other side hangs up', async () => {
    const { os, sh } = await boot();
    os.log.write('main', 77, 'I', 'Boat', 'one');
    os.log.write('main', 78, 'E', 'Boat', 'two');
    os.log.write('main', 77, 'D', 'Crew', 'three');
    const body = async (line: string) =>
      (await sh(line)).out
        .split('\n')
        .filter((one) => one && !one.startsWith('---'))
        .map((one) => one.trim());
    expect(await body('logcat -d -v raw')).toEqual(['one', 'two', 'three']);
    expect(await body('logcat -d -v tag Boat:E *:S')).toEqual(['E/Boat    : two']);
    expect(await body('logcat -d -v process --pid=77 -t 1')).toEqual(['D(77) three  (Crew)']);
    expect((await body('logcat -d'))[0]).toMatch(/^\d\d-\d\d \d\d:\d\d:\d\d\.\d{3} +77 +77 I Boat +: one$/);
    const [epoch] = /\d+\.\d+/.exec((await body('logcat -d -v epoch -t 1'))[0]!)!;
    expect(await body(`logcat -d -v raw -T ${Number(epoch) + 60}`)).toEqual([]);
    const stop = new AbortController();
    const follow = os.log.follow.bind(os.log);
    const isFollowed = new Promise<void>((resolve) => {
      os.log.follow = (listen) => {
        resolve();
        return follow(listen);
      };
    });
    const following = sh('logcat -v raw -T 1', stop.signal);
    await isFollowed;
    os.log.write('main', 77, 'I', 'Boat', 'four');
    stop.abort();
    expect((await following).out).toMatch(/three\nfour\n$/);
    await sh('logcat -c');
    expect(await body('logcat -d -v raw')).toEqual([]);
  });

  test('per-app languages need Android 13, and app links Android 12', async () => {
    const { sh } = await boot(kelpline, { ...shapes.small, coldStartMs: 1 });
    expect((await sh('cmd locale get-app-locales example.kelpline')).code).toBe(20);
    expect((await sh('pm get-app-links example.kelpline')).code).toBe(255);
    expect((await sh('dumpsys activity activities')).out).toContain('mResumedActivity');
  });
});
