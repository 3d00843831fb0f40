/** A walk through the messages of the demo app on the stand-in iOS phone, from the push gateway, and of apps that differ in one thing. */
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { standinTools } from '../../src/cli/commands/demo/surroundings.ts';
import { pushKit } from '../../src/cli/commands/drill/push-kit.ts';
import { indexFacts } from '../../src/core/areas/check.ts';
import { checks } from '../../src/core/areas/checks.ts';
import type { TraceEvidence } from '../../src/core/areas/observer.ts';
import { pushBadge } from '../../src/core/areas/push/checks/push-badge.ts';
import { landingOf } from '../../src/core/areas/push/landing.ts';
import { observePushRuns } from '../../src/core/areas/push/observers/observe-push-runs.ts';
import { collectFindings } from '../../src/core/checklist/collect-findings.ts';
import { badgeOn, messagesOf } from '../../src/core/formats/apple/home-screen.ts';
import type { LookoutNode } from '../../src/core/formats/apple/lookout-tree.ts';
import type { PushRunFact } from '../../src/core/model/facts/push.ts';
import type { Intent } from '../../src/core/model/intent.ts';
import { drillDevice, planFor } from '../../src/device/drill-session.ts';
import { openLookout } from '../../src/device/ios/ios-device.ts';
import { makeKnown } from '../../src/device/ios/known-lookouts.ts';
import { runTool } from '../../src/device/ios/run-tool.ts';
import { addPackage, openDossier } from '../../src/node/dossier.ts';
import type { AppMessages, PhoneApp } from '../../src/standins/phone/app-model.ts';
import { kelplineIos } from '../../src/standins/phone/apps/kelpline/ios.ts';
import { type ServedGateway, serveGateway } from '../../src/standins/push/serve-gateway.ts';
import { fenlok } from '../support/command.ts';
import { kelplineIntent } from '../support/drill-bench.ts';
import { demoFolder, scratchFolder } from '../support/paths.ts';
import { bootLookout, bootWithTools, demoIpa } from '../support/served-lookout.ts';

const scratch = scratchFolder();
const stateFolder = join(scratch, 'state');
const gatewayFile = join(scratch, 'gateway.json');
const asked = checks.filter(({ needs }) => ['push-run', 'push-token', 'push-permission'].includes(needs));
let gateway: ServedGateway;

beforeAll(async () => {
  gateway = await serveGateway();
  writeFileSync(gatewayFile, JSON.stringify(gateway.address));
});
afterAll(() => gateway.close());

const withTools: Intent = { ...kelplineIntent, ios: { commands: standinTools(stateFolder) } };
const only = (id: string): Intent => ({
  ...withTools,
  push: { ...withTools.push, messages: withTools.push.messages.filter((one) => one.id === id) },
});

let walks = 0;
async function walk(app: PhoneApp, intent: Intent) {
  const served = await bootWithTools(stateFolder, 'small-phone', app, { push: gateway.address });
  const folder = join(scratch, `dossier-${++walks}`);
  await addPackage(folder, demoIpa);
  const dossier = await openDossier(folder);
  const kit = await pushKit(gatewayFile, join(demoFolder, 'fenlok.yaml'), intent, dossier);
  const device = await openLookout(served.address, served.token);
  const session = { dossier, intent, wanted: { drills: ['push' as const] }, kits: { push: kit } };
  try {
    const { left } = await planFor(device, session);
    const { results } = await drillDevice(device, { ...session, stateFolder });
    const facts = results.flatMap((result) => result.facts);
    const collected = collectFindings(asked, indexFacts(facts), intent);
    const found = collected.flatMap(({ findings }) =>
      findings.map(({ check, identity: { aspect, subject } }) =>
        [check, subject, aspect].filter(Boolean).join(' '),
      ),
    );
    return { found: found.sort(), facts, left, folder, trouble: results.flatMap((one) => one.trouble ?? []) };
  } finally {
    kit.sender.close();
    await device.close();
    await served.close();
  }
}

const TOKEN = 'push-token token environment';
const BUTTONS = [
  'push-action message delay Book this crossing',
  'push-action message delay Delays and cancellations',
];
const BADGE = 'push-badge message delay';
const COLD = 'push-tap message delay not-running';
const DELAY = [...BUTTONS, BADGE, COLD, TOKEN];

test('the demo app: what is planted, and neither token nor key in the dossier', async () => {
  const { folder, found, left, trouble } = await walk(kelplineIos, withTools);
  expect([found, left, trouble]).toEqual([[...DELAY, 'push-shown message offer front'].sort(), [], []]);
  for (const name of readdirSync(join(folder, 'traces'))) {
    const text = readFileSync(join(folder, 'traces', name), 'utf8');
    expect(text).not.toMatch(/[0-9a-f]{40}/i);
    expect(text).not.toContain(gateway.address.secret);
  }
});

const { messages } = kelplineIos;
const withMessages = (of: Partial<AppMessages>): PhoneApp => ({
  ...kelplineIos,
  messages: { ...messages!, ...of },
});
const without = (...gone: string[]) => DELAY.filter((one) => !gone.includes(one));
const buttons = messages!.categories.delay!;

const VARIANTS: [string, PhoneApp, Intent, string[]][] = [
  [
    'has the category of its messages',
    withMessages({ categories: { DELAY: buttons } }),
    only('delay'),
    without(...BUTTONS),
  ],
  [
    'has a button that leads nowhere',
    withMessages({ categories: { DELAY: buttons.map((one) => ({ ...one, opens: one.id === 'BOOK' })) } }),
    only('delay'),
    without(BUTTONS[0]!),
  ],
  [
    'takes its badge back, and waits for its timetable',
    withMessages({
      opened: (host, touched) => {
        host.setBadge(0);
        messages!.opened(host, { ...touched, isCold: false });
      },
    }),
    only('delay'),
    without(BADGE, COLD),
  ],
  [
    'ends when a message is opened',
    withMessages({
      opened: () => {
        throw new Error('no such sailing');
      },
    }),
    only('offer'),
    [
      ...['background', 'front', 'not-running'].map((state) => `push-shown message offer ${state}`),
      ...['background', 'not-running'].map((state) => `push-tap message offer ${state}`),
      TOKEN,
    ],
  ],
  [
    'never asks',
    {
      ...kelplineIos,
      screens: { ...kelplineIos.screens, settings: { ...kelplineIos.screens.settings!, taps: {} } },
    },
    only('offer'),
    [
      'push-permission permission not-asked allow',
      'push-permission permission not-asked refuse',
      'push-token token none',
    ],
  ],
  [
    'cannot bear to be refused',
    {
      ...kelplineIos,
      permissionAnswered: (host, permission, granted) => {
        if (!granted) throw new Error('no permission');
        kelplineIos.permissionAnswered!(host, permission, granted);
      },
    },
    only('sync'),
    ['push-permission permission crash refuse', TOKEN],
  ],
  [
    'keeps its token in words',
    withMessages({
      registered: ({ log }, token) =>
        log('Fenlok', JSON.stringify({ kind: 'push.registered', token: `<${token.slice(0, 8)}>` })),
    }),
    only('offer'),
    ['push-token token form', 'push-token token refused'],
  ],
  [
    'ends when it is woken',
    withMessages({
      woken: () => {
        throw new Error('no fares');
      },
    }),
    only('sync'),
    ['push-silent message sync crash front', TOKEN],
  ],
  [
    'says nothing of what wakes it: in the background iOS may have kept it back',
    withMessages({ woken: () => {} }),
    only('sync'),
    ['push-silent message sync not-woken front', TOKEN],
  ],
];

test('a number on the icon that was never seen there is no sign that it was taken back', () => {
  const began = {
    cell: { screen: 'app' },
    appId: 'a.b',
    deviceId: 'd',
    sdk: 17,
    densityDpi: 320,
    drill: 'push',
  };
  const sent = { step: 'message-1', message: 'delay', environment: 'production', state: 'background' };
  const outcomesWith = (before: number) => {
    const lines = [
      { kind: 'drill.began', ...began },
      { kind: 'message.sent', ...sent, digest: 'x', status: 200, counts: true },
      { kind: 'notifications.seen', step: 'message-1', posted: [{ channel: '', title: 'Late', text: '' }] },
      { kind: 'badge.seen', step: 'message-1-before', badge: before },
      { kind: 'message.tapped', step: 'message-1' },
      { kind: 'notifications.seen', step: 'message-1', posted: [] },
      { kind: 'badge.seen', step: 'message-1', badge: 0 },
    ].map((line) => ({ at: '2026-11-30T00:00:00Z', ...line }));
    const facts = [
      ...observePushRuns.observe({ lines, platform: 'ios', digest: 'd' } as unknown as TraceEvidence),
    ];
    const [report] = collectFindings([pushBadge], indexFacts(facts), kelplineIntent);
    return [report!.passed, report!.findings.length, report!.unseen.length];
  };
  expect(outcomesWith(1)).toEqual([1, 0, 0]);
  expect(outcomesWith(0)).toEqual([0, 0, 1]);
});

describe('apps that differ in one thing', () => {
  let found: string[][];
  // most of a walk is waiting, so that they go beside one another
  beforeAll(async () => {
    found = (await Promise.all(VARIANTS.map(([, app, intent]) => walk(app, intent)))).map((one) => one.found);
  });

  test.each(VARIANTS.map(([name, , , expected], i) => [name, i, expected] as const))(
    'one that %s',
    (_, i, expected) => {
      expect(found[i]).toEqual([...expected].sort());
    },
  );
});

test('without tools that install it, the question and a new token are left out, and stay untested', async () => {
  const intent = { ...only('offer'), ios: { commands: {} } };
  const { facts, found, left } = await walk(kelplineIos, intent);
  expect(left).toEqual([
    {
      what: 'push, the question for the permission and a new token',
      why: expect.stringContaining('ios.commands'),
    },
  ]);
  expect(found).toEqual(['push-shown message offer front', TOKEN]);
  expect(facts.some(({ kind }) => kind === 'push-permission')).toBe(false);
  expect(facts.find((fact) => fact.kind === 'push-token')).not.toHaveProperty('reinstalled');
});

test('try payload --device: shown in each state, and where a tap leads by what the screen begins with', async () => {
  const served = await bootLookout('small-phone', kelplineIos, { push: gateway.address });
  const { address, phone, token } = served;
  await makeKnown(stateFolder, { address, token, pid: process.pid, name: 'd' });
  const app = phone.get('example.kelpline')!;
  app.granted.add('android.permission.POST_NOTIFICATIONS');
  await phone.start(app);
  const of = (file: string) =>
    fenlok(
      [
        ...['try', 'payload', join(demoFolder, 'push', file), '--package', demoIpa, '--send', gatewayFile],
        ...['--device', `ios:${address}`, '--app', app.appId, '--environment', 'development'],
      ],
      scratch,
      { FENLOK_STATE: stateFolder },
    );
  const { code, out } = await of('delay-ios.json');
  const told = out.slice(out.indexOf('example.kelpline on')).replaceAll(/\n {4}/g, ' ');
  expect([code, told]).toEqual([
    1,
    expect.stringMatching(
      /■ with the app left: .*begins with “Sailing”\n {2}◐ with its process gone: .*“Timetable”, and not .*“Sailing”/,
    ),
  ]);
  expect((await of('delay.json')).err).toMatch(/it sends to iOS, and the message is for Android/);
  await served.close();
});

test.each([
  [{ sailing: 0.9, pass: 0.5 }, 'there'],
  [{ sailing: 0.5, pass: 0.9 }, 'elsewhere'],
  [{ sailing: 0.9, pass: 0.9 }, 'unknown'],
  [{ pass: 0.9 }, 'unknown'],
])('what is in front is %j: %s', (like, landing) => {
  const run = { inApp: true, landed: 'a.b/', like, platform: 'ios' } as unknown as PushRunFact;
  expect(landingOf(run, 'sailing', kelplineIntent)).toBe(landing);
});

describe('what the home screen tells', () => {
  const frame = { x: 0, y: 0, width: 1, height: 1 };
  const screen = (...children: object[]) => ({
    front: '',
    owner: 'com.apple.springboard',
    scale: 2,
    tree: { kind: 'application', frame, children: children as LookoutNode[] },
  });
  const icon = (more: object) => ({ kind: 'icon', frame, ...more });
  test.each([
    ['no badge', [icon({ label: 'Ferry' })], 0],
    ['one in its value', [icon({ label: 'Ferry', value: '12 neue Objekte' })], 12],
    ['one in its label', [icon({ identifier: 'Ferry', label: 'Ferry, 3 new items' })], 3],
    ['another app', [icon({ label: 'Ferry Pro', value: '5 new items' })], undefined],
  ])('a badge: %s', (_, children, expected) => {
    expect(badgeOn(screen(...children), 'Ferry')).toBe(expected);
  });

  test('messages of this app, each once, whatever kind of element they are', () => {
    const told = (kind: string, label: string, children: object[] = []) => ({ kind, label, frame, children });
    const all = screen(
      told('icon', 'Ferry, 1 new item'),
      told('other', '', [told('button', 'FERRY, now, Late, Wait', [told('staticText', 'Ferry, now')])]),
      told('cell', 'Ferryman, now, Hello'),
      told('other', 'Ferry, 5 min ago, Gone'),
    );
    expect(messagesOf(all, 'Ferry')).toEqual(['FERRY, now, Late, Wait', 'Ferry, 5 min ago, Gone']);
  });
});

describe('a tool of the team', () => {
  const words = { app: 'a.b', package: '/p q/x.ipa' };
  test.each([
    ['fails', ['sh', '-c', 'echo no profile >&2; exit 3'], /install failed \(3\).*\n {2}no profile/],
    ['is not there', ['no-such-program'], /no-such-program cannot be run \(ENOENT\)/],
    ['hangs, with what it has started', ['sh', '-c', 'sleep 60 & wait'], /did not end within 0\.3 s/],
    [
      'has a word that nobody knows',
      ['sh', '{pakage}'],
      /nobody knows \{pakage\}; there are \{app\}, \{pack/,
    ],
  ])('that %s is told', async (_, command, says) => {
    await expect(runTool('ios.commands.install', command, { words, timeoutMs: 300 })).rejects.toThrow(says);
  });

  test('gets its words as they are, and no shell', async () => {
    const args = ['{package}', '$HOME;{app}'];
    const test = `const [a, b] = process.argv.slice(1); if (a !== '/p q/x.ipa' || b !== '$HOME;a.b') process.exit(9)`;
    await runTool('ios.commands.install', [process.execPath, '-e', test, ...args], { words });
  });

  test('ends with whoever called it', async () => {
    const stop = new AbortController();
    const call = runTool('x', ['sh', '-c', 'echo; sleep 60'], { words, signal: stop.signal });
    stop.abort();
    await expect(call).rejects.toThrow(/abort/i);
  });
});
