/** The store's sheet and a network's ad on the stand-in phone, as its user sees them. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from 'yaml';
import { exchangeSchema } from '../../src/standins/ads/exchange.ts';
import { type ServedAds, serveAds } from '../../src/standins/ads/serve-ads.ts';
import type { ServedPhone } from '../../src/standins/phone/bridge/serve-phone.ts';
import { frontWindow } from '../../src/standins/phone/os/front-window.ts';
import { storeCatalogueSchema } from '../../src/standins/store/catalogue.ts';
import { type ServedStore, serveStore } from '../../src/standins/store/serve-store.ts';
import { demoFolder } from '../support/paths.ts';
import { bootPhone } from '../support/served-phone.ts';

const yaml = (name: string): unknown => parse(readFileSync(join(demoFolder, name), 'utf8'));
let phone: ServedPhone;
let store: ServedStore;
let ads: ServedAds;
beforeAll(async () => {
  store = await serveStore({ catalogue: storeCatalogueSchema.parse(yaml('store.yaml')), settings: {} });
  ads = await serveAds({ setup: exchangeSchema.parse(yaml('ad-exchange.yaml')) });
  phone = await bootPhone({ store: { ...store.address, account: 'ada' }, ads: ads.address.ads });
  await phone.os.launch('example.kelpline');
});
afterAll(() => Promise.all([phone.close(), store.close(), ads.close()]));

/** Asked again until it stands there; the networks and the store take a moment. */
async function until<T>(look: () => Promise<T | undefined> | T | undefined): Promise<T> {
  for (const end = Date.now() + 10_000; Date.now() < end; ) {
    const found = await look();
    if (found) return found;
    await new Promise((resolve) => setImmediate(resolve));
  }
  throw new Error('it never came');
}
const title = async () => (await frontWindow(phone.os))?.title;
const dump = async () => (await frontWindow(phone.os))!.screen.hierarchyXml('x');
const isInFront = (name: string) => async () => (await title())?.endsWith(name);
const kinds = () => store.store.events.map(({ kind }) => kind);

test('the sheet says what it costs and that it is a test; back cancels it', async () => {
  const buying = phone.os.store.buy('example.kelpline', 'no-ads');
  await buying;
  await until(isInFront('PurchaseSheet'));
  expect(await dump()).toMatch(/No advertising[\s\S]*€4\.90[\s\S]*Test purchase/);
  phone.os.input.key('back');
  await until(() => kinds().includes('store.cancelled'));
  expect(await title()).toBe('example.kelpline.TimetableActivity');
});

test('without a network nothing is asked, and the app is told', async () => {
  const before = kinds().length;
  phone.os.change(() => phone.os.settings.put('global', 'airplane_mode_on', '1'));
  await phone.os.store.buy('example.kelpline', 'no-ads');
  phone.os.change(() => phone.os.settings.put('global', 'airplane_mode_on', '0'));
  expect(kinds()).toHaveLength(before);
  expect(
    phone.os.log
      .lines(new Set(['main'] as const))
      .some(({ message }) => message.includes('"reason":"offline"')),
  ).toBe(true);
});

test('an ad fills the screen as an activity of the app, and back leads to where its user was', async () => {
  phone.os.ads.show('example.kelpline', { placement: 'top', network: 'northmast', words: 'Sea air' });
  expect(await title()).toBe('com.northmast.ads.FullScreenActivity');
  expect(await dump()).toContain('Sea air');
  phone.os.input.key('back');
  expect(await title()).toBe('example.kelpline.TimetableActivity');
});
