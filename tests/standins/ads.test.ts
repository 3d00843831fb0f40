import type { BidRequest, BidResponse } from 'iab-openrtb/v26';
import { askExchange } from '../../src/standins/ads/ask-exchange.ts';
import { askNetwork } from '../../src/standins/ads/ask-network.ts';
import { type AdRequest, bidRequestOf, readBid } from '../../src/standins/ads/bid-forms.ts';
import { exchangeSchema, type ResponseMode, responseModes } from '../../src/standins/ads/exchange.ts';
import { type ServedAds, serveAds } from '../../src/standins/ads/serve-ads.ts';

const setup = exchangeSchema.parse({
  fenlok: 'ad-exchange/1',
  networks: [
    {
      id: 'brightbuoy',
      units: { 'bb-1': 'banner', 'bb-2': 'rewarded', 'bb-3': 'native' },
      prices: { USD: 1.2, EUR: 1.1 },
    },
    { id: 'northmast', units: { 'nm-1': 'interstitial' } },
  ],
});
let served: ServedAds;
beforeAll(async () => {
  served = await serveAds({ setup, slowMs: 40 });
});
afterAll(() => served.close());
beforeEach(() => {
  for (const network of served.exchange.networks) served.exchange.setMode(network, 'fill');
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
    seatbid: [{ seat: 'brightbuoy', bid: [{ impid: '1', price: 1.2, ext: { test: true } }] }],
  });
  const asked = await fetch(`${served.address.ads}/asked`, {
    headers: { authorization: `Bearer ${served.address.secret}` },
  });
  expect(await asked.json()).toMatchObject({
    asked: [{ network: 'brightbuoy', unit: 'bb-1', test: true, isRegistered: true, outcome: 'filled' }],
  });
});

/** Typed by definitions of the standard that are not ours. */
const bid = async (request: BidRequest, network = 'brightbuoy'): Promise<BidResponse | undefined> => {
  const response = await post(`/bid/${network}`, request);
  return response.status === 204 ? undefined : ((await response.json()) as BidResponse);
};
const pricesOf = (answer: BidResponse | undefined) =>
  answer?.seatbid?.flatMap(({ bid: bids }) =>
    bids.map(({ impid, price }) => `${impid} ${price} ${answer.cur}`),
  );

test('what the standard leaves out may be left out: no placement, app, device or test', async () => {
  const answer = await bid({ id: 'bare', imp: [{ id: 'a', banner: {} }] });
  expect(answer).toMatchObject({ id: 'bare', seatbid: [{ bid: [{ impid: 'a', ext: { test: false } }] }] });
  expect(await bid({ id: 'none', imp: [{ id: 'a', banner: {} }] }, 'northmast')).toEqual({
    id: 'none',
    nbr: 2,
  });
});

test.each<[string, Partial<BidRequest>, Partial<BidRequest['imp'][number]>, string[] | undefined]>([
  ['no floor', {}, {}, ['1 1.2 USD']],
  ['a floor that is reached', {}, { bidfloor: 1.2 }, ['1 1.2 USD']],
  ['a floor that is not', {}, { bidfloor: 1.21 }, undefined],
  ['a floor in euros', {}, { bidfloor: 1.1, bidfloorcur: 'EUR' }, ['1 1.1 EUR']],
  ['a floor in euros that is not reached', {}, { bidfloor: 1.15, bidfloorcur: 'EUR' }, undefined],
  ['a floor in a currency that it does not pay in', {}, { bidfloor: 1, bidfloorcur: 'NOK' }, undefined],
  ['euros alone', { cur: ['EUR'] }, {}, ['1 1.1 EUR']],
  ['crowns, or else euros', { cur: ['NOK', 'EUR'] }, {}, ['1 1.1 EUR']],
  ['crowns alone', { cur: ['NOK'] }, {}, undefined],
])('prices: %s', async (_, request, imp, expected) => {
  expect(pricesOf(await bid({ id: 'r', imp: [{ id: '1', banner: {}, ...imp }], ...request }))).toEqual(
    expected,
  );
});

test('several impressions are answered one by one', async () => {
  const imp = [
    { id: 'a', tagid: 'bb-1', banner: {} },
    { id: 'b', tagid: 'bb-9', banner: {} },
    { id: 'c', tagid: 'bb-1', banner: {}, bidfloor: 9 },
    { id: 'd', tagid: 'bb-2', video: {}, rwdd: 1 as const },
  ];
  const asked = served.exchange.asked.length;
  expect(pricesOf(await bid({ id: 'r', imp: imp as BidRequest['imp'] }))).toEqual(['a 1.2 USD', 'd 1.2 USD']);
  expect(served.exchange.asked.slice(asked).map(({ outcome }) => outcome)).toEqual([
    'filled',
    'invalid',
    'no-fill',
    'filled',
  ]);
});

test('a native ad is asked for by its request, and brings its title', async () => {
  const request: AdRequest = { network: 'brightbuoy', unit: 'bb-3', format: 'native', test: true };
  const sent: BidRequest = bidRequestOf('r', request, kelpline);
  const native = JSON.parse(sent.imp[0]!.native!.request) as { assets: object[] };
  expect(native.assets).toMatchObject([{ id: 1, required: 1, title: { len: 90 } }]);
  expect(await askNetwork(served.address.ads, request, kelpline)).toMatchObject({
    outcome: 'loaded',
    words: expect.stringMatching(/^Test ad \d+ of brightbuoy$/),
  });
});

test.each<[string, object, Partial<AdRequest>, string]>([
  [
    'a bid below the floor',
    { price: 1 },
    { floor: { amount: 1.1, currency: 'USD' } },
    'bid of 1 USD, below 1.1 USD',
  ],
  [
    'a bid in another currency',
    { price: 9 },
    { floor: { amount: 1.1, currency: 'EUR' } },
    'bid of 9 USD, below 1.1 EUR',
  ],
  ['a bid whose ad is elsewhere', { price: 9, adm: undefined }, {}, 'bid without an ad'],
  ['a native ad that is none', { price: 9, adm: '<p>' }, { format: 'native' }, 'bid without an ad'],
])('the library on the phone refuses %s', (_, change, of, reason) => {
  const request: AdRequest = { network: 'n', unit: 'u', format: 'banner', test: true, ...of };
  const text = JSON.stringify({
    id: 'r',
    seatbid: [{ bid: [{ id: '1', impid: '1', adm: 'Ad', ...change }] }],
  });
  expect(readBid(text, request)).toEqual({ outcome: 'failed', reason });
});

const kelpline = { advertisingId: 'device-0002', bundle: 'example.kelpline' };
const ask = (
  network = 'brightbuoy',
  unit = 'bb-1',
  format: 'banner' | 'interstitial' | 'rewarded' = 'banner',
) => askNetwork(served.address.ads, { network, unit, format, test: true }, kelpline);

test.each<[ResponseMode, object]>([
  ['fill', { outcome: 'loaded', isTest: true }],
  ['live', { outcome: 'loaded', isTest: false }],
  ['slow', { outcome: 'loaded' }],
  ['no-fill', { outcome: 'no-fill' }],
  ['malformed', { outcome: 'failed', reason: 'answer is no bid response' }],
  ['huge', { outcome: 'failed', reason: expect.stringContaining('answer above') }],
  ['drop', { outcome: 'failed', reason: 'no connection' }],
])('a network in the mode %s', async (mode, expected) => {
  await control({ do: 'mode', network: 'brightbuoy', mode });
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
  ['a floor below nothing', '/bid/brightbuoy', { ...aBid, imp: [{ id: '1', bidfloor: -1 }] }, 400, undefined],
  [
    'a native ad without its request',
    '/bid/brightbuoy',
    { ...aBid, imp: [{ id: '1', native: {} }] },
    400,
    undefined,
  ],
  ['too much', '/bid/brightbuoy', { ...aBid, more: 'x'.repeat(300_000) }, 413, undefined],
  ['a network that is not there', '/bid/ropewalk', aBid, 404, undefined],
  ['orders of a stranger', '/control', { do: 'mode', network: 'brightbuoy', mode: 'drop' }, 401, 'guess'],
  ['a mode that there is not', '/control', { do: 'mode', network: 'brightbuoy', mode: 'sulky' }, 400, ''],
  ['nowhere', '/somewhere', {}, 404, ''],
])('refuses %s', async (_, path, body, status, secret) => {
  expect((await post(path, body, secret === '' ? served.address.secret : secret)).status).toBe(status);
});

test.each(responseModes.filter((mode) => mode !== 'slow'))(
  'without a wire the answer is the same: %s',
  async (mode) => {
    served.exchange.setMode('brightbuoy', mode);
    served.exchange.setMode('northmast', mode);
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
