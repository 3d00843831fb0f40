/** The parts of the device side by themselves: plans, steps, actions that a walk may take, messages of the bridge. */
import { createConnection } from 'node:net';
import { AdbCommand } from '@yume-chan/adb';
import fc from 'fast-check';
import { isScreenDrill } from '../../src/core/model/drill.ts';
import type { Step } from '../../src/core/model/intent-parts.ts';
import { AndroidDevice } from '../../src/device/android/android-device.ts';
import { quoteShell } from '../../src/device/android/quote-shell.ts';
import type { Ran } from '../../src/device/bridge/bridge-line.ts';
import { openDevice } from '../../src/device/bridge/open-device.ts';
import { encodePacket, PacketCutter } from '../../src/device/bridge/packets.ts';
import type { DeviceInfo } from '../../src/device/device.ts';
import { planDrills } from '../../src/device/drills/plan.ts';
import { NoDump } from '../../src/device/out-of-reach.ts';
import { openOverrides } from '../../src/device/overrides/setting-overrides.ts';
import { findElement, performStep, StepFailed } from '../../src/device/phone/perform-step.ts';

import { findActions, findInputs } from '../../src/device/roam/find-actions.ts';
import { PacketReader } from '../../src/standins/phone/bridge/packet.ts';
import { kelplineIntent } from '../support/drill-bench.ts';
import { ui } from '../support/facts.ts';
import { scratchFolder } from '../support/paths.ts';
import { bootPhone } from '../support/served-phone.ts';

const scratch = scratchFolder();
const info: DeviceInfo = {
  id: 'D',
  model: 'M',
  name: 'm',
  sdk: 34,
  widthPx: 1080,
  heightPx: 2400,
  densityDpi: 480,
  isFoldable: false,
};

/** A device that answers each line by a rule, and writes down what it was asked. */
function scripted(
  answer: (line: string) => string | Ran,
  of: { serial?: string; info?: Partial<DeviceInfo> } = {},
) {
  const asked: string[] = [];
  const run = async (line: string): Promise<Ran> => {
    asked.push(line);
    const said = answer(line);
    return typeof said === 'string' ? { code: 0, out: said, err: '' } : said;
  };
  const device = new AndroidDevice({
    serial: of.serial ?? 'S1',
    info: { ...info, ...of.info },
    run,
    bytes: async (line) => new TextEncoder().encode((await run(line)).out),
    pull: async () => new Uint8Array(),
    install: async () => undefined,
    isGone: () => false,
    reconnect: async () => {},
    close: async () => {},
  });
  return { asked, device };
}

describe('plans', () => {
  const all = ['capture-sweep', 'cold-start', 'back', 'network-lost', 'rotate'] as const;
  const plan = (of: Parameters<typeof scripted>[1] = {}, wanted = {}) =>
    planDrills(
      { intent: kelplineIntent, device: scripted(() => '', of).device, kits: {} },
      { drills: all, ...wanted },
      () => false,
    );

  test('settings change as seldom as they can', () => {
    const { steps } = plan();
    const settings = steps.flatMap((step) =>
      step.cell
        ? [
            `${step.cell.locale} ${step.cell.theme} ${step.cell.textScale} ${step.cell.orientation} ${step.cell.procedure}`,
          ]
        : [],
    );
    const changes = settings.filter((one, i) => one !== settings[i - 1]).length;
    expect([settings.length, changes]).toEqual([87, new Set(settings).size]);
  });

  test('what a device cannot do is left out, with the reason', () => {
    expect(plan().left).toEqual([]);
    const old = plan({ info: { sdk: 28 } });
    expect(new Set(old.left.map(({ why }) => why))).toEqual(
      new Set(['languages of one app alone need Android 13']),
    );
    expect(old.left.length).toBe(56);
    for (const [serial, count] of [
      ['192.168.1.7:5555', 1],
      ['127.0.0.1:7001', 0],
      ['emulator-5554', 0],
      ['[fe80::1]:5555', 1],
    ] as const)
      expect([serial, plan({ serial }).left.length]).toEqual([serial, count]);
  });

  test('a procedure that stands for no setting is not captured under its name', () => {
    const coverage = kelplineIntent.coverage.map((row) =>
      row.procedure === 'bold-text' ? { ...row, procedure: 'moonlight' } : row,
    );
    const { left, steps } = planDrills(
      { intent: { ...kelplineIntent, coverage }, device: scripted(() => '').device, kits: {} },
      { drills: ['capture-sweep'] },
      () => false,
    );
    expect([steps.length, left]).toEqual([
      86,
      [
        {
          what: 'settings, light, en, moonlight',
          why: expect.stringContaining('stands for the procedure moonlight'),
        },
      ],
    ]);
  });

  test('words choose, screens choose, and what is done is counted', () => {
    const say = (of: object) => plan({}, of).steps.map(({ says }) => says);
    expect(say({ only: ['dark', 'ar', '200'], screens: ['pass'] })).toEqual([
      'capture of pass, dark, ar, 200 %',
    ]);
    expect(say({ only: ['rotate'] })).toEqual(kelplineIntent.screens.map(({ id }) => `rotate on ${id}`));
    expect(say({ drills: ['cold-start', 'roam'] })).toEqual(['cold-start', 'roam']);
    const half = planDrills(
      { intent: kelplineIntent, device: scripted(() => '').device, kits: {} },
      { drills: all },
      ({ drill }) => isScreenDrill(drill),
    );
    expect([half.done, half.steps.length]).toEqual([21, 88]);
  });
});

const tree = ui(
  [0, 0, 1000, 2000],
  { id: 'root' },
  ui([0, 0, 500, 100], { text: 'save', id: 'title' }),
  ui([0, 100, 500, 100], { id: 'save', clickable: true, label: 'Keep it' }),
  ui(
    [0, 300, 1000, 400],
    { id: 'list', scrollable: true },
    ui([0, 650, 1000, 100], { text: 'Half in sight', clickable: true }),
    ui([0, 900, 1000, 100], { text: 'Out of sight', id: 'far' }),
  ),
  ui([0, 1200, 500, 100], { id: 'gone', visible: false }),
);

test.each([
  ['save', { x: 0, y: 100, width: 500, height: 100 }],
  ['Keep it', { x: 0, y: 100, width: 500, height: 100 }],
  ['Half in sight', { x: 0, y: 650, width: 1000, height: 50 }],
  ['far', undefined],
  ['gone', undefined],
  ['nothing', undefined],
])('an element is found by id before text before label, as far as it is in sight: %s', (name, expected) => {
  expect(findElement(tree, name)).toEqual(expected);
});

const dumpOf = (...nodes: string[]) =>
  `<?xml version='1.0'?><hierarchy rotation="0"><node class="a" bounds="[0,0][1000,2000]"><node class="b" scrollable="true" bounds="[0,0][1000,1000]">${nodes.map((id, i) => `<node class="c" resource-id="x:id/${id}" clickable="true" bounds="[0,${i * 200}][1000,${i * 200 + 200}]"/>`).join('')}</node></node></hierarchy>UI hierchary dumped to: /dev/tty\n  topResumedActivity=ActivityRecord{1 u0 a.b/.C t1}\n`;
const app = { appId: 'a.b', component: 'a.b/.C' };

test('a step scrolls for what is not in sight, taps its middle, and gives up where the list ends', async () => {
  let scrolls = 0;
  const lists = [
    ['one', 'two'],
    ['two', 'three'],
    ['three', 'four'],
  ];
  const { asked, device } = scripted((line) => {
    if (line.startsWith('input swipe')) scrolls = Math.min(lists.length - 1, scrolls + 1);
    return line.startsWith('uiautomator') ? dumpOf(...lists[scrolls]!) : '';
  });
  await performStep(device, app, { tap: 'four' });
  expect(asked.at(-1)).toBe('input tap 500 300');
  expect(asked.filter((line) => line === 'input swipe 500 750 500 300 300').length).toBe(2);
  await expect(performStep(device, app, { tap: 'five' })).rejects.toThrow(
    new StepFailed('tap five', 'there is no "five" on a.b/.C'),
  );
});

test.each<[Step, string]>([
  [{ type: "it's 5", into: 'one' }, "input text 'it'\\''s%s5'"],
  [{ press: 'back' }, 'input keyevent BACK'],
  [
    { open: "https://a.example/?x='1'&y=2" },
    "am start -W -a android.intent.action.VIEW -d 'https://a.example/?x='\\''1'\\''&y=2' a.b",
  ],
  [{ scroll: 'up' }, 'input swipe 500 300 500 750 300'],
])('a step as the shell gets it: %j', async (step, expected) => {
  const { asked, device } = scripted(() => dumpOf('one'));
  await performStep(device, app, step);
  expect(asked.at(-1)).toBe(expected);
});

test('a dump is asked for again while the screen moves, and given up on in the end', async () => {
  let left = 3;
  const moving = scripted(() => (left-- > 0 ? 'ERROR: could not get idle state.\n' : dumpOf('one')));
  expect(await moving.device.snapshot()).toMatchObject({ activity: 'a.b/.C' });
  expect(moving.asked.length).toBe(4);
  const never = scripted(() => 'ERROR: null root node returned by the bridge.\n');
  await expect(never.device.snapshot()).rejects.toThrow(
    new NoDump('S1', 'ERROR: null root node returned by the bridge.'),
  );
});

test('a setting that the device refuses does not hold up the others, and is told as it reads', async () => {
  const values = new Map([
    ['system font_scale', '1'],
    ['secure font_weight_adjustment', '0'],
  ]);
  let closed = false;
  const { device } = scripted((line) => {
    const [, verb, key = '', value = ''] = /^settings (get|put) (\S+ \S+)(?: '(.*)')?$/.exec(line) ?? [];
    if (verb === 'put' && closed && key.startsWith('secure'))
      return { code: 255, out: '', err: 'Permission denial' };
    if (verb === 'put') values.set(key, value);
    return verb === 'get' ? `${values.get(key)}\n` : '';
  });
  const overrides = await openOverrides(scratch, device);
  await overrides.override('system/font_scale', '2');
  await overrides.override('secure/font_weight_adjustment', '300');
  closed = true;
  expect(await overrides.putBack()).toEqual([
    { setting: 'secure/font_weight_adjustment', was: '0', now: '300' },
    { setting: 'system/font_scale', was: '1', now: '1' },
  ]);
  // it stays in the journal, for a later try
  closed = false;
  const again = await openOverrides(scratch, device);
  expect(again.left).toEqual(['system/font_scale', 'secure/font_weight_adjustment']);
  expect((await again.putBack()).every(({ now, was }) => now === was)).toBe(true);
});

test('processes and log lines are read as the platform prints them', async () => {
  const stat = `4711 (name) with) S 312 ${'0 '.repeat(17)}88123 0 0`;
  const { device } = scripted((line) =>
    line.startsWith('pidof') ? '4711 4712\n' : line.startsWith('cat') ? stat : '',
  );
  expect(await device.processOf('a.b')).toEqual({ pid: 4711, startTicks: 88123 });
  expect(await scripted(() => ({ code: 1, out: '', err: '' })).device.processOf('a.b')).toBeUndefined();
  const log = scripted(
    () =>
      '--------- beginning of events\n 1764223159.203   456   457 I am_kill : [0,489,a.b,900,kill background]\n 1764223159.300  1000   456   457 E AndroidRuntime: \tat a.b.C.x(C.java)\nnonsense\n',
  );
  expect(await log.device.logSince('0')).toEqual([
    { epoch: 1764223159.203, pid: 456, tag: 'am_kill', message: '[0,489,a.b,900,kill background]' },
    { epoch: 1764223159.3, pid: 456, tag: 'AndroidRuntime', message: '\tat a.b.C.x(C.java)' },
  ]);
});

test('a walk takes each kind of control once, types what it was given, and keeps its hands off the rest', () => {
  const screen = ui(
    [0, 0, 100, 900],
    {},
    ui([0, 0, 100, 50], { id: 'row', clickable: true }, ui([0, 0, 50, 20], { text: 'One' })),
    ui([0, 50, 100, 50], { id: 'row', clickable: true }),
    ui([0, 100, 100, 50], { id: 'pay_now', clickable: true }),
    ui([0, 150, 100, 50], { text: 'Payments overview', clickable: true }),
    ui([0, 200, 100, 50], { id: 'x', label: 'Delete account', clickable: true }),
    ui([0, 250, 100, 50], { id: 'toll', label: 'Harbour fee', clickable: true }),
    ui([0, 300, 100, 50], { id: 'off', clickable: true, enabled: false }),
    ui([0, 350, 100, 50], { id: 'mail', className: 'EditText', clickable: true }),
    ui([0, 400, 100, 50], { id: 'full', className: 'EditText', clickable: true, text: 'there' }),
  );
  expect(
    findActions(screen, ['harbour fee']).map(({ name, outcome, shown }) => [name, outcome, shown]),
  ).toEqual([
    ['row', 'untried', 'One'],
    ['pay_now', 'avoided', ''],
    ['Payments overview', 'untried', 'Payments overview'],
    ['x', 'avoided', 'Delete account'],
    ['toll', 'avoided', 'Harbour fee'],
  ]);
  expect(findInputs(screen, { mail: 'a@b.example', full: 'there', none: 'x' })).toEqual([
    { type: 'a@b.example', into: 'mail' },
  ]);
});

describe('messages of the bridge', () => {
  const packet = fc.record({
    command: fc.constantFrom(...Object.values(AdbCommand)),
    arg0: fc.nat(),
    arg1: fc.nat(),
    payload: fc.uint8Array({ maxLength: 40 }),
  });
  test('both sides read what the other writes, however it is pieced together', () => {
    fc.assert(
      fc.property(fc.array(packet, { maxLength: 6 }), fc.integer({ min: 1, max: 70 }), (packets, size) => {
        const bytes = Buffer.concat(
          packets.map((one) => encodePacket({ ...one, checksum: 0, magic: one.command ^ -1 })),
        );
        const pieces = Array.from({ length: Math.ceil(bytes.length / size) }, (_, i) =>
          bytes.subarray(i * size, (i + 1) * size),
        );
        const cutter = new PacketCutter();
        expect(pieces.flatMap((piece) => [...cutter.push(Buffer.from(piece))])).toEqual(packets);
        const reader = new PacketReader();
        expect(
          pieces
            .flatMap((piece) => [...reader.push(piece)])
            .map(({ arg0, arg1, payload }) => ({ arg0, arg1, payload: new Uint8Array(payload) })),
        ).toEqual(packets.map(({ arg0, arg1, payload }) => ({ arg0, arg1, payload })));
      }),
    );
  });

  test('whoever talks nonsense is hung up on, and nobody else is', async () => {
    const phone = await bootPhone();
    try {
      const device = await openDevice(phone.address, { stateFolder: scratch });
      const head = Buffer.alloc(24);
      head.writeUInt32LE(AdbCommand.Open, 0);
      head.writeUInt32LE(2 ** 31, 12);
      head.writeUInt32LE((AdbCommand.Open ^ 0xffffffff) >>> 0, 20);
      for (const nonsense of [
        Buffer.from('GET / HTTP/1.1\r\nHost: phone.example\r\n\r\n'),
        Buffer.alloc(64),
        head,
      ]) {
        const closed = await new Promise((resolve) => {
          const socket = createConnection({ host: '127.0.0.1', port: phone.port }, () =>
            socket.write(nonsense),
          );
          socket.on('error', () => {});
          socket.on('close', () => resolve(true));
        });
        expect(closed).toBe(true);
      }
      expect((await device.run('echo still here')).out).toBe('still here\n');
      await device.close();
    } finally {
      await phone.close();
    }
  });
});

test('any word comes through the shell as it is', () => {
  fc.assert(
    fc.property(fc.string(), (text) => {
      const quoted = quoteShell(text);
      // single quotes end only to let one through
      expect(quoted.slice(1, -1).replaceAll("'\\''", "'")).toBe(text);
      expect(quoted.slice(1, -1).replaceAll("'\\''", '')).not.toContain("'");
    }),
  );
});
