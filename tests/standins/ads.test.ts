import { askExchange } from '../../src/standins/ads/ask-exchange.ts';
import { askNetwork } from '../../src/standins/ads/ask-network.ts';
import { exchangeSchema, type Mood, moods } from '../../src/standins/ads/exchange.ts';
import { type ServedAds, serveAds } from '../../src/standins/ads/serve-ads.ts';

const setup = exchangeSchema.parse({
  fenlok: 'ad-exchange/1',
  networks: [
    { id: 'brightbuoy', units: { 'bb-1': 'banner', 'bb-2': 'rewarded' } },
    { id: 'northmast', units: { 'nm-1': 'interstitial' } },
  ],
});
let served: ServedAds;
beforeAll(async () => {
  served = await serveAds({ setup, slowMs: 40 });
});
afterAll(() => served.close());
beforeEach(() => {
  for (const network of served.exchange.networks) served.exchange.setMood(network, 'fill');
});

const aBid = {
  id: 'r1',
  imp: [{ id: '1', tagid: 'bb-1', banner: { w: 320, h: 50 } }],
  app: { bundle: 'example.kelpline' },
  device: { ifa: 'device-0001' },
  test: 1,
};
const post = (path: string, body: object | string, secret?: string) =>
  fetch(served.address.ads + path, {
    method: 'POST',
    headers: secret === undefined ? {} : { authorization: `Bearer ${secret}` },
    body: typeof body === 'string' ? body : JSON.stringify(body),
  });
const control = (order: object, secret = served.address.secret) => post('/control', order, secret);

test('a bid request is answered with a bid of the same shape, and noted as the network saw it', async () => {
  expect(
    (await control({ do: 'register', network: 'brightbuoy', advertisingId: 'device-0001' })).status,
  ).toBe(200);
  const response = await post('/bid/brightbuoy', aBid);
  expect(await response.json()).toMatchObject({
    id: 'r1',
    cur: 'USD',
    seatbid: [{ seat: 'brightbuoy', bid: [{ impid: '1', price: 0, ext: { test: true } }] }],
  });
  const asked = await fetch(`${served.address.ads}/asked`, {
    headers: { authorization: `Bearer ${served.address.secret}` },
  });
  expect(await asked.json()).toMatchObject({
    asked: [{ network: 'brightbuoy', unit: 'bb-1', test: true, isRegistered: true, outcome: 'filled' }],
  });
});

const kelpline = { advertisingId: 'device-0002', bundle: 'example.kelpline' };
const ask = (
  network = 'brightbuoy',
  unit = 'bb-1',
  format: 'banner' | 'interstitial' | 'rewarded' = 'banner',
) => askNetwork(served.address.ads, { network, unit, format, test: true }, kelpline);

test.each<[Mood, object]>([
  ['fill', { outcome: 'loaded', isTest: true }],
  ['live', { outcome: 'loaded', isTest: false }],
  ['slow', { outcome: 'loaded' }],
  ['no-fill', { outcome: 'no-fill' }],
  ['malformed', { outcome: 'failed', reason: 'answer is no bid response' }],
  ['huge', { outcome: 'failed', reason: expect.stringContaining('answer above') }],
  ['drop', { outcome: 'failed', reason: 'no connection' }],
])('a network in the mood %s', async (mood, expected) => {
  await control({ do: 'mood', network: 'brightbuoy', mood });
  expect(await ask()).toMatchObject(expected);
  // the others are as they were
  expect(await ask('northmast', 'nm-1', 'interstitial')).toMatchObject({ outcome: 'loaded' });
});

test.each([
  ['a placement that nobody knows', 'northmast', 'nm-9', 'interstitial'],
  ['a placement of another format', 'northmast', 'nm-1', 'banner'],
  ['a placement of another network', 'brightbuoy', 'nm-1', 'interstitial'],
] as const)('%s is an invalid request', async (_, network, unit, format) => {
  expect(await ask(network, unit, format)).toEqual({ outcome: 'failed', reason: 'no bid, nbr 2' });
});
test('a rewarded placement is one', async () => {
  expect(await ask('brightbuoy', 'bb-2', 'rewarded')).toMatchObject({ outcome: 'loaded' });
});

test.each<[string, string, object | string, number, string | undefined]>([
  ['no JSON', '/bid/brightbuoy', 'bid', 400, undefined],
  ['no impression', '/bid/brightbuoy', { ...aBid, imp: [] }, 400, undefined],
  ['no app', '/bid/brightbuoy', { ...aBid, app: {} }, 400, undefined],
  ['too much', '/bid/brightbuoy', { ...aBid, more: 'x'.repeat(300_000) }, 413, undefined],
  ['a network that is not there', '/bid/ropewalk', aBid, 404, undefined],
  ['orders of a stranger', '/control', { do: 'mood', network: 'brightbuoy', mood: 'drop' }, 401, 'guess'],
  ['a mood that there is not', '/control', { do: 'mood', network: 'brightbuoy', mood: 'sulky' }, 400, ''],
  ['nowhere', '/somewhere', {}, 404, ''],
])('refuses %s', async (_, path, body, status, secret) => {
  expect((await post(path, body, secret === '' ? served.address.secret : secret)).status).toBe(status);
});

test.each(moods.filter((mood) => mood !== 'slow'))(
  'without a wire the answer is the same: %s',
  async (mood) => {
    served.exchange.setMood('brightbuoy', mood);
    served.exchange.setMood('northmast', mood);
    for (const [network, unit, format] of [
      ['brightbuoy', 'bb-1', 'banner'],
      ['brightbuoy', 'bb-2', 'rewarded'],
      ['northmast', 'nm-1', 'banner'],
      ['nobody', 'x', 'banner'],
    ] as const) {
      const request = { network, unit, format, test: true };
      const near = askExchange(served.exchange, request, kelpline);
      const far = await askNetwork(served.address.ads, request, kelpline);
      // bids are counted on
      const plain = (answer: object) => JSON.stringify(answer).replace(/ad \d+/i, 'ad');
      expect(plain(near)).toBe(plain(far));
    }
  },
);
