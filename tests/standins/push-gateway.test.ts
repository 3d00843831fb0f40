/** The push gateway, through real clients: node:http2, curl, and Fenlok's own sender. */
import { execFile } from 'node:child_process';
import { existsSync, writeFileSync } from 'node:fs';
import { type ClientHttp2Session, connect, constants } from 'node:http2';
import { createServer, connect as openSocket } from 'node:net';
import { join } from 'node:path';
import { exportPKCS8, generateKeyPair, importPKCS8, SignJWT } from 'jose';
import { pushSender } from '../../src/node/push/send-push.ts';
import { DeviceLink } from '../../src/standins/device-link.ts';
import type { DeliveredPush, PushEnvironment } from '../../src/standins/push/gateway.ts';
import { Receiver } from '../../src/standins/push/receiver.ts';
import { type ServedGateway, serveGateway } from '../../src/standins/push/serve-gateway.ts';
import { scratchFolder } from '../support/paths.ts';

const APP = 'example.kelpline';
let now = Date.parse('2026-11-27T10:00:00Z');
let served: ServedGateway;
let session: ClientHttp2Session;
let link: DeviceLink<DeliveredPush, { environment: PushEnvironment }>;
let got: DeliveredPush[] = [];
let token: string;
let bearer: string;

const seconds = () => Math.floor(now / 1000);

async function signed(of: { issuedAtS?: number; keyId?: string; key?: string; team?: string } = {}) {
  const { address } = served;
  const key = await importPKCS8(of.key ?? address.key, 'ES256');
  return new SignJWT()
    .setProtectedHeader({ alg: 'ES256', kid: of.keyId ?? address.keyId })
    .setIssuer(of.team ?? address.team)
    .setIssuedAt(of.issuedAtS ?? seconds())
    .sign(key);
}

beforeAll(async () => {
  served = await serveGateway({ nowMs: () => now, slowMs: 400 });
  session = connect(served.address.production, { ca: served.address.ca });
  link = new DeviceLink<DeliveredPush, { environment: PushEnvironment }>({
    ...served.address,
    deviceId: 'phone',
    onMessage: (push) => got.push(push),
  });
  await link.goOnline();
  token = await link.register(APP, { environment: 'production' });
  bearer = `bearer ${await signed()}`;
});
afterAll(async () => {
  session.destroy();
  link.goOffline();
  await served.close();
});
beforeEach(() => {
  got = [];
});

interface Answer {
  status: number;
  reason?: string;
  id: string;
  /** Of the development gateway. */
  unique?: string;
}

/** As a client would that knows nothing of us. A header of `undefined` is left out. */
function post(
  of: {
    headers?: Record<string, string | string[] | undefined>;
    body?: string | Uint8Array;
    path?: string;
    method?: string;
    over?: ClientHttp2Session;
  } = {},
): Promise<Answer> {
  const headers = {
    ':method': of.method ?? 'POST',
    ':path': of.path ?? `/3/device/${token}`,
    authorization: bearer,
    'apns-topic': APP,
    'apns-push-type': 'alert',
    ...of.headers,
  };
  const given = Object.fromEntries(Object.entries(headers).filter(([, value]) => value !== undefined));
  return new Promise((resolve, reject) => {
    const stream = (of.over ?? session).request(given as Record<string, string>);
    let [status, id, text] = [0, '', ''];
    let unique: string | undefined;
    stream.on('response', (answer) => {
      status = Number(answer[':status']);
      id = String(answer['apns-id']);
      unique = answer['apns-unique-id']?.toString();
    });
    stream.setEncoding('utf8');
    stream.on('data', (piece: string) => {
      text += piece;
    });
    stream.on('error', reject);
    stream.on('end', () =>
      resolve({ status, id, ...(unique && { unique }), ...(text ? JSON.parse(text) : {}) }),
    );
    stream.end(of.body ?? '{"aps":{"alert":"Boat"}}');
  });
}

/** Messages come on another line than answers. */
async function arrival(wanted: string): Promise<void> {
  while (!got.some(({ id }) => id === wanted)) await new Promise((resolve) => setImmediate(resolve));
}

const big = (bytes: number): string => {
  const frame = '{"aps":{"alert":""}}';
  return frame.replace('""', `"${'x'.repeat(bytes - frame.length)}"`);
};

test('a message goes through, once, with the id that it was given', async () => {
  const id = '11111111-2222-4333-8444-555555555555';
  expect(await post({ headers: { 'apns-id': id } })).toEqual({ status: 200, id });
  await arrival(id);
  expect(got.map((push) => [push.appId, push.id, push.payload])).toEqual([
    [APP, id, '{"aps":{"alert":"Boat"}}'],
  ]);
});

// Apple developer documentation, Handling notification responses from APNs, table of reasons
test.each<[string, Parameters<typeof post>[0], number, string]>([
  [
    'a channel of no type',
    { path: `/1/apps/${APP}/channels`, body: '{"message-storage-policy":1}' },
    400,
    'MissingPushType',
  ],
  ['no provider token', { headers: { authorization: undefined } }, 403, 'MissingProviderToken'],
  ['no token of ours', { headers: { authorization: 'bearer abc' } }, 403, 'InvalidProviderToken'],
  ['a path of its own', { path: '/4/device/abc' }, 404, 'BadPath'],
  ['no POST', { method: 'PUT' }, 405, 'MethodNotAllowed'],
  ['no device', { path: '/3/device/' }, 400, 'MissingDeviceToken'],
  ['a device that nobody knows', { path: `/3/device/${'ab'.repeat(32)}` }, 400, 'BadDeviceToken'],
  ['no topic', { headers: { 'apns-topic': undefined } }, 400, 'MissingTopic'],
  ['a topic that is none', { headers: { 'apns-topic': 'a b' } }, 400, 'BadTopic'],
  ['the topic of another app', { headers: { 'apns-topic': 'example.other' } }, 400, 'DeviceTokenNotForTopic'],
  ['no such type', { headers: { 'apns-push-type': 'loud' } }, 400, 'InvalidPushType'],
  ['a priority that is none', { headers: { 'apns-priority': '7' } }, 400, 'BadPriority'],
  ['a silent one in a hurry', { headers: { 'apns-push-type': 'background' } }, 400, 'BadPriority'],
  ['a date in words', { headers: { 'apns-expiration': 'soon' } }, 400, 'BadExpirationDate'],
  ['a topic twice', { headers: { 'apns-topic': [APP, APP] } }, 400, 'DuplicateHeaders'],
  ['an id that is none', { headers: { 'apns-id': 'mine' } }, 400, 'BadMessageId'],
  [
    '65 bytes to collapse by',
    { headers: { 'apns-collapse-id': `${'é'.repeat(32)}x` } },
    400,
    'BadCollapseId',
  ],
  ['64 bytes to collapse by', { headers: { 'apns-collapse-id': 'é'.repeat(32) } }, 200, ''],
  ['nothing', { body: '' }, 400, 'PayloadEmpty'],
  ['4096 bytes', { body: big(4096) }, 200, ''],
  ['4097 bytes', { body: big(4097) }, 413, 'PayloadTooLarge'],
  ['2 MB', { body: big(2 * 2 ** 20) }, 413, 'PayloadTooLarge'],
  [
    '5120 bytes for a call',
    { body: big(5120), headers: { 'apns-push-type': 'voip', 'apns-topic': `${APP}.voip` } },
    200,
    '',
  ],
  [
    '5121 bytes for a call',
    { body: big(5121), headers: { 'apns-push-type': 'voip', 'apns-topic': `${APP}.voip` } },
    413,
    'PayloadTooLarge',
  ],
])('%s', async (_, of, status, reason) => {
  // header values travel as latin 1
  const headers = Object.fromEntries(
    Object.entries(of?.headers ?? {}).map(([name, value]) => [
      name,
      typeof value === 'string' ? Buffer.from(value).toString('latin1') : value,
    ]),
  );
  expect(await post({ ...of, headers })).toMatchObject({ status, ...(reason && { reason }) });
});

// Apple developer documentation, Sending notification requests to APNs, table of apns-push-type
const TOPICS: Record<string, string> = {
  alert: APP,
  background: APP,
  location: `${APP}.location-query`,
  voip: `${APP}.voip`,
  complication: `${APP}.complication`,
  fileprovider: `${APP}.pushkit.fileprovider`,
  liveactivity: `${APP}.push-type.liveactivity`,
  pushtotalk: `${APP}.voip-ptt`,
  widgets: `${APP}.push-type.widgets`,
  controls: `${APP}.push-type.controls`,
};
test.each(Object.keys(TOPICS))('the type %s goes to its own topic alone', async (type) => {
  for (const topic of [...new Set(Object.values(TOPICS)), `${APP}.widget`]) {
    const headers = { 'apns-push-type': type, 'apns-topic': topic, 'apns-priority': '5' };
    const expected =
      topic === TOPICS[type] ? { status: 200 } : { status: 400, reason: 'DeviceTokenNotForTopic' };
    expect([topic, await post({ headers })]).toMatchObject([topic, expected]);
  }
});

test('the other environment does not know the token, and gives its messages an id for its log', async () => {
  const over = connect(served.address.development, { ca: served.address.ca });
  expect(await post({ over })).toMatchObject({ status: 400, reason: 'BadDeviceToken' });
  const path = `/3/device/${await link.register(APP, { environment: 'development' })}`;
  expect(await post({ over, path })).toMatchObject({
    status: 200,
    unique: expect.stringMatching(/^[0-9A-F-]{36}$/),
  });
  expect((await post()).unique).toBeUndefined();
  over.destroy();
});

test('a request that stops half-way is given up, and the next one is answered', async () => {
  const other = await serveGateway({ restMs: 50 });
  const over = connect(other.address.production, { ca: other.address.ca });
  const half = over.request({ ':method': 'POST', ':path': `/3/device/${token}` });
  half.write('{"aps"');
  await new Promise((resolve) => half.once('close', resolve));
  expect(await post({ over, headers: { authorization: undefined } })).toMatchObject({ status: 403 });
  over.destroy();
  await other.close();
});

/** How a connection ended: the reason in its last frame. */
const goodbye = (of: ClientHttp2Session): Promise<string> =>
  new Promise((resolve) =>
    of.once('goaway', (_code, _last, data) => resolve(JSON.parse(String(data)).reason)),
  );

// statuses: the same table
test.each([
  [400, 'TopicDisallowed'],
  [400, 'IdleTimeout'],
  [403, 'BadCertificate'],
  [410, 'ExpiredToken'],
  [429, 'TooManyRequests'],
  [500, 'InternalServerError'],
  [503, 'ServiceUnavailable'],
  [503, 'Shutdown'],
] as const)('%s %s, once, on demand', async (status, reason) => {
  const over = connect(served.address.production, { ca: served.address.ca });
  const ended = goodbye(over);
  served.gateway.fail(reason);
  const id = '11111111-2222-4333-8444-555555555555';
  expect(await post({ over, headers: { 'apns-id': id } })).toEqual({ status, reason, id });
  if (reason === 'IdleTimeout' || reason === 'Shutdown') expect(await ended).toBe(reason);
  expect(await post()).toMatchObject({ status: 200 });
  over.destroy();
});

test('a connection is told why it ends: it was idle, or the gateway stops', async () => {
  for (const [idleMs, reason] of [
    [20, 'IdleTimeout'],
    [60_000, 'Shutdown'],
  ] as const) {
    const other = await serveGateway({ idleMs });
    const over = connect(other.address.production, { ca: other.address.ca });
    const ended = goodbye(over);
    await new Promise((resolve) => over.once('remoteSettings', resolve));
    if (reason === 'Shutdown') await other.close();
    expect(await ended).toBe(reason);
    over.destroy();
    await other.close();
  }
});

test('provider tokens: another key, another key id, another team, an hour old, renewed too often', async () => {
  const strange = await exportPKCS8((await generateKeyPair('ES256', { extractable: true })).privateKey);
  const answerTo = async (of: Parameters<typeof signed>[0]) =>
    (await post({ headers: { authorization: `bearer ${await signed(of)}` } })).reason ?? 'taken';
  expect(await answerTo({ key: strange })).toBe('InvalidProviderToken');
  expect(await answerTo({ keyId: 'OTHERKEY01' })).toBe('InvalidProviderToken');
  expect(await answerTo({ team: 'OTHERTEAM1' })).toBe('InvalidProviderToken');
  expect(await answerTo({ issuedAtS: seconds() - 3601 })).toBe('ExpiredProviderToken');
  expect(await answerTo({ issuedAtS: seconds() + 60 })).toBe('InvalidProviderToken');
  expect(await answerTo({ issuedAtS: seconds() - 60 })).toBe('TooManyProviderTokenUpdates');
  // the same moment, signed by another process
  expect(await answerTo({})).toBe('taken');
  now += 20 * 60_000;
  expect(await answerTo({})).toBe('taken');
  bearer = `bearer ${await signed()}`;
});

test.each([
  ['connection', 200, undefined],
  ['strict', 429, 'TooManyProviderTokenUpdates'],
] as const)(
  'a backend that restarts with a new provider token, by the policy %s',
  async (tokenPolicy, status, reason) => {
    const other = await serveGateway({ nowMs: () => now, tokenPolicy });
    const key = await importPKCS8(other.address.key, 'ES256');
    const device = new DeviceLink<DeliveredPush, { environment: PushEnvironment }>({
      ...other.address,
      deviceId: 'phone',
      onMessage: () => {},
    });
    await device.goOnline();
    const path = `/3/device/${await device.register(APP, { environment: 'production' })}`;
    const answers: Answer[] = [];
    for (const issuedAtS of [seconds() - 60, seconds()]) {
      const over = connect(other.address.production, { ca: other.address.ca });
      const { keyId, team } = other.address;
      const jwt = new SignJWT().setProtectedHeader({ alg: 'ES256', kid: keyId }).setIssuer(team);
      const authorization = `bearer ${await jwt.setIssuedAt(issuedAtS).sign(key)}`;
      answers.push(await post({ over, path, headers: { authorization } }));
      over.destroy();
    }
    expect(answers).toMatchObject([{ status: 200 }, reason ? { status, reason } : { status }]);
    device.goOffline();
    await other.close();
  },
);

test('an app that was removed: its token is refused, and it gets another one', async () => {
  const old = await link.register('example.short-lived', { environment: 'production' });
  link.unregister('example.short-lived');
  const renewed = await link.register('example.short-lived', { environment: 'production' });
  expect(renewed).not.toBe(old);
  expect(await link.register('example.short-lived', { environment: 'production' })).toBe(renewed);
  const to = (path: string) =>
    post({ path: `/3/device/${path}`, headers: { 'apns-topic': 'example.short-lived' } });
  expect(await to(old)).toMatchObject({ status: 410, reason: 'Unregistered', timestamp: now });
  expect(await to(renewed)).toMatchObject({ status: 200 });
});

test('a device that is away gets the newest message when it comes back, if it has not expired', async () => {
  const messages: DeliveredPush[] = [];
  let arrived = () => {};
  const away = new DeviceLink<DeliveredPush, { environment: PushEnvironment }>({
    ...served.address,
    deviceId: 'away',
    onMessage: (push) => {
      messages.push(push);
      arrived();
    },
  });
  await away.goOnline();
  const path = `/3/device/${await away.register(APP, { environment: 'production' })}`;
  const send = (text: string, expiration?: number) =>
    post({
      path,
      body: JSON.stringify({ aps: { alert: text } }),
      headers: { 'apns-expiration': expiration === undefined ? undefined : String(expiration) },
    });
  const comeBack = async () => {
    const next = new Promise<void>((resolve) => {
      arrived = resolve;
    });
    await away.goOnline();
    // what waits comes first, so that this one tells that there was nothing
    await send('marker');
    await next;
  };
  /** Until the gateway has seen it go: what is sent while it is away is not delivered. */
  const leave = async () => {
    away.goOffline();
    let before: number;
    do {
      before = served.gateway.counts.delivered;
      await send('x', 0);
    } while (served.gateway.counts.delivered > before);
  };
  await leave();
  for (const text of ['first', 'second']) await send(text);
  await comeBack();
  await leave();
  await send('for this moment alone', 0);
  await comeBack();
  const texts = messages.map(({ payload }) => (JSON.parse(payload) as { aps: { alert: string } }).aps.alert);
  expect(texts.filter((text) => text !== 'x')).toEqual(['second', 'marker', 'marker']);
  away.goOffline();
});

test('what goes wrong on demand, and how the sender reports it', async () => {
  const gateway = { ...served.address };
  // a provider token of its own, for this half hour
  now += 40 * 60_000;
  bearer = `bearer ${await signed()}`;
  const sender = await pushSender(gateway, { answersWithinMs: 150, nowMs: () => now });
  const push = {
    environment: 'production' as const,
    token,
    headers: { 'apns-topic': APP, 'apns-push-type': 'alert' },
    body: new TextEncoder().encode('{"aps":{"alert":"Boat"}}'),
  };
  served.gateway.fail('TooManyRequests');
  served.gateway.fail('InternalServerError');
  expect(await sender.send(push)).toMatchObject({ status: 429, reason: 'TooManyRequests' });
  expect(await sender.send(push)).toMatchObject({ status: 500, reason: 'InternalServerError' });
  served.gateway.fail('drop');
  await expect(sender.send(push)).rejects.toThrow(/closed the connection|cannot be reached/);
  served.gateway.fail('slow');
  await expect(sender.send(push)).rejects.toThrow('gives no answer within 0.15 s');
  // and it goes on on a new connection
  expect(await sender.send(push)).toMatchObject({ status: 200 });
  // signed in the same half hour by another process
  const other = await pushSender(gateway, { nowMs: () => now + 1000 });
  expect(await other.send(push)).toMatchObject({ status: 200 });
  for (const one of [sender, other]) one.close();
  const mute = createServer(() => {});
  await new Promise<void>((resolve) => mute.listen(0, '127.0.0.1', resolve));
  const { port } = mute.address() as { port: number };
  const lost = await pushSender(
    { ...gateway, production: `https://127.0.0.1:${port}` },
    { answersWithinMs: 100 },
  );
  await expect(lost.send(push)).rejects.toMatchObject({ name: 'OutOfReach' });
  lost.close();
  mute.close();
  await expect(pushSender({ ...gateway, key: 'not a key' })).rejects.toThrow(/cannot be read/);
});

test('several senders never renew the provider token too often, at whatever minute they begin', async () => {
  // ten seconds before a half hour, with a gateway that nobody has asked yet
  let at = Math.ceil(now / 1_800_000) * 1_800_000 - 10_000;
  const fresh = await serveGateway({ nowMs: () => at, tokenPolicy: 'strict' });
  const senders = await Promise.all([0, 1, 2].map(() => pushSender(fresh.address, { nowMs: () => at })));
  const answerTo = (i: number) =>
    senders[i]!.send({
      environment: 'production',
      token: 'ab'.repeat(32),
      headers: { 'apns-topic': APP, 'apns-push-type': 'alert' },
      body: new TextEncoder().encode('{"aps":{"alert":"Boat"}}'),
    });
  const reasons = new Set<string | undefined>();
  // over the half hour, and on through hours in steps that fall on every side of the next ones
  const STEPS_S = [0, 20, 1, 600, 900, 299, 2, 1700, 90, 1201, 3500, 10, 1799, 3, 4000, 5];
  for (const [step, waitS] of STEPS_S.entries()) {
    at += waitS * 1000;
    for (const i of [step % 3, (step + 1) % 3]) reasons.add((await answerTo(i)).reason);
  }
  for (const sender of senders) sender.close();
  await fresh.close();
  // nobody has this device token, which is looked at after who sends
  expect([...reasons]).toEqual(['BadDeviceToken']);
});

test('10,000 messages on one connection, none lost and none twice', async () => {
  const ids = new Set<string>();
  const WINDOW = 100;
  for (let sent = 0; sent < 10_000; sent += WINDOW) {
    const answers = await Promise.all(Array.from({ length: WINDOW }, () => post()));
    for (const { id, status } of answers) {
      expect(status).toBe(200);
      ids.add(id);
    }
  }
  // one more, behind all of them on the device's line
  const last = await post();
  await arrival(last.id);
  expect(ids.size).toBe(10_000);
  const mine = got.filter(({ id }) => ids.has(id));
  expect([mine.length, new Set(mine.map(({ id }) => id)).size]).toEqual([10_000, 10_000]);
});

const scratch = scratchFolder();
(existsSync('/usr/bin/curl') ? test : test.skip)('curl speaks to it over HTTP/2', async () => {
  writeFileSync(join(scratch, 'ca.pem'), served.address.ca);
  const url = `${served.address.production}/3/device/${token}`;
  const ask = (...args: string[]) =>
    new Promise<string>((resolve, reject) =>
      execFile(
        'curl',
        ['-sS', '--http2', '--cacert', 'ca.pem', '-w', ' %{http_version} %{http_code}', ...args],
        { cwd: scratch },
        (error, out) => (error ? reject(error) : resolve(out)),
      ),
    );
  const data = ['-d', '{"aps":{"alert":"Boat"}}', '-H', `apns-topic: ${APP}`, '-H', 'apns-push-type: alert'];
  expect(await ask(...data, '-H', `authorization: ${bearer}`, url)).toBe(' 2 200');
  expect(await ask(...data, url)).toBe('{"reason":"MissingProviderToken"} 2 403');
});

test('a receiver as iOS has it: shown or not, by permission and state', async () => {
  const app = {
    appId: APP,
    environment: 'production' as const,
    showsInFront: false,
    categories: { delay: ['rebook'] },
  };
  const receiver = new Receiver(app, served.address, 'receiver');
  await receiver.goOnline();
  const path = `/3/device/${await receiver.register()}`;
  const kinds = async (payload: object) => {
    const from = receiver.lines.length;
    const next = new Promise<void>((resolve) => receiver.onLine(() => resolve()));
    await post({ path, body: JSON.stringify(payload) });
    await next;
    return receiver.lines
      .slice(from)
      .map(({ kind, state, why }) => [kind, state ?? why].filter(Boolean).join(' '));
  };
  const alert = { aps: { alert: 'Boat', category: 'delay' } };
  expect(await kinds(alert)).toEqual(['push.not-shown permission not-asked']);
  receiver.answer('refused');
  expect(await kinds(alert)).toEqual(['push.not-shown permission refused']);
  receiver.answer('granted');
  expect(await kinds(alert)).toEqual(['push.not-shown permission refused']);
  receiver.reinstall();
  const again = await receiver.register();
  expect(path).not.toContain(again);
  expect(await post({ path })).toMatchObject({ status: 410 });
  receiver.answer('granted');
  const renewed = `/3/device/${again}`;
  const sent = async (payload: object) => {
    const next = new Promise<void>((resolve) => receiver.onLine(() => resolve()));
    await post({ path: renewed, body: JSON.stringify(payload) });
    await next;
    return receiver.lines.at(-1)!;
  };
  expect(await sent(alert)).toMatchObject({ kind: 'push.shown', state: 'not-running' });
  receiver.tap('dismiss');
  expect(receiver.lines.at(-1)).toMatchObject({ kind: 'push.no-action', action: 'dismiss' });
  receiver.tap('rebook');
  expect(receiver.lines.at(-1)).toMatchObject({ kind: 'push.opened', action: 'rebook' });
  expect(await sent(alert)).toMatchObject({ kind: 'push.not-shown', why: 'in front' });
  receiver.leave();
  expect(await sent({ aps: { 'content-available': 1 } })).toMatchObject({ kind: 'push.woke' });
  expect(await sent({ aps: { badge: 3 } })).toMatchObject({ kind: 'push.badge', badge: 3 });
  // a call goes to the part of the app that takes calls, and the system shows nothing
  const call = { path: renewed, headers: { 'apns-push-type': 'voip', 'apns-topic': `${APP}.voip` } };
  const woken = new Promise<void>((resolve) => receiver.onLine(() => resolve()));
  await post({ ...call, body: JSON.stringify(alert) });
  await woken;
  expect(receiver.lines.at(-1)).toMatchObject({ kind: 'push.woke', type: 'voip' });
  receiver.clearBadge();
  expect(receiver.badge).toBe(0);
  receiver.goOffline();
});

const UNREADABLE = [
  'no JSON',
  'null',
  '5',
  '[]',
  '{"aps":null,"data":5}',
  '{"aps":7,"notification":{"title":7}}',
];

test('what cannot be read is taken and dropped by the device, and it goes on', async () => {
  const app = { appId: APP, environment: 'production' as const, showsInFront: true, categories: {} };
  const receiver = new Receiver(app, served.address, 'dropping');
  await receiver.goOnline();
  receiver.answer('granted');
  try {
    const path = `/3/device/${await receiver.register()}`;
    const shown = new Promise<void>((resolve) =>
      receiver.onLine(({ kind }) => kind === 'push.shown' && resolve()),
    );
    for (const body of UNREADABLE) expect(await post({ path, body })).toMatchObject({ status: 200 });
    await post({ path });
    await shown;
    expect(receiver.lines.filter(({ why }) => why === 'not readable')).toHaveLength(UNREADABLE.length);
  } finally {
    receiver.goOffline();
  }
});

test('a request that is given up half-way, and a device that says nothing sensible, end nothing', async () => {
  const { address } = served;
  const client = connect(address.production, { ca: address.ca });
  const upload = client.request({ ':method': 'POST', ':path': `/3/device/${token}` });
  const closed = new Promise((resolve) => upload.once('close', resolve));
  upload.write('{"aps"');
  await new Promise((resolve) => client.ping(resolve));
  upload.close(constants.NGHTTP2_CANCEL);
  await closed;
  client.destroy();
  for (const line of ['null\n', '7\n', 'hello\n', '{"do":"register"}\n']) {
    const [host, port] = address.devices.split(':');
    const device = openSocket(Number(port), host);
    const cutOff = new Promise((resolve) => device.once('close', resolve));
    device.end(line);
    device.resume();
    await cutOff;
  }
  const { id } = await post();
  await arrival(id);
});
