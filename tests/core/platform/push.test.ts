import { readPushPayload } from '../../../src/core/formats/push-payload.ts';
import { UnreadableError } from '../../../src/core/model/problem.ts';
import type { PushPayload } from '../../../src/core/model/push-payload.ts';
import { previewPayload } from '../../../src/core/platform/push/preview-payload.ts';
import { formatReason } from '../../../src/core/platform/push/reasons.ts';
import { textFor } from '../../../src/core/platform/push/text-for.ts';

const bytes = (value: unknown) =>
  new TextEncoder().encode(typeof value === 'string' ? value : JSON.stringify(value));
const read = (value: unknown, headers?: Record<string, string>): PushPayload =>
  readPushPayload('m.json', bytes(value), headers);
const said = ({ problems }: PushPayload): string[] =>
  problems.map(({ at, code, level }) => `${level} ${code} ${at}`.trim());

// Apple developer documentation, Generating a remote notification, tables 1 to 3
test.each<[string, object, string[]]>([
  ['a text', { aps: { alert: 'Boat' } }, []],
  [
    'everything there is',
    {
      aps: {
        alert: { title: 'a', subtitle: 'b', body: 'c', 'launch-image': 'd' },
        badge: 0,
        sound: { critical: 1, name: 's.caf', volume: 0.5 },
        'thread-id': 't',
        category: 'c',
        'mutable-content': 1,
        'target-content-id': 'x',
        'interruption-level': 'time-sensitive',
        'relevance-score': 1,
      },
      own: { deep: [1] },
    },
    [],
  ],
  ['keys with arguments', { aps: { alert: { 'loc-key': 'k', 'loc-args': ['a', 'b'] } } }, []],
  ['a badge in words', { aps: { alert: 'x', badge: '1' } }, ['error wrong-type aps.badge']],
  ['a badge below 0', { aps: { alert: 'x', badge: -1 } }, ['error wrong-type aps.badge']],
  ['half a badge', { aps: { alert: 'x', badge: 1.5 } }, ['error wrong-type aps.badge']],
  ['an alert of numbers', { aps: { alert: 7 } }, ['error wrong-type aps.alert', 'warning nothing-to-do aps']],
  [
    'a title of numbers',
    { aps: { alert: { title: 7 } } },
    ['error wrong-type aps.alert.title', 'warning nothing-to-do aps'],
  ],
  [
    'arguments of numbers',
    { aps: { alert: { 'loc-key': 'k', 'loc-args': [1] } } },
    ['error wrong-type aps.alert.loc-args'],
  ],
  [
    'arguments alone',
    { aps: { alert: { title: 'x', 'title-loc-args': ['a'] } } },
    ['error args-without-key aps.alert.title-loc-args'],
  ],
  [
    'true for 1',
    { aps: { 'content-available': true } },
    ['error wrong-type aps.content-available', 'warning nothing-to-do aps'],
  ],
  [
    'a level that is none',
    { aps: { alert: 'x', 'interruption-level': 'loud' } },
    ['error wrong-type aps.interruption-level'],
  ],
  [
    'a score above 1',
    { aps: { alert: 'x', 'relevance-score': 1.1 } },
    ['error wrong-type aps.relevance-score'],
  ],
  ['a volume above 1', { aps: { alert: 'x', sound: { volume: 2 } } }, ['error wrong-type aps.sound.volume']],
  ['a key of its own in aps', { aps: { alert: 'x', sailing: 2 } }, ['warning unknown-key aps.sailing']],
  [
    'a key written wrongly',
    { aps: { alert: { titel: 'x', body: 'y' } } },
    ['warning unknown-key aps.alert.titel'],
  ],
  ['nothing in aps', { aps: {} }, ['warning nothing-to-do aps']],
  ['aps is a list', { aps: [] }, ['error no-aps aps', 'warning nothing-to-do aps']],
  [
    'names that every object has',
    { aps: { alert: 'x', constructor: 1, __proto__x: 1 } },
    ['warning unknown-key aps.constructor', 'warning unknown-key aps.__proto__x'],
  ],
])('a message to iOS: %s', (_, payload, expected) => {
  expect(said(read(payload))).toEqual(expected);
});

// Sending notification requests to APNs, table of headers; Pushing background updates to your App
const TOPIC = { 'apns-topic': 'example.app' };
const silent = { aps: { 'content-available': 1 } };
test.each<[string, object, Record<string, string>, string[]]>([
  ['an alert', { aps: { alert: 'x' } }, { 'apns-push-type': 'alert', 'apns-priority': '10' }, []],
  ['silent as it should be', silent, { 'apns-push-type': 'background', 'apns-priority': '5' }, []],
  [
    'silent in a hurry',
    silent,
    { 'apns-push-type': 'background', 'apns-priority': '10' },
    ['error silent-priority header apns-priority'],
  ],
  [
    'silent, and nothing said',
    silent,
    { 'apns-push-type': 'background' },
    ['error silent-priority header apns-priority'],
  ],
  [
    'silent with an alert',
    { aps: { alert: 'x', 'content-available': 1 } },
    { 'apns-push-type': 'background', 'apns-priority': '5' },
    ['error silent-alert aps'],
  ],
  [
    'silent for nothing',
    { aps: { badge: 1 } },
    { 'apns-push-type': 'background', 'apns-priority': '5' },
    ['error silent-alert aps', 'error silent-available aps.content-available'],
  ],
  [
    'silent, sent as an alert',
    silent,
    { 'apns-push-type': 'alert' },
    ['warning silent-type header apns-push-type'],
  ],
  ['no type', { aps: { alert: 'x' } }, { 'apns-priority': '10' }, ['error header header apns-push-type']],
  [
    'a priority',
    { aps: { alert: 'x' } },
    { 'apns-push-type': 'alert', 'apns-priority': '3' },
    ['error header header apns-priority'],
  ],
  [
    'an expiration',
    { aps: { alert: 'x' } },
    { 'apns-push-type': 'alert', 'apns-expiration': '-1' },
    ['error header header apns-expiration'],
  ],
  [
    'an id',
    { aps: { alert: 'x' } },
    { 'apns-push-type': 'alert', 'apns-id': '7' },
    ['error header header apns-id'],
  ],
  [
    '65 bytes',
    { aps: { alert: 'x' } },
    { 'apns-push-type': 'alert', 'apns-collapse-id': `${'é'.repeat(32)}x` },
    ['error header header apns-collapse-id'],
  ],
  [
    'a call for the wrong topic',
    { aps: {} },
    { 'apns-push-type': 'voip' },
    ['error header header apns-topic', 'warning nothing-to-do aps'],
  ],
])('headers: %s', (_, payload, headers, expected) => {
  expect(said(read(payload, { ...TOPIC, ...headers }))).toEqual(expected);
});

test('sizes are those of the bytes that are sent', () => {
  const frame = '{"aps":{"alert":""}}';
  const of = (sizeBytes: number, headers?: Record<string, string>) =>
    said(read(frame.replace('""', `"${'x'.repeat(sizeBytes - frame.length)}"`), headers));
  expect(of(4096)).toEqual([]);
  expect(of(4097)).toEqual(['error too-large']);
  const voip = { 'apns-push-type': 'voip', 'apns-topic': 'a.voip' };
  expect([of(5120, voip), of(5121, voip)]).toEqual([[], ['error too-large']]);
  // bytes, not characters
  const umlauts = read(`{"aps":{"alert":"${'ü'.repeat(2040)}"}}`);
  expect([umlauts.sizeBytes, said(umlauts)]).toEqual([4100, ['error too-large']]);
});

test.each<[string, object, string[]]>([
  ['notification and data', { notification: { title: 'a', body: 'b' }, data: { k: 'v' } }, []],
  [
    'a whole request',
    {
      message: {
        token: 't',
        android: {
          priority: 'HIGH',
          ttl: '3.5s',
          notification: { channel_id: 'c', title_loc_key: 'k', title_loc_args: ['a'] },
        },
      },
    },
    [],
  ],
  ['a number in the data', { data: { since: 240 } }, ['error wrong-type data.since']],
  ['an object in the data', { data: { of: { deep: '1' } } }, ['error wrong-type data.of']],
  [
    'reserved keys',
    { data: { from: 'x', 'google.sent': 'y', message_type: 'z', fromage: 'ok' } },
    [
      'error reserved-key data.from',
      'error reserved-key data.google.sent',
      'error reserved-key data.message_type',
    ],
  ],
  ['an unknown key', { notification: { titel: 'a', body: 'b' } }, ['error unknown-key notification.titel']],
  ['seconds without an s', { data: { a: 'b' }, android: { ttl: '3600' } }, ['error wrong-type android.ttl']],
  [
    'a priority',
    { data: { a: 'b' }, android: { priority: 'urgent' } },
    ['error wrong-type android.priority'],
  ],
  [
    'arguments alone',
    { android: { notification: { body: 'b', body_loc_args: ['a'] } } },
    ['error args-without-key android.notification.body_loc_args'],
  ],
  ['too much data', { data: { k: 'x'.repeat(4096) } }, ['error too-large']],
  ['just enough', { data: { k: 'x'.repeat(4095) } }, []],
])('a message to Android: %s', (_, payload, expected) => {
  expect(said(read(payload))).toEqual(expected);
});

test('whom it is for, where it is to be sent', () => {
  const of = (message: object) => said(read({ message: { data: {}, ...message } }));
  expect(of({ token: 't' })).toEqual([]);
  expect([of({}), of({ token: 't', topic: 'x' })]).toEqual([
    ['error target message'],
    ['error target message'],
  ]);
});

test.each<[string, string | Uint8Array, RegExp]>([
  ['no JSON', '{"aps":', /m\.json: no JSON/],
  ['a list', '[]', /m\.json: a list; expected a JSON object/],
  ['a word', '"aps"', /a single value/],
  ['nothing', '', /no JSON/],
  ['for nobody', '{"hello":1}', /the keys hello; expected aps for iOS/],
  ['no UTF-8', Uint8Array.of(0x7b, 0xff, 0x7d), /bytes that are no UTF-8/],
])('what is no message: %s', (_, content, expected) => {
  const file = typeof content === 'string' ? bytes(content) : content;
  expect(() => readPushPayload('m.json', file)).toThrow(UnreadableError);
  expect(() => readPushPayload('m.json', file)).toThrow(expected);
});

test('what people read, in each language: keys, their arguments, and whether it is cut', () => {
  const texts = [
    { key: 'late', locale: 'default', text: 'The %1$s leaves at %2$s' },
    { key: 'late', locale: 'de', text: 'Um %2$s statt %1$s' },
    { key: 'late', locale: 'pl', text: 'Rejs %1$s' },
    { key: 'only', locale: 'de', text: 'Nur hier' },
  ];
  const of = (key: string, args: string[], locale: string) =>
    previewPayload(
      read({ android: { notification: { title_loc_key: key, title_loc_args: args } } }),
      locale,
      (wanted) => textFor(texts, wanted, locale),
    );
  expect(of('late', ['17:40', '17:55'], 'en').title).toBe('The 17:40 leaves at 17:55');
  expect(of('late', ['17:40', '17:55'], 'de-AT').title).toBe('Um 17:55 statt 17:40');
  expect(of('late', ['17:40', '17:55'], 'pl').trouble).toEqual([
    { kind: 'arguments', part: 'title', key: 'late', given: 2, needed: 1 },
  ]);
  expect(of('only', [], 'nb')).toMatchObject({ title: 'only', trouble: [{ kind: 'no-key', key: 'only' }] });
  const long = previewPayload(
    read({ aps: { alert: { title: 'x'.repeat(60), body: 'y'.repeat(60) } } }),
    'en',
    () => undefined,
  );
  expect(long.trouble).toEqual([{ kind: 'cut', part: 'title', linesNeeded: 2, linesShown: 1 }]);
});

test('every reason has words, also one that nobody documented', () => {
  for (const reason of ['BadDeviceToken', 'TooManyProviderTokenUpdates', 'Strange'])
    for (const words of Object.values(formatReason(reason))) expect(words).toMatch(/\.$/);
});
