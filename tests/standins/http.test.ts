/** What holds for every stand-in that speaks HTTP: who may ask, from where, and what is no request. */
import { exchangeSchema } from '../../src/standins/ads/exchange.ts';
import { serveAds } from '../../src/standins/ads/serve-ads.ts';
import { serveMessages } from '../../src/standins/messages/serve-messages.ts';
import { statusOf } from '../support/raw-http.ts';

const ads = exchangeSchema.parse({
  fenlok: 'ad-exchange/1',
  networks: [{ id: 'one', units: { u: 'banner' } }],
});

describe.each([
  ['ads', async () => ({ served: await serveAds({ setup: ads }), path: '/asked' })],
  ['messages', async () => ({ served: await serveMessages({ project: 'kelpline' }), path: '/token' })],
])('%s', (_, serve) => {
  let running: Awaited<ReturnType<typeof serve>>;
  let port: number;
  beforeAll(async () => {
    running = await serve();
    const { address } = running.served;
    port = Number(new URL('ads' in address ? address.ads : address.url).port);
  });
  afterAll(() => running.served.close());

  const ask = (target: string, ...head: string[]) =>
    statusOf([`GET ${target} HTTP/1.1`, ...head].join('\r\n'), port);

  test.each([
    ['another name for this machine', ['Host: kelpline.example'], 403],
    ['a name that only begins like it', ['Host: 127.0.0.1.kelpline.example'], 403],
    ['a page of another place', ['Host: 127.0.0.1', 'Origin: https://kelpline.example'], 403],
    ['a page without a place', ['Host: 127.0.0.1', 'Origin: null'], 403],
  ])('%s is refused', async (__, head, status) => {
    expect(await ask(running.path, ...head)).toBe(status);
  });

  test.each(['//', '/%E0%A4%A', '/\\\\[', 'nowhere'])('the target %s is no request', async (target) => {
    expect(await ask(target, `Host: 127.0.0.1:${port}`)).toBe(400);
  });

  test('its own page, and clients without one, are served', async () => {
    const host = `Host: localhost:${port}`;
    for (const head of [[host], [host, `Origin: http://localhost:${port}`]])
      expect([400, 403]).not.toContain(await ask(running.path, ...head));
    expect(await ask('/asked', host)).toBeGreaterThan(400);
  });
});
