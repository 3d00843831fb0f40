/** A walk through the messages of the demo app on the stand-in phone, and of apps that differ from it in one thing. */
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pushKit } from '../../src/cli/commands/drill/push-kit.ts';
import { indexFacts } from '../../src/core/areas/check.ts';
import { checks } from '../../src/core/areas/checks.ts';
import { collectFindings } from '../../src/core/checklist/collect-findings.ts';
import { type Intent, intentSchema } from '../../src/core/model/intent.ts';
import { openDevice } from '../../src/device/bridge/open-device.ts';
import { drillDevice } from '../../src/device/drill-session.ts';
import { type ServedMessages, serveMessages } from '../../src/standins/messages/serve-messages.ts';
import type { PhoneApp } from '../../src/standins/phone/app-model.ts';
import { kelpline } from '../../src/standins/phone/apps/kelpline/kelpline.ts';
import { fenlok } from '../support/command.ts';
import { kelplineDossier, kelplineIntent } from '../support/drill-bench.ts';
import { demoFolder, scratchFolder } from '../support/paths.ts';
import { bootPhone } from '../support/served-phone.ts';

const scratch = scratchFolder();
const messagesFile = join(scratch, 'messages.json');
const intentFile = join(demoFolder, 'fenlok.yaml');
const asked = checks.filter(({ needs }) =>
  ['push-run', 'push-token', 'push-permission', 'push-channels'].includes(needs),
);
let messages: ServedMessages;

beforeAll(async () => {
  messages = await serveMessages();
  writeFileSync(messagesFile, JSON.stringify(messages.address));
});
afterAll(() => messages.close());

describe('try payload --device', () => {
  const env = { FENLOK_STATE: join(scratch, 'state') };
  const tryOn = async (app: PhoneApp, message: object, { allowed = true, more = [] as string[] } = {}) => {
    const phone = await bootPhone({ apps: [app], push: messages.address });
    try {
      const installed = phone.os.packages.get(app.appId)!;
      installed.granted.add('android.permission.POST_NOTIFICATIONS');
      await phone.os.launch(app.appId);
      if (!allowed) installed.granted.delete('android.permission.POST_NOTIFICATIONS');
      writeFileSync(join(scratch, 'message.json'), JSON.stringify(message));
      const { code, err, out } = await fenlok(
        ['try', 'payload', 'message.json', '--send', messagesFile, '--device', phone.address, ...more],
        scratch,
        env,
      );
      const lines = out.slice(out.indexOf(`${app.appId} on`)).replaceAll(/\n {4}/g, ' ');
      return { code, err, out: lines };
    } finally {
      await phone.close();
    }
  };
  const delay = JSON.parse(readFileSync(join(demoFolder, 'push/delay.json'), 'utf8'));
  const offer = JSON.parse(readFileSync(join(demoFolder, 'push/offer.json'), 'utf8'));
  const second = ['--environment', 'development'];

  test('a tap that leads elsewhere once the process is gone is told; what is kept back in front is no fault', async () => {
    const { code, out } = await tryOn(kelpline, delay, { more: second });
    expect([code, out]).toEqual([
      1,
      expect.stringMatching(
        /■ with the app left: .*SailingActivity.*\n {2}▲ with its process gone: .*opens example\.kelpline\/\.TimetableActivity.*not example\.kelpline\/\.SailingActivity/,
      ),
    ]);
    const shown = await tryOn(kelpline, offer, { more: second });
    expect([shown.code, shown.out]).toEqual([
      0,
      expect.stringMatching(
        /■ with the app in front: the system shows nothing; the app says that it came\n {2}■ with the app left: “Harbour pass” is shown/,
      ),
    ]);
  });

  test.each([
    ['another project', offer, {}, 1, /▲ with the app in front: 403 SENDER_ID_MISMATCH: The token/],
    ['not allowed', offer, { allowed: false, more: second }, 1, /the user has not allowed the app/],
    ['a token of nobody', offer, { more: ['--token', 'abc'] }, 1, /▲ with the app in front: 404|▲ .*: 400/],
  ] as const)('%s', async (_, message, how, wanted, says) => {
    const { code, err, out } = await tryOn(kelpline, message, {
      ...how,
      more: [...('more' in how ? how.more : [])],
    });
    expect([code, out + err]).toEqual([wanted, expect.stringMatching(says)]);
  });

  test('what comes to an app that says nothing is not told; one that crashes is named', async () => {
    const mute = withPush({ onMessage: () => {} });
    const data = { data: { kind: 'sync' } };
    const untold = await tryOn(mute, data, { more: second });
    expect([untold.code, untold.out]).toEqual([
      4,
      expect.stringMatching(/◆|the app does not tell whether it came/),
    ]);
    const bad = withPush({
      onMessage: () => {
        throw new Error('no such sailing');
      },
    });
    const crashed = await tryOn(bad, data, { more: second });
    expect([crashed.code, crashed.out]).toEqual([1, expect.stringMatching(/▲ with the app left: .* ends: /)]);
  });
});

let walks = 0;
/** What is found in a walk through the messages of an app. */
async function walk(app: PhoneApp, intent: Intent = kelplineIntent) {
  const phone = await bootPhone({ apps: [app], push: messages.address });
  const folder = join(scratch, `dossier-${++walks}`);
  const dossier = await kelplineDossier(folder);
  const kit = await pushKit(messagesFile, intentFile, intent, dossier);
  const device = await openDevice(phone.address, { stateFolder: join(scratch, 'state') });
  try {
    const { results } = await drillDevice(device, {
      dossier,
      intent,
      stateFolder: join(scratch, 'state'),
      wanted: { drills: ['push'] },
      kits: { push: kit },
    });
    const facts = results.flatMap((result) => result.facts);
    const found = collectFindings(asked, indexFacts(facts), intent).flatMap(({ findings }) =>
      findings.map(
        ({ check, identity }) =>
          `${check} ${identity.subject}${identity.aspect ? ` ${identity.aspect}` : ''}`,
      ),
    );
    return { found: found.sort(), trouble: results.flatMap(({ trouble = [] }) => trouble), folder };
  } finally {
    kit.sender.close();
    await device.close();
    await phone.close();
  }
}

const PLANTED = [
  'push-action message delay Delays and cancellations',
  'push-shown message offer front',
  'push-tap message delay not-running',
  'push-token token sender',
  // the service refuses it, for the number in its data
  'scripted-push message fares sent',
];
const { push } = kelpline;
const withPush = (of: Partial<NonNullable<PhoneApp['push']>>): PhoneApp => ({
  ...kelpline,
  push: { ...push!, ...of },
});
const without = (gone: string) => PLANTED.filter((one) => one !== gone);

test('the demo app: what is planted, and neither token nor secret in the dossier', async () => {
  const { folder, found, trouble } = await walk(kelpline);
  expect([found, trouble]).toEqual([PLANTED, []]);
  expect(messages.service.counts.delivered).toBeGreaterThan(10);
  for (const name of readdirSync(join(folder, 'traces'))) {
    const text = readFileSync(join(folder, 'traces', name), 'utf8');
    expect(text).not.toMatch(/[\w-]{40}/);
    expect(text).not.toContain(messages.address.secret);
  }
});

const VARIANTS: [string, PhoneApp, string[]][] = [
  [
    'built for the project of the release',
    withPush({ project: 'kelpline' }),
    without('push-token token sender'),
  ],
  [
    'names its channel by a word of its own',
    withPush({ channels: { delays: 'app_name' } }),
    [
      ...['ar', 'de', 'nb', 'pl'].map((locale) => `channel-name channel delays source-language ${locale}`),
      ...PLANTED,
    ],
  ],
  [
    'shows what it gets in front too',
    withPush({
      onMessage: (host, message) => {
        push!.onMessage(host, message);
        if (message.data.kind === 'offer')
          host.notify({
            id: 5,
            channel: 'delays',
            title: 'Pass',
            text: '',
            actions: [],
            tap: { screen: 'pass' },
          });
      },
    }),
    without('push-shown message offer front'),
  ],
  [
    'posts to a channel that it never made',
    withPush({ channels: {} }),
    [
      'push-shown message delay background',
      'push-shown message delay front',
      'push-shown message delay not-running',
      'push-shown message offer front',
      'push-token token sender',
      'scripted-push message fares sent',
    ],
  ],
  [
    'never asks',
    {
      ...kelpline,
      screens: { ...kelpline.screens, settings: { ...kelpline.screens.settings!, taps: {} } },
    },
    [
      'push-permission permission not-asked allow',
      'push-permission permission not-asked refuse',
      'push-token token none',
    ],
  ],
  [
    'cannot bear to be refused',
    {
      ...kelpline,
      permissionAnswered: (host, permission, granted) => {
        if (!granted) throw new Error('no permission');
        kelpline.permissionAnswered!(host, permission, granted);
      },
    },
    ['push-permission permission crash refuse', ...PLANTED],
  ],
  [
    'keeps its token in words',
    withPush({
      registered: ({ log }, token) =>
        log('Fenlok', JSON.stringify({ kind: 'push.registered', token: `<${token.slice(0, 8)}>` })),
    }),
    ['push-token token form', 'push-token token refused'],
  ],
  [
    'makes a noise of what is silent',
    withPush({
      onMessage: (host, message) => {
        push!.onMessage(host, message);
        if (message.data.kind === 'sync')
          host.notify({
            id: 6,
            channel: 'delays',
            title: 'Synced',
            text: '',
            actions: [],
            tap: { screen: 'timetable' },
          });
      },
    }),
    [
      ...PLANTED,
      ...['background', 'front', 'not-running'].map((state) => `push-silent message sync shown ${state}`),
    ],
  ],
];

describe('apps that differ in one thing', () => {
  let found: string[][];
  // most of a walk is waiting, so that they go beside one another
  beforeAll(async () => {
    found = (await Promise.all(VARIANTS.map(([, app]) => walk(app)))).map((one) => one.found);
  });

  test.each(VARIANTS.map(([name, , expected], i) => [name, i, expected] as const))(
    'one that %s',
    (_, i, expected) => {
      expect(found[i]).toEqual([...expected].sort());
    },
  );
});

test('a way to the question that does not lead there is told, and nothing is claimed', async () => {
  const lost = intentSchema.parse({
    ...kelplineIntent,
    push: { ...kelplineIntent.push, ask: [{ tap: 'nav_nowhere' }] },
  });
  const { found, trouble } = await walk(kelpline, lost);
  expect(found).toEqual([]);
  expect(trouble[0]).toMatch(/tap nav_nowhere: there is no "nav_nowhere"/);
});
