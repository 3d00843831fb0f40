/**
 * Android's messaging service through the vendor's own client: it signs in as a service account, sends, and reads the errors.
 * Every socket that is not loopback is refused.
 */
import { readFileSync } from 'node:fs';
import { Socket } from 'node:net';
import { join } from 'node:path';
import { auth, fcm, type fcm_v1 } from '@googleapis/fcm';
import fc from 'fast-check';
import { importPKCS8, SignJWT } from 'jose';
import { MESSAGE_FIELDS } from '../../src/core/platform/push/android-message.ts';
import { MESSAGE_ERRORS } from '../../src/core/platform/push/message-errors.ts';
import { parseTopicCondition } from '../../src/core/platform/push/topic-condition.ts';
import { DeviceLink } from '../../src/standins/device-link.ts';
import type { ServiceAccount } from '../../src/standins/messages/access-tokens.ts';
import {
  type DeletedMessages,
  type DeliveredMessage,
  MessageService,
} from '../../src/standins/messages/message-service.ts';
import { type ServedMessages, serveMessages } from '../../src/standins/messages/serve-messages.ts';
import { root } from '../support/paths.ts';

const APP = 'example.kelpline';
let now = Date.now();
let served: ServedMessages;
let client: fcm_v1.Fcm;
let phone: TestDevice;
const connectAnywhere = Socket.prototype.connect;

/** A device that waits for what comes. */
class TestDevice {
  readonly link: DeviceLink<DeliveredMessage | DeletedMessages, { project: string }>;
  got: (DeliveredMessage | DeletedMessages)[] = [];
  #listen = () => {};

  constructor(deviceId: string) {
    this.link = new DeviceLink({
      ...served.address,
      deviceId,
      onMessage: (message) => {
        this.got.push(message);
        this.#listen();
      },
    });
  }

  async registered(appId = APP, project = 'kelpline'): Promise<string> {
    await this.link.goOnline();
    return this.link.register(appId, { project });
  }

  /** Lines to the service are taken in order: once one is answered, those before it were done. */
  async told(line: object): Promise<void> {
    this.link.tell(line);
    await this.link.register('example.settles', { project: 'kelpline' });
  }

  arrived(count: number): Promise<(DeliveredMessage | DeletedMessages)[]> {
    return new Promise((resolve) => {
      this.#listen = () => {
        if (this.got.length >= count) resolve(this.got);
      };
      this.#listen();
    });
  }
}

/** The client asks the vendor's token address, whatever the account's file says: its requests there go to the stand-in. */
function senderWith({ client_email, private_key, private_key_id, token_uri }: ServiceAccount): fcm_v1.Fcm {
  const jwt = new auth.JWT({
    email: client_email,
    key: private_key,
    keyId: private_key_id,
    scopes: ['https://www.googleapis.com/auth/firebase.messaging'],
  });
  const { transporter } = jwt;
  const request = transporter.request.bind(transporter);
  const toStandIn: typeof request = (options) =>
    request({ ...options, url: String(options.url).replace(/^https:\/\/[^/]+\/.*token$/, token_uri) });
  transporter.request = toStandIn;
  // what signs in takes a transporter of its own
  const signIn = jwt as unknown as { createGToken(): { transporter: { request: unknown } } };
  const make = signIn.createGToken.bind(jwt);
  signIn.createGToken = () => Object.assign(make(), { transporter: { request: toStandIn } });
  return fcm({ version: 'v1', auth: jwt, rootUrl: `${served.address.url}/` });
}

beforeAll(async () => {
  Socket.prototype.connect = function (this: Socket, ...args: unknown[]) {
    const [first] = args.flat() as [{ host?: string } | number];
    const host = typeof first === 'object' ? first.host : (args.flat()[1] as string);
    if (!['127.0.0.1', 'localhost', '::1'].includes(host ?? '')) throw new Error(`not loopback: ${host}`);
    return Reflect.apply(connectAnywhere, this, args);
  } as typeof connectAnywhere;
  served = await serveMessages({ nowMs: () => now });
  client = senderWith(served.address.serviceAccount);
  phone = new TestDevice('phone');
});
afterAll(async () => {
  phone.link.goOffline();
  await served.close();
  Socket.prototype.connect = connectAnywhere;
});
beforeEach(() => {
  phone.got = [];
});

type Request = fcm_v1.Schema$SendMessageRequest;
type Refused = {
  response: { status: number; headers: Record<string, string>; data: { error: GoogleStatus } };
};
interface GoogleStatus {
  status: string;
  details: { '@type': string; errorCode?: string; fieldViolations?: { field: string }[] }[];
}

const send = (request: Request, { by = client, project = 'kelpline' } = {}) =>
  by.projects.messages.send({ parent: `projects/${project}`, requestBody: request }, { retry: false }).then(
    ({ data }) => ({ name: data.name }),
    (error: Refused) => {
      const { status: rpcStatus, details } = error.response.data.error;
      return {
        status: error.response.status,
        rpcStatus,
        code: details.find(({ errorCode }) => errorCode)?.errorCode,
        field: details.flatMap(({ fieldViolations = [] }) => fieldViolations)[0]?.field,
        retryAfter: error.response.headers['retry-after'],
      };
    },
  );

test("the vendor's client sends to a device: texts, data and options arrive as the reference names them", async () => {
  const token = await phone.registered();
  const android: fcm_v1.Schema$AndroidConfig = {
    collapseKey: 'delay',
    priority: 'HIGH',
    ttl: '3600s',
    data: { from_pier: 'north' },
    notification: { channelId: 'delays', titleLocKey: 'alert_late_title', titleLocArgs: ['17:40'] },
  };
  const answer = await send({
    message: { token, notification: { body: 'Late' }, data: { kind: 'delay' }, android },
  });
  expect(answer).toEqual({ name: expect.stringMatching(/^projects\/kelpline\/messages\/\S+$/) });
  const arrived = {
    appId: APP,
    priority: 'high',
    data: { kind: 'delay', from_pier: 'north' },
    notification: {
      body: 'Late',
      channel_id: 'delays',
      title_loc_key: 'alert_late_title',
      title_loc_args: ['17:40'],
    },
  };
  expect(await phone.arrived(1)).toMatchObject([arrived]);
  // a trial is looked at, and reaches nobody
  expect(await send({ validateOnly: true, message: { token } })).toHaveProperty('name');
  expect(await send({ message: { token, data: { last: '1' } } })).toHaveProperty('name');
  expect(await phone.arrived(2)).toMatchObject([arrived, { data: { last: '1' } }]);
});

const WRONG: [string, fcm_v1.Schema$Message & Record<string, unknown>, string][] = [
  ['nobody', {}, 'message'],
  ['two at once', { token: 'a:b', topic: 'north' }, 'message'],
  ['a token that is none', { token: 'no token' }, 'message.token'],
  ['data that is no text', { token: 'a:b', data: { n: 4 as unknown as string } }, 'message.data.n'],
  ['a reserved key', { token: 'a:b', data: { 'google.x': '1' } }, 'message.data.google.x'],
  ['a field that there is not', { token: 'a:b', sound: 'x' }, 'message.sound'],
  ['a life without its unit', { token: 'a:b', android: { ttl: '60' } }, 'message.android.ttl'],
  ['a life of five weeks', { token: 'a:b', android: { ttl: '3024000s' } }, 'message.android.ttl'],
  ['a priority of its own', { token: 'a:b', android: { priority: 'URGENT' } }, 'message.android.priority'],
  [
    'a colour by name',
    { token: 'a:b', android: { notification: { color: 'red' } } },
    'message.android.notification.color',
  ],
  ['too much data', { token: 'a:b', data: { k: 'x'.repeat(4096) } }, 'message'],
  ['a topic with a space', { topic: 'north pier' }, 'message.topic'],
  ['half a condition', { condition: "'north' in topics &&" }, 'message.condition'],
];
test.each(WRONG)('refused as INVALID_ARGUMENT with the field: %s', async (_, message, field) => {
  expect(await send({ message })).toMatchObject({
    status: 400,
    rpcStatus: 'INVALID_ARGUMENT',
    code: 'INVALID_ARGUMENT',
    field,
  });
});

test('each documented code: when it is due, and on demand', async () => {
  const device = new TestDevice('codes');
  const token = await device.registered();
  const gone = await device.registered('example.gone');
  await device.told({ do: 'unregister', appId: 'example.gone' });
  const other = senderWith(served.address.development.serviceAccount);
  const to = (one: string) => ({ message: { token: one } });
  expect(await send(to(gone))).toMatchObject({ status: 404, rpcStatus: 'NOT_FOUND', code: 'UNREGISTERED' });
  expect(await send(to('never:registered'))).toMatchObject({ status: 404, code: 'UNREGISTERED' });
  expect(await send(to(token), { by: other, project: 'kelpline-test' })).toMatchObject({
    status: 403,
    code: 'SENDER_ID_MISMATCH',
  });
  expect(await send(to(token), { by: other })).toMatchObject({ status: 403, rpcStatus: 'PERMISSION_DENIED' });
  for (let i = 0; i < 240; i++) served.service.send('kelpline', to(token));
  expect(await send(to(token))).toMatchObject({ status: 429, code: 'QUOTA_EXCEEDED', retryAfter: '10' });
  now += 60_000;
  expect(await send(to(token))).toHaveProperty('name');
  for (const [code, { httpStatus, rpcStatus }] of Object.entries(MESSAGE_ERRORS)) {
    // the client may sign in and send once more by itself
    served.service.fail(code, 2);
    expect(await send(to(token))).toMatchObject({ status: httpStatus, rpcStatus });
    while (served.service.nextFault());
  }
  device.link.goOffline();
});

const ask = (form: Record<string, string>, address = served.address.serviceAccount.token_uri) =>
  fetch(address, { method: 'POST', body: new URLSearchParams(form) }).then((response) => response.json());
const GRANT = 'urn:ietf:params:oauth:grant-type:jwt-bearer';

async function assertionWith(
  of: { aud?: string; scope?: string; lifeS?: number; key?: string; issuer?: string; issuedS?: number } = {},
) {
  const { client_email, private_key, token_uri } = served.address.serviceAccount;
  const { aud = token_uri, key = private_key, lifeS = 3600, issuedS = Math.floor(now / 1000) } = of;
  return new SignJWT({ scope: of.scope ?? 'https://www.googleapis.com/auth/firebase.messaging' })
    .setProtectedHeader({ alg: 'RS256' })
    .setIssuer(of.issuer ?? client_email)
    .setAudience(aud)
    .setIssuedAt(issuedS)
    .setExpirationTime(issuedS + lifeS)
    .sign(await importPKCS8(key, 'RS256'));
}

test('access tokens: granted for a right assertion, refused with the documented error for each wrong one', async () => {
  const asked = async (of?: Parameters<typeof assertionWith>[0]) =>
    ask({ grant_type: GRANT, assertion: await assertionWith(of) });
  for (const aud of [served.address.serviceAccount.token_uri, 'https://oauth2.googleapis.com/token'])
    expect(await asked({ aud })).toMatchObject({ token_type: 'Bearer', expires_in: 3600 });
  const { private_key: foreign } = served.address.development.serviceAccount;
  for (const of of [
    { aud: 'https://elsewhere.example/token' },
    { lifeS: 7200 },
    { issuedS: Math.floor(now / 1000) - 7200 },
    { key: foreign },
    { issuer: 'nobody@kelpline.iam.example' },
  ])
    expect(await asked(of)).toMatchObject({ error: 'invalid_grant' });
  expect(await asked({ scope: 'https://www.googleapis.com/auth/drive' })).toMatchObject({
    error: 'invalid_scope',
  });
  expect(await ask({ grant_type: 'password' })).toMatchObject({ error: 'unsupported_grant_type' });
  expect(await ask({ grant_type: GRANT })).toMatchObject({ error: 'invalid_request' });
  expect(await ask({ grant_type: GRANT, assertion: 'no.jwt.here' })).toMatchObject({
    error: 'invalid_grant',
  });
});

test('a device that is away, or dozes: lives, collapse keys, priorities, and too much of it', async () => {
  const device = new TestDevice('away');
  const token = await device.registered();
  const to = (data: string, android: fcm_v1.Schema$AndroidConfig = {}) =>
    send({ message: { token, data: { data }, android } });
  const seen = async (count: number) =>
    (await device.arrived(count)).map((one) => ('deleted' in one ? 'deleted' : one.data.data));
  const left = new Promise<void>((resolve) => {
    served.service.disconnect = (deviceId) => {
      MessageService.prototype.disconnect.call(served.service, deviceId);
      resolve();
    };
  });
  device.link.goOffline();
  await left;
  await to('gone', { ttl: '0s' });
  await to('short', { ttl: '60s' });
  await to('old', { collapseKey: 'tide' });
  await to('new', { collapseKey: 'tide' });
  now += 61_000;
  await device.link.goOnline();
  expect(await seen(1)).toEqual(['new']);

  device.got = [];
  await device.told({ do: 'doze', dozes: true });
  await to('waits');
  await to('now', { priority: 'HIGH' });
  expect(await seen(1)).toEqual(['now']);
  await device.told({ do: 'doze', dozes: false });
  expect(await seen(2)).toEqual(['now', 'waits']);

  device.got = [];
  await device.told({ do: 'doze', dozes: true });
  for (let key = 0; key < 6; key++) await to(`key ${key}`, { collapseKey: `key ${key}` });
  for (let i = 0; i <= 100; i++)
    served.service.send('kelpline', { message: { token, data: { data: `${i}` } } });
  await device.told({ do: 'doze', dozes: false });
  expect((await seen(5)).sort()).toEqual(['deleted', 'key 2', 'key 3', 'key 4', 'key 5']);
  device.link.goOffline();
});

test('topics and conditions reach who subscribed, as a slow reading of the condition says', async () => {
  const names = ['north', 'south', 'east'];
  const device = new TestDevice('topics');
  await device.registered();
  await device.told({ do: 'topic', appId: APP, topic: 'north', isWanted: true });
  expect(await send({ message: { topic: 'north', data: { by: 'topic' } } })).toHaveProperty('name');
  expect(await send({ message: { topic: 'south', data: { by: 'other' } } })).toHaveProperty('name');
  const condition = "'north' in topics && !('south' in topics || 'east' in topics)";
  expect(await send({ message: { condition, data: { by: 'condition' } } })).toHaveProperty('name');
  expect(await device.arrived(2)).toMatchObject([{ data: { by: 'topic' } }, { data: { by: 'condition' } }]);
  device.link.goOffline();

  const leaf = fc.constantFrom(...names).map((name) => `'${name}' in topics`);
  const tree = fc.letrec<{ any: string }>((tie) => ({
    any: fc.oneof(
      { depthSize: 'small' },
      leaf,
      fc.tuple(tie('any'), fc.constantFrom('&&', '||'), tie('any')).map(([a, op, b]) => `${a} ${op} ${b}`),
      tie('any').map((one) => `(${one})`),
      tie('any').map((one) => `!(${one})`),
    ),
  })).any;
  fc.assert(
    fc.property(tree, fc.subarray(names), (text, subscribed) => {
      // the signs are JavaScript's own, and bind alike
      const oracle = new Function('has', `return ${text.replace(/'(\w+)' in topics/g, "has('$1')")}`);
      const expected = oracle((name: string) => subscribed.includes(name)) as boolean;
      expect(parseTopicCondition(text)?.holds(new Set(subscribed))).toBe(expected);
    }),
  );
  const six = [...names, 'west', 'up', 'down'].map((name) => `'${name}' in topics`).join(' || ');
  for (const wrong of ['', 'north', "'north' in topics)", "('north' in topics", "'a b' in topics", six])
    expect(parseTopicCondition(wrong)).toBeUndefined();
});

test('a token is good for an hour, and for its own project', async () => {
  const granted = (await ask({ grant_type: GRANT, assertion: await assertionWith() })) as {
    access_token: string;
  };
  const post = (project: string, body = '{"message":{"topic":"x"}}', bearer = granted.access_token) =>
    fetch(`${served.address.url}/v1/projects/${project}/messages:send`, {
      method: 'POST',
      headers: { authorization: `Bearer ${bearer}` },
      body,
    }).then(({ status }) => status);
  expect(await post('kelpline')).toBe(200);
  expect(await post('kelpline-test')).toBe(403);
  expect(await post('kelpline', '{"message":')).toBe(400);
  expect(await post('kelpline', JSON.stringify({ message: { data: { a: 'x'.repeat(70_000) } } }))).toBe(400);
  expect(await post('kelpline', '{}', `${granted.access_token}x`)).toBe(401);
  now += 3600_000;
  expect(await post('kelpline')).toBe(401);
});

test("the fields that we know are those of the vendor's reference", () => {
  const types = readFileSync(join(root, 'node_modules/@googleapis/fcm/build/v1.d.ts'), 'utf8');
  const NAMES = {
    MESSAGE: 'Message',
    NOTIFICATION: 'Notification',
    ANDROID: 'AndroidConfig',
    ANDROID_NOTIFICATION: 'AndroidNotification',
  };
  for (const [ours, theirs] of Object.entries(NAMES)) {
    const body = new RegExp(`interface Schema\\$${theirs} \\{(.*?)\\n    \\}`, 's').exec(types)![1]!;
    const fields = [...body.matchAll(/^ {8}(\w+)\?:/gm)].map(([, name]) =>
      name!.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`),
    );
    expect(Object.keys(MESSAGE_FIELDS[ours as keyof typeof MESSAGE_FIELDS])).toEqual(
      expect.arrayContaining(fields),
    );
  }
});
