/** The push gateway through two client libraries that backends use: what they send, and what they tell of the answers. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Provider, Notification as ProviderNotification } from '@parse/node-apn';
import { ApnsClient, ApnsError, Errors, Notification } from 'apns2';
import { exportPKCS8, generateKeyPair } from 'jose';
import { Pool } from 'undici';
import { REASON_STATUS } from '../../src/core/platform/push/reasons.ts';
import { DeviceLink } from '../../src/standins/device-link.ts';
import type { DeliveredPush, PushEnvironment } from '../../src/standins/push/gateway.ts';
import { type ServedGateway, serveGateway } from '../../src/standins/push/serve-gateway.ts';
import { root } from '../support/paths.ts';

const APP = 'example.kelpline';
let served: ServedGateway;
let link: DeviceLink<DeliveredPush, { environment: PushEnvironment }>;
let token: string;
let gone: string;
let got: DeliveredPush[] = [];
let onArrival = () => {};

interface Message {
  to?: string;
  text?: string;
  type?: string;
  topic?: string;
  priority?: number;
  collapseId?: string;
}
interface Client {
  /** @returns the reason, or `taken` */
  send(message: Message): Promise<string>;
  close(): unknown;
}

const CLIENTS: Record<string, (key: string) => Client> = {
  apns2: (signingKey) => {
    const { address } = served;
    const client = new ApnsClient({
      team: address.team,
      keyId: address.keyId,
      signingKey,
      host: 'localhost',
    });
    const pool = new Pool(address.production, {
      allowH2: true,
      connect: { ca: address.ca, timeout: 120_000 },
    });
    // the library knows no other port than 443
    Object.assign(client, { client: pool });
    return {
      send: async ({ text, to = token, topic = APP, ...options }) => {
        const notification = new Notification(to, {
          ...options,
          topic,
          ...(text !== undefined ? { alert: text } : { contentAvailable: true }),
        } as ConstructorParameters<typeof Notification>[1]);
        return client.send(notification).then(
          () => 'taken',
          (error: unknown) => (error instanceof ApnsError ? error.reason : String(error)),
        );
      },
      close: () => client.destroy(),
    };
  },
  '@parse/node-apn': (key) => {
    const { address } = served;
    const provider = new Provider({
      token: { key, keyId: address.keyId, teamId: address.team },
      address: '127.0.0.1',
      port: Number(new URL(address.production).port),
      ca: [address.ca],
      production: true,
    });
    return {
      send: async ({ collapseId, priority, text, to = token, topic = APP, type = 'alert' }) => {
        const notification = new ProviderNotification();
        Object.assign(notification, {
          topic,
          pushType: type,
          ...(priority !== undefined && { priority }),
          ...(collapseId !== undefined && { collapseId }),
          ...(text !== undefined ? { alert: text } : { contentAvailable: true }),
        });
        const { failed } = await provider.send(notification, to);
        const [first] = failed;
        return first ? (first.response?.reason ?? String(first.error)) : 'taken';
      },
      close: () => provider.shutdown(),
    };
  },
};

beforeAll(async () => {
  served = await serveGateway();
  link = new DeviceLink<DeliveredPush, { environment: PushEnvironment }>({
    ...served.address,
    deviceId: 'phone',
    onMessage: (push) => {
      got.push(push);
      onArrival();
    },
  });
  await link.goOnline();
  token = await link.register(APP, { environment: 'production' });
  gone = await link.register('example.short-lived', { environment: 'production' });
  link.unregister('example.short-lived');
  // asked after the removal on the same line, so that it has been seen
  await link.register('example.other', { environment: 'production' });
});
afterAll(async () => {
  link.goOffline();
  await served.close();
});

describe.each(Object.keys(CLIENTS))('%s', (name) => {
  let client: Client;
  beforeAll(() => {
    client = CLIENTS[name]!(served.address.key);
  });
  afterAll(() => client.close());

  test.each<[string, Message, string]>([
    ['an alert', { text: 'Boat' }, 'taken'],
    ['a silent one', { type: 'background', priority: 5 }, 'taken'],
    ['a silent one in a hurry', { type: 'background', priority: 10 }, 'BadPriority'],
    ['a call', { type: 'voip', topic: `${APP}.voip` }, 'taken'],
    ['a call to the topic of alerts', { type: 'voip' }, 'DeviceTokenNotForTopic'],
    ['another app', { text: 'Boat', topic: 'example.other' }, 'DeviceTokenNotForTopic'],
    ['a token that nobody has', { text: 'Boat', to: 'ab'.repeat(32) }, 'BadDeviceToken'],
    ['65 bytes to collapse by', { text: 'Boat', collapseId: 'x'.repeat(65) }, 'BadCollapseId'],
    ['too large', { text: 'x'.repeat(5000) }, 'PayloadTooLarge'],
  ])('%s', async (_, message, expected) => {
    expect(await client.send(message)).toBe(expected);
  });

  test('a token of an app that was removed', async () => {
    expect(await client.send({ text: 'Boat', to: gone, topic: 'example.short-lived' })).toBe('Unregistered');
  });

  test("a key that is not the gateway's", async () => {
    const { privateKey } = await generateKeyPair('ES256', { extractable: true });
    const other = CLIENTS[name]!(await exportPKCS8(privateKey));
    expect(await other.send({ text: 'Boat' })).toBe('InvalidProviderToken');
    await other.close();
  });

  test('500 at once arrive, each once', async () => {
    got = [];
    const texts = Array.from({ length: 500 }, (_, i) => `${name} ${i}`);
    const all = new Promise<void>((resolve) => {
      onArrival = () => got.length === texts.length && resolve();
    });
    expect(new Set(await Promise.all(texts.map((text) => client.send({ text }))))).toEqual(
      new Set(['taken']),
    );
    await all;
    const arrived = got.map(({ payload }) => (JSON.parse(payload) as { aps: { alert: string } }).aps.alert);
    expect([...arrived].sort()).toEqual([...texts].sort());
  });

  test('it goes on after the gateway ended its connection', async () => {
    served.gateway.fail('Shutdown');
    await client.send({ text: 'Boat' });
    expect(await client.send({ text: 'Boat' })).toBe('taken');
  });
});

test('channels through a client: made, read, listed, written to, deleted; subscribers get what is sent, also later', async () => {
  const { address } = served;
  const at = { address: '127.0.0.1', port: Number(new URL(address.production).port) };
  const provider = new Provider({
    token: { key: address.key, keyId: address.keyId, teamId: address.team },
    ...at,
    manageChannelsAddress: at.address,
    manageChannelsPort: at.port,
    ca: [address.ca],
    production: true,
  } as ConstructorParameters<typeof Provider>[0]);
  type Managed = {
    sent: { 'apns-channel-id'?: string; channels?: string[] }[];
    failed: { status: number; response?: { reason: string } }[];
  };
  const { broadcast, manageChannels } = provider as unknown as {
    manageChannels(note: ProviderNotification, app: string, action: string): Promise<Managed>;
    broadcast(note: ProviderNotification, app: string): Promise<Managed>;
  };
  const note = (of: object) => Object.assign(new ProviderNotification(), of);
  const manage = (action: string, of: object = {}) => manageChannels.call(provider, note(of), APP, action);
  const write = (of: object) => {
    const content = { event: 'update', contentState: {}, timestamp: 1, pushType: 'liveactivity' };
    return broadcast.call(provider, note({ ...content, ...of }), APP);
  };
  const reasonOf = async (asked: Promise<Managed>) => (await asked).failed[0]?.response?.reason;
  const make = async (policy: number) => {
    const payload = { 'message-storage-policy': policy, 'push-type': 'LiveActivity' };
    return (await manage('create', { payload })).sent[0]!['apns-channel-id']!;
  };
  const [keeping, passing] = [await make(1), await make(0)];
  expect((await manage('readAll')).sent[0]!.channels).toEqual([keeping, passing]);
  expect((await manage('read', { channelId: keeping })).sent[0]).toMatchObject({
    'message-storage-policy': 1,
    'push-type': 'LiveActivity',
  });
  for (const channel of [keeping, passing])
    link.tell({ do: 'channel', environment: 'production', channel, isWanted: true });
  await link.register('example.settles', { environment: 'production' });
  const soon = Math.floor(Date.now() / 1000) + 600;
  const arrives = async (from: number) => {
    await new Promise<void>((resolve) => {
      onArrival = () => got.length > from && resolve();
      onArrival();
    });
    return got.at(-1)!;
  };
  const before = got.length;
  expect((await write({ channelId: passing, expiry: 0, alert: 'Boarding' })).failed).toEqual([]);
  expect((await arrives(before)).payload).toContain('Boarding');

  for (const [asked, reason] of [
    [write({ channelId: passing, expiry: soon }), 'BadExpirationDate'],
    [write({ channelId: passing, expiry: 0, pushType: 'alert' }), 'InvalidPushType'],
    [write({ channelId: 'bm9uZQ==', expiry: 0 }), 'ChannelNotRegistered'],
    [write({ channelId: 'no base 64', expiry: 0 }), 'BadChannelId'],
    [manage('read', { channelId: '' }), 'MissingChannelId'],
    [manage('create', { payload: { 'push-type': 'alert' } }), 'InvalidPushType'],
    [
      manage('create', { payload: { 'push-type': 'LiveActivity', 'message-storage-policy': 7 } }),
      'CannotCreateChannelConfig',
    ],
  ] as const)
    expect([reason, await reasonOf(asked)]).toEqual([reason, reason]);

  link.goOffline();
  const [waits] = got.splice(0);
  expect(waits).toBeDefined();
  // an answer on the same port comes after the gateway saw the device go
  const other = new DeviceLink<DeliveredPush, { environment: PushEnvironment }>({
    ...address,
    deviceId: 'other',
    onMessage: () => {},
  });
  await other.goOnline();
  expect((await write({ channelId: keeping, expiry: soon, alert: 'Delayed' })).failed).toEqual([]);
  other.goOffline();
  await link.goOnline();
  expect((await arrives(0)).payload).toContain('Delayed');
  expect((await manage('delete', { channelId: keeping })).failed).toEqual([]);
  expect(await reasonOf(manage('read', { channelId: keeping }))).toBe('ChannelNotRegistered');
  await provider.shutdown();
});

test('every reason that a client library knows is explained, and the documentation lists each with its status', () => {
  // made by the library itself
  const own = new Set<string>([Errors.error, Errors.unknownError, Errors.invalidSigningKey]);
  expect(Object.values(Errors).filter((reason) => !own.has(reason) && !REASON_STATUS.has(reason))).toEqual(
    [],
  );
  const table = readFileSync(join(root, 'docs/links-and-push.md'), 'utf8')
    .split('### Android')[0]!
    .matchAll(/^\| (\d+) \|(.*?)\|/gm);
  const listed = [...table].flatMap(([, status, names]) =>
    [...names!.matchAll(/`(\w+)`/g)].map(([, name]) => [name, Number(status)]),
  );
  expect(Object.fromEntries(listed)).toEqual(Object.fromEntries(REASON_STATUS));
});
