import { channelName } from '../../../src/core/areas/push/checks/channel-name.ts';
import { payloadRules } from '../../../src/core/areas/push/checks/payload-rules.ts';
import { payloadTarget } from '../../../src/core/areas/push/checks/payload-target.ts';
import { payloadTexts } from '../../../src/core/areas/push/checks/payload-texts.ts';
import { pushAction } from '../../../src/core/areas/push/checks/push-action.ts';
import { pushBadge } from '../../../src/core/areas/push/checks/push-badge.ts';
import { pushPermission } from '../../../src/core/areas/push/checks/push-permission.ts';
import { pushSetup } from '../../../src/core/areas/push/checks/push-setup.ts';
import { pushShown } from '../../../src/core/areas/push/checks/push-shown.ts';
import { pushSilent } from '../../../src/core/areas/push/checks/push-silent.ts';
import { pushTap } from '../../../src/core/areas/push/checks/push-tap.ts';
import { pushToken } from '../../../src/core/areas/push/checks/push-token.ts';
import { readPushPayload } from '../../../src/core/formats/push-payload.ts';
import type { Fact } from '../../../src/core/model/fact.ts';
import type {
  PayloadFact,
  PushChannelsFact,
  PushPermissionFact,
  PushRunFact,
  PushTokenFact,
} from '../../../src/core/model/facts/push.ts';
import { type Intent, intentSchema } from '../../../src/core/model/intent.ts';
import { aBuild, aCell, departures, observeApp, run } from '../../support/facts.ts';

const intent: Intent = intentSchema.parse({
  fenlok: 'intent/1',
  app: { id: aBuild.appId },
  locales: ['en', 'de'],
  screens: [
    { id: 'sailing', activity: 'SailingActivity' },
    { id: 'booking', activity: 'BookingActivity' },
  ],
  push: {
    channels: ['delays'],
    categories: ['delay'],
    messages: [
      {
        id: 'delay',
        payload: 'push/delay.json',
        screen: 'sailing',
        actions: [{ label: 'Book', screen: 'booking' }],
      },
      { id: 'sync', payload: 'push/sync.json' },
    ],
  },
});

const common = {
  platform: 'android' as const,
  evidence: 'trace',
  cell: aCell,
  deviceId: 'D',
  at: '2026-11-27',
};
const SAILING = 'example.app/.SailingActivity';
const aRun = (of: Partial<PushRunFact> = {}): PushRunFact => ({
  kind: 'push-run',
  ...common,
  message: 'delay',
  state: 'background',
  status: 200,
  shown: { channel: 'delays', title: 'Late', text: '', actions: ['Book'] },
  told: true,
  tapped: true,
  landed: SAILING,
  inApp: true,
  left: 0,
  ...of,
});
const CRASH = {
  exception: 'java.lang.NullPointerException',
  message: '',
  frame: 'example.app.Screen.onCreate',
};

test.each<
  [string, Partial<PushRunFact>, Partial<Record<'shown' | 'tap' | 'action' | 'silent' | 'badge', string>>]
>([
  ['all well', {}, {}],
  ['not shown', { shown: undefined, tapped: false }, { shown: 'message delay background' }],
  ['refused by the gateway', { status: 400, shown: undefined, tapped: false }, {}],
  ['crashed on the way', { crash: CRASH }, { shown: 'message delay background' }],
  ['lands elsewhere', { landed: 'example.app/.HomeActivity' }, { tap: 'message delay background' }],
  ['lands nowhere', { landed: '', inApp: false }, { tap: 'message delay background' }],
  [
    'lands in an app of others',
    { landed: 'other.app/.SailingActivity', inApp: false },
    { tap: 'message delay background' },
  ],
  ['a button that works', { action: 'Book', landed: 'example.app/.BookingActivity' }, {}],
  ['a button without effect', { action: 'Book', landed: '', inApp: false }, { action: 'message delay Book' }],
  ['a button that leads elsewhere', { action: 'Book' }, { action: 'message delay Book' }],
  [
    'a button that is not there',
    { action: 'Book', tapped: false, landed: '', inApp: false },
    { action: 'message delay Book' },
  ],
  ['left behind', { left: 1 }, { badge: 'message delay' }],
  ['woken', { message: 'sync', shown: undefined, tapped: false }, {}],
  [
    'not woken',
    { message: 'sync', shown: undefined, tapped: false, told: false },
    { silent: 'message sync not-woken background' },
  ],
  ['not silent', { message: 'sync', tapped: false }, { silent: 'message sync shown background' }],
  [
    'woken to crash',
    { message: 'sync', shown: undefined, tapped: false, crash: CRASH },
    { silent: 'message sync crash background' },
  ],
])('a message on a device: %s', (_, of, expected) => {
  const facts = [aRun(of)];
  const found = Object.fromEntries(
    Object.entries({
      shown: pushShown,
      tap: pushTap,
      action: pushAction,
      silent: pushSilent,
      badge: pushBadge,
    }).flatMap(([name, check]) =>
      departures(run(check, facts, intent)).map((one) => [name, one.replace('failed ', '')]),
    ),
  );
  expect(found).toEqual(expected);
});

test('of several runs the last one counts', () => {
  const facts = [aRun({ at: '2026-11-27T11', left: 0 }), aRun({ at: '2026-11-27T10', left: 2 })];
  expect(departures(run(pushBadge, facts, intent))).toEqual([]);
});

test.each<[string, Partial<PushPermissionFact>, string[]]>([
  ['asked and allowed', {}, []],
  ['asked and refused', { answer: 'refuse', granted: false }, []],
  ['never asked', { asked: false, granted: false }, ['failed permission not-asked allow']],
  ['an answer without effect', { granted: false }, ['failed permission not-taken allow']],
  [
    'shown all the same',
    { answer: 'refuse', granted: false, shown: 1 },
    ['failed permission shown-anyway refuse'],
  ],
  ['crashed', { answer: 'refuse', granted: false, crash: CRASH }, ['failed permission crash refuse']],
])('the permission: %s', (_, of, expected) => {
  const fact: PushPermissionFact = {
    kind: 'push-permission',
    ...common,
    asked: true,
    answer: 'allow',
    granted: true,
    shown: 0,
    ...of,
  };
  expect(departures(run(pushPermission, [fact], intent))).toEqual(expected);
});

const taken = { environment: 'production' as const, status: 200 };
const refused = { environment: 'production' as const, status: 400, reason: 'BadDeviceToken' };
const mismatch = { ...refused, status: 403, reason: 'SENDER_ID_MISMATCH' };
const renewed = { isToken: true, isRenewed: true, oldStatus: 410 };
test.each<[string, Partial<PushTokenFact>, string[]]>([
  ['all well', {}, []],
  ['none', { token: undefined, answers: [] }, ['none']],
  [
    'described in place of hex',
    { token: { bytes: 30, isHex: false, digest: 'd' }, answers: [refused] },
    ['form', 'refused'],
  ],
  ['no hex, and taken all the same', { token: { bytes: 142, isHex: false, digest: 'd' } }, []],
  [
    'of the development gateway',
    { answers: [refused, { environment: 'development', status: 200 }] },
    ['environment'],
  ],
  [
    'of another project',
    { service: 'messages', answers: [mismatch, { environment: 'development', status: 200 }] },
    ['sender'],
  ],
  ['of another project, with no second one to ask', { service: 'messages', answers: [mismatch] }, ['sender']],
  [
    'cut short, for Android',
    { service: 'messages', answers: [{ ...refused, reason: 'INVALID_ARGUMENT' }] },
    ['form', 'refused'],
  ],
  [
    'no longer registered, for Android',
    { service: 'messages', answers: [{ environment: 'production', status: 404, reason: 'UNREGISTERED' }] },
    ['refused'],
  ],
  ['of no gateway', { answers: [refused, { environment: 'development', status: 400 }] }, ['refused']],
  ['kept over an installation', { reinstalled: { ...renewed, isRenewed: false } }, ['not-renewed']],
  ['none any more', { reinstalled: { ...renewed, isToken: false, isRenewed: false } }, ['none-again']],
  ['the old one still good', { reinstalled: { ...renewed, oldStatus: 200 } }, ['old-accepted']],
])('the token: %s', (_, of, expected) => {
  const fact: PushTokenFact = {
    kind: 'push-token',
    ...common,
    token: { bytes: 32, isHex: true, digest: 'd' },
    service: 'gateway',
    answers: [taken],
    reinstalled: renewed,
    ...of,
  };
  expect(departures(run(pushToken, [fact], intent))).toEqual(
    expected.map((fault) => `failed token ${fault}`),
  );
});

const payload = (name: string, content: object): PayloadFact => ({
  kind: 'payload',
  platform: 'android',
  evidence: name,
  name,
  payload: readPushPayload(name, new TextEncoder().encode(JSON.stringify(content))),
});
const texts = [
  { key: 'late', locale: 'default', text: 'Late' },
  { key: 'late', locale: 'de', text: 'Verspätet um %1$d Minuten' },
];

test('payloads: those of this platform, and those that nobody added', () => {
  const facts = [
    ...observeApp({ texts }),
    payload('delay.json', {
      data: { since: 1 },
      android: { notification: { channel_id: 'delay', title_loc_key: 'late', body_loc_key: 'gone' } },
    }),
    payload('ios.json', { aps: { alert: 'x', category: 'nobody', badge: '1' } }),
  ];
  expect(departures(run(payloadRules, facts, intent))).toEqual(['failed delay.json wrong-type data.since']);
  expect(departures(run(payloadTarget, facts, intent))).toEqual(['failed delay.json channel']);
  expect(departures(run(payloadTexts, facts, intent)).sort()).toEqual([
    'failed delay.json body no-key',
    'failed delay.json body no-key',
    'failed delay.json title arguments',
  ]);
  for (const check of [payloadRules, payloadTarget, payloadTexts])
    expect(run(check, facts, intent)).toContainEqual({
      outcome: 'untested',
      missingEvidence: 'push/sync.json',
    });
  const nearest = run(payloadTarget, facts, intent).flatMap((one) =>
    'draft' in one ? [one.draft.occurrence.data.nearest] : [],
  );
  expect(nearest).toEqual(['delays']);
});

test('an app that deals with messages, of which nobody has named any', () => {
  const nobody = intentSchema.parse({ fenlok: 'intent/1', app: { id: aBuild.appId } });
  const outcomes = (of: Parameters<typeof observeApp>[0]) =>
    run(payloadRules, observeApp(of), nobody).map(({ outcome }) => outcome);
  expect(outcomes({})).toEqual([]);
  expect(outcomes({ ios: { entitlements: { 'aps-environment': 'production' } } })).toEqual(['untested']);
});

test.each<[string, Parameters<typeof observeApp>[0], string[]]>([
  ['nothing at all', {}, ['failed permission', 'failed service']],
  ['an old target', { targetSdk: 32 }, ['failed service']],
  ['iOS without an entitlement', { ios: {} }, ['failed entitlement', 'failed background-mode']],
  [
    'iOS with both',
    { ios: { entitlements: { 'aps-environment': 'production' }, backgroundModes: ['remote-notification'] } },
    [],
  ],
])('what a package declares: %s', (_, of, expected) => {
  const silent = payload('sync.json', { aps: { 'content-available': 1 } });
  expect(departures(run(pushSetup, [...observeApp(of), silent], intent))).toEqual(expected);
  // nobody has said that it sends any
  expect(run(pushSetup, [...observeApp(of), silent])).toEqual([]);
});

const named = (locale: string, ...channels: [id: string, name: string][]): PushChannelsFact => ({
  kind: 'push-channels',
  evidence: 'trace',
  platform: 'android',
  cell: { ...aCell, procedure: 'push' },
  at: '2026-11-23T10:00:00Z',
  deviceId: 'D1',
  locale,
  channels: channels.map(([id, name]) => ({ id, name })),
});
const titles = (texts: Record<string, string>) =>
  Object.entries(texts).map(
    ([locale, text]) =>
      ({
        kind: 'catalogue-text',
        platform: 'android',
        evidence: 'package',
        key: 'title',
        locale,
        text,
      }) as Fact,
  );

test.each<[what: string, facts: Fact[], found: string[]]>([
  [
    'a name in each language',
    [named('en', ['delays', 'Delays']), named('de', ['delays', 'Verspätungen'])],
    [],
  ],
  [
    'the same word, which the package has in German',
    [
      named('en', ['delays', 'Delays']),
      named('de', ['delays', 'Delays']),
      ...titles({ default: 'Delays', de: 'Verspätungen' }),
    ],
    ['failed channel delays source-language de'],
  ],
  [
    'the same word, which German has too',
    [
      named('en', ['delays', 'Chat']),
      named('de', ['delays', 'Chat']),
      ...titles({ default: 'Chat', de: 'Chat' }),
    ],
    [],
  ],
  [
    'the same word, and nobody knows',
    [named('en', ['delays', 'Chat']), named('de', ['delays', 'Chat'])],
    ['cantTell channel delays source-language de'],
  ],
  ['its id for a name', [named('en', ['delays', 'delays'])], ['failed channel delays nameless en']],
  ['none at all, which may be a system that lists them otherwise', [named('en'), named('de')], []],
  ['no such channel', [named('en', ['misc', 'Other'])], ['failed channel delays not-made']],
])('channels: %s', (_, facts, found) => {
  expect(departures(run(channelName, facts, intent))).toEqual(found);
});
