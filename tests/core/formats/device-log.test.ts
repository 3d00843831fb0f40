/** What logs and crash reports tell of an app: in every format that they come in, with other apps' lines between. */
import fc from 'fast-check';
import { LogReader } from '../../../src/core/formats/android/log/read-log.ts';
import { readCrashReport } from '../../../src/core/formats/apple/crash-report.ts';
import type { DeviceLog } from '../../../src/core/model/trouble.ts';

const APP = 'example.kelpline';

interface Line {
  at: string;
  pid: number;
  tid?: number;
  level?: string;
  tag: string;
  message: string;
}

const FORMATS: Record<string, (line: Line) => string> = {
  threadtime: ({ at, level = 'E', message, pid, tag, tid = pid }) =>
    `11-30 ${at} ${String(pid).padStart(5)} ${String(tid).padStart(5)} ${level} ${tag.padEnd(8)}: ${message}`,
  'threadtime with a year and a zone': ({ at, level = 'E', message, pid, tag, tid = pid }) =>
    `2026-11-30 ${at} +0100 ${String(pid).padStart(5)} ${String(tid).padStart(5)} ${level} ${tag.padEnd(8)}: ${message}`,
  'threadtime with users': ({ at, level = 'E', message, pid, tag, tid = pid }) =>
    `11-30 ${at} 10123 ${String(pid).padStart(5)} ${String(tid).padStart(5)} ${level} ${tag.padEnd(8)}: ${message}`,
  epoch: ({ at, level = 'E', message, pid, tag, tid = pid }) =>
    `         17642${at.slice(6, 8)}000${at.slice(8)} ${String(pid).padStart(5)} ${String(tid).padStart(5)} ${level} ${tag.padEnd(8)}: ${message}`,
  time: ({ at, level = 'E', message, pid, tag }) =>
    `11-30 ${at} ${level}/${tag.padEnd(8)}(${String(pid).padStart(5)}): ${message}`,
  brief: ({ level = 'E', message, pid, tag }) =>
    `${level}/${tag.padEnd(8)}(${String(pid).padStart(5)}): ${message}`,
  long: ({ at, level = 'E', message, pid, tag, tid = pid }) =>
    `[ 11-30 ${at} ${String(pid).padStart(5)}:${String(tid).padStart(5)} ${level}/${tag.padEnd(8)} ]\n${message}\n`,
};

const written = (lines: readonly Line[], format = 'threadtime', end = '\n'): string =>
  lines.map(FORMATS[format]!).join('\n').replaceAll('\n', end);

function read(text: string): DeviceLog {
  const reader = new LogReader(APP);
  for (const line of text.split('\n')) reader.push(line);
  return reader.finish();
}

/** What matters of each trouble, in a line. */
const told = (log: DeviceLog): string[] =>
  log.troubles.map(({ count, frames, sort, thrown }) => {
    const cause = thrown.at(-1);
    const [first] = cause?.frames ?? [];
    return [
      `${count}× ${sort}`,
      cause?.exception || undefined,
      first && `${first.className}.${first.method}`,
      frames || undefined,
    ]
      .filter(Boolean)
      .join(' ');
  });

const block = (pid: number, tag: string, messages: readonly string[], at = '12:00:01.100'): Line[] =>
  messages.map((message) => ({ at, pid, tag, message }));
const started = (pid: number, name: string): Line => ({
  at: '12:00:00.000',
  pid: 900,
  level: 'I',
  tag: 'ActivityManager',
  message: `Start proc ${pid}:${name}/u0a123 for top-activity {${name}/${name}.MainActivity}`,
});
const crash = (pid: number, name: string, where: string): Line[] =>
  block(pid, 'AndroidRuntime', [
    'FATAL EXCEPTION: main',
    `Process: ${name}, PID: ${pid}`,
    'java.lang.RuntimeException: Unable to start activity: with: colons',
    '\tat android.app.ActivityThread.performLaunchActivity(ActivityThread.java:3449)',
    'Caused by: java.lang.NullPointerException: seats',
    `\tat ${where}(SourceFile:7)`,
    '\t... 11 more',
  ]);
const policy = (pid: number, where: string, name = 'DiskReadViolation'): Line[] =>
  block(pid, 'StrictMode', [
    `StrictMode policy violation; ~duration=38 ms: android.os.strictmode.${name}`,
    '\tat android.os.StrictMode$AndroidBlockGuardPolicy.onReadFromDisk(StrictMode.java:1659)',
    `\tat ${where}(SourceFile:14)`,
  ]);
const leak = (pid: number, what: string): Line[] =>
  block(pid, 'ActivityThread', [
    `Activity ${APP}.MainActivity has leaked ${what} ${APP}.Tides@4f2 that was originally registered here. Are you missing a call to unregisterReceiver()?`,
    `\tat ${APP}.MainActivity.onCreate(SourceFile:3)`,
  ]);

const mine = [
  started(4012, APP),
  ...policy(4012, `${APP}.Store.read`),
  ...leak(4012, 'IntentReceiver'),
  ...block(4012, 'Choreographer', [
    'Skipped 42 frames!  The application may be doing too much work on its main thread.',
  ]),
  ...crash(4012, APP, `${APP}.Gangway.seats`),
];
const OWN = [
  `1× thread-policy android.os.strictmode.DiskReadViolation android.os.StrictMode$AndroidBlockGuardPolicy.onReadFromDisk`,
  `1× leak ${APP}.MainActivity.onCreate`,
  '1× skipped-frames 42',
  `1× crash java.lang.NullPointerException ${APP}.Gangway.seats`,
];
const others = [
  started(5100, 'example.other'),
  ...policy(5100, 'example.other.Store.read'),
  ...block(5100, 'Choreographer', [
    'Skipped 90 frames!  The application may be doing too much work on its main thread.',
  ]),
  ...crash(5100, 'example.other', 'example.kelplines.Gangway.seats'),
  // looks like one, and is what an app wrote about another
  { at: '12:00:02.000', pid: 5100, tag: 'Notes', message: `FATAL EXCEPTION: main in ${APP}` },
  { at: '12:00:02.000', pid: 5100, tag: 'Notes', message: `Process: ${APP}, PID: 4012` },
];

test.each(Object.keys(FORMATS))('the same is told in every format: %s', (format) => {
  expect(told(read(written(mine, format)))).toEqual(OWN);
  expect(told(read(written(mine, format, '\r\n')))).toEqual(OWN);
});

test('lines of other processes, in any mixture, change nothing', () => {
  fc.assert(
    fc.property(fc.array(fc.boolean(), { minLength: 60, maxLength: 60 }), (turns) => {
      const [ours, theirs] = [[...mine], [...others]];
      const mixed: Line[] = [];
      for (const isOurs of turns) mixed.push(...(isOurs ? ours : theirs).splice(0, 1));
      expect(told(read(written([...mixed, ...ours, ...theirs])))).toEqual(OWN);
    }),
  );
});

test.each<[what: string, lines: Line[], expected: string[]]>([
  ['of another app nothing is told', others, []],
  [
    'a number that is given again is another process',
    [started(7, APP), started(7, 'example.other'), ...policy(7, 'a.b.c')],
    [],
  ],
  [
    'a log that begins after the process: its own classes tell',
    policy(7, `${APP}.Store.read`),
    [
      '1× thread-policy android.os.strictmode.DiskReadViolation android.os.StrictMode$AndroidBlockGuardPolicy.onReadFromDisk',
    ],
  ],
  ['and where they do not, nothing is told', policy(7, 'a.b.c'), []],
  [
    'or what the log says of it later',
    [
      ...block(7, 'Choreographer', [
        'Skipped 31 frames!  The application may be doing too much work on its main thread.',
      ]),
      { at: '12:00:03.000', pid: 900, tag: 'am_proc_died', message: `[0,7,${APP},900,19]` },
    ],
    ['1× skipped-frames 31'],
  ],
  [
    'buffers that stand one after the other, as in a bug report',
    [
      ...block(7, 'Choreographer', [
        'Skipped 31 frames!  The application may be doing too much work on its main thread.',
      ]),
      { at: '12:00:00.000', pid: 900, tag: 'am_proc_start', message: `[0,7,10123,${APP},top,{a}]` },
    ],
    ['1× skipped-frames 31'],
  ],
  [
    'a process of the app with a name of its own',
    crash(8, `${APP}:sync`, `${APP}.Sync.run`),
    [`1× crash java.lang.NullPointerException ${APP}.Sync.run`],
  ],
  [
    'again at another moment: one, counted',
    [
      started(4012, APP),
      ...policy(4012, `${APP}.A.b`),
      ...policy(4012, `${APP}.A.b`).map((line) => ({ ...line, at: '12:00:09.000' })),
    ],
    [
      '2× thread-policy android.os.strictmode.DiskReadViolation android.os.StrictMode$AndroidBlockGuardPolicy.onReadFromDisk',
    ],
  ],
  [
    'two buffers that tell the same moment: once',
    [...crash(9, APP, `${APP}.A.b`), ...crash(9, APP, `${APP}.A.b`)],
    [`1× crash java.lang.NullPointerException ${APP}.A.b`],
  ],
  [
    'a native crash',
    [
      ...block(9, 'DEBUG', [
        `pid: 4012, tid: 4030, name: kelpline-draw  >>> ${APP} <<<`,
        'signal 11 (SIGSEGV), code 1 (SEGV_MAPERR), fault addr 0x0000000000000010',
        'backtrace:',
        '      #00 pc 000000000001c2a4  /data/app/~~x==/lib/arm64/libtides.so (draw_tides+20) (BuildId: 0badf00d0badf00d)',
      ]),
    ],
    ['1× native-crash SIGSEGV libtides.so.draw_tides'],
  ],
])('%s', (_, lines, expected) => {
  expect(told(read(written(lines)))).toEqual(expected);
});

test('screens that were made and that ended: those of the app', () => {
  const event = (pid: number, tag: string, name: string): Line => ({
    at: '12:00:01.000',
    pid,
    tag,
    message: `[1,${name},x]`,
  });
  const log = read(
    written([
      started(4012, APP),
      started(5100, 'example.other'),
      event(4012, 'wm_on_create_called', `${APP}.MainActivity`),
      event(4012, 'am_on_destroy_called', 'com.library.AdActivity'),
      event(5100, 'wm_on_create_called', 'example.other.MainActivity'),
    ]),
  );
  expect([log.made, log.ended]).toEqual([[`${APP}.MainActivity`], ['com.library.AdActivity']]);
});

test('an app that does not answer: what it was doing, and who held what it waited for', () => {
  const anr = (pid: number): Line[] =>
    block(900, 'ActivityManager', [
      `ANR in ${APP} (${APP}/.MainActivity)`,
      `PID: ${pid}`,
      'Reason: Input dispatching timed out (waited 5001ms)',
    ]);
  const traces = (name: string, pid: number) => `----- pid ${pid} at 2026-11-30 12:00:00 -----
Cmd line: ${name}
"main" prio=5 tid=1 Blocked
  | group="main" sCount=1
  at ${APP}.Store.read(SourceFile:20)
  - waiting to lock <0x0a1b2c> (a java.lang.Object) held by thread 12
"Sync" daemon prio=5 tid=12 Native
  at ${APP}.Sync.upload(SourceFile:9)
----- end ${pid} -----
`;
  const log = read(`${traces('example.other', 7)}${traces(APP, 4012)}${written(anr(4012))}`);
  const [trouble] = log.troubles;
  expect([trouble!.sort, trouble!.about]).toEqual([
    'not-responding',
    'Input dispatching timed out (waited 5001ms)',
  ]);
  expect(trouble!.thrown.map(({ frames, message }) => [message, frames[0]!.method])).toEqual([
    ['main: Blocked, waits for a java.lang.Object that thread 12 holds', 'read'],
    ['Sync: Native', 'upload'],
  ]);
  // what every process does at the moment of a report is no trouble
  const now = `------ VM TRACES JUST NOW (/data/anr/x) ------\n${traces(APP, 4012)}------ EVENT LOG ------\n${written(anr(4012))}`;
  expect(read(now).troubles[0]!.thrown).toEqual([]);
});

const ips = (body: object, type = '309') =>
  `${JSON.stringify({ app_name: 'Kelpline', app_version: '2.4.0', build_version: '240', bundleID: APP, bug_type: type, timestamp: '2026-11-30 12:00:00.00 +0100' })}\n${JSON.stringify(body, null, 1)}`;
const BODY = {
  captureTime: '2026-11-30 12:00:00.1234 +0100',
  procName: 'Kelpline',
  exception: { type: 'EXC_CRASH', signal: 'SIGABRT' },
  asi: { 'libsystem_c.dylib': ['abort() called'] },
  faultingThread: 1,
  threads: [
    { frames: [] },
    {
      triggered: true,
      queue: 'com.apple.main-thread',
      frames: [
        { imageOffset: 31688, imageIndex: 1, symbol: '__pthread_kill', symbolLocation: 8 },
        { imageOffset: 8192, imageIndex: 0 },
      ],
    },
  ],
  usedImages: [
    { base: 4344217600, uuid: '0A1B2C3D-0000-1111-2222-333344445555', name: 'Kelpline' },
    { base: 7000000000, uuid: 'FFFF', name: 'libsystem_kernel.dylib' },
  ],
};
const TEXT = `Incident Identifier: 1
Process:             Kelpline [812]
Identifier:          ${APP}
Version:             240 (2.4.0)
Date/Time:           2026-11-30 12:00:00.123 +0100
Exception Type:  EXC_CRASH (SIGABRT)
Triggered by Thread:  1

Thread 1 name:  Dispatch queue: com.apple.main-thread
Thread 1 Crashed:
0   libsystem_kernel.dylib        	0x00000001a1a27bc8 __pthread_kill + 8
1   Kelpline                      	0x0000000102f02000 0x102f00000 + 8192

Thread 2:
0   libsystem_kernel.dylib        	0x00000001a1a27000 poll + 8

Binary Images:
0x102f00000 - 0x102f5bfff Kelpline arm64  <0a1b2c3d000011112222333344445555> /var/containers/Kelpline.app/Kelpline
`;

test.each([
  ['two JSON documents', 'a.ips', ips(BODY)],
  ['text', 'a.crash', TEXT],
])('a crash report of iOS: %s', (_, file, text) => {
  const { appId, build, program, trouble, version } = readCrashReport(file, text);
  expect([appId, version, build, program]).toEqual([APP, '2.4.0', '240', 'Kelpline']);
  expect([trouble.sort, trouble.thread, trouble.thrown[0]!.exception]).toEqual([
    'crash',
    'com.apple.main-thread',
    'EXC_CRASH (SIGABRT)',
  ]);
  expect(trouble.thrown[0]!.frames.map(({ className, method }) => `${className} ${method}`)).toEqual([
    'libsystem_kernel.dylib __pthread_kill',
    'Kelpline 0x2000',
  ]);
  expect(trouble.addresses![1]).toEqual({
    image: 'Kelpline',
    uuid: '0a1b2c3d000011112222333344445555',
    offset: 8192,
  });
});

test('the system ended it because it took too long', () => {
  const termination = { namespace: 'FRONTBOARD', code: 0x8badf00d, reasons: ['scene-create watchdog'] };
  expect(readCrashReport('a.ips', ips({ ...BODY, termination })).trouble.sort).toBe('not-responding');
  expect(
    readCrashReport(
      'a.crash',
      TEXT.replace('Triggered', 'Termination Reason: FRONTBOARD 0x8badf00d\nTriggered'),
    ).trouble.sort,
  ).toBe('not-responding');
});

test.each([
  ['another kind of report', ips(BODY, '298'), '298'],
  ['the first line alone', ips(BODY).split('\n')[0]!, 'one line'],
  ['cut off', ips(BODY).slice(0, 400), 'JSON that cannot be read'],
  ['no report', 'Hello\n', 'Exception Type'],
])('what is no crash report is told: %s', (_, text, why) => {
  expect(() => readCrashReport('a.ips', text)).toThrow(why);
});
