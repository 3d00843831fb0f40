/** The built command on an iOS device: what a killed call leaves is put back by the next, and what is there is listed. */
import { spawn } from 'node:child_process';
import { cpSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from 'yaml';
import { standinTools } from '../../src/cli/commands/demo/surroundings.ts';
import { type DrillId, drillIds, isDriven } from '../../src/core/model/drill.ts';
import { exchangeSchema } from '../../src/standins/ads/exchange.ts';
import { type ServedAds, serveAds } from '../../src/standins/ads/serve-ads.ts';
import { kelplineIos } from '../../src/standins/phone/apps/kelpline/ios.ts';
import type { ServedLookout } from '../../src/standins/phone/ios/serve-lookout.ts';
import { type ServedGateway, serveGateway } from '../../src/standins/push/serve-gateway.ts';
import { storeCatalogueSchema } from '../../src/standins/store/catalogue.ts';
import { type ServedStore, serveStore } from '../../src/standins/store/serve-store.ts';
import { fenlok } from '../support/command.ts';
import { demoFolder, root, scratchFolder } from '../support/paths.ts';
import { bootWithTools, demoIpa, installKelpline } from '../support/served-lookout.ts';

const scratch = scratchFolder();
const cwd = join(scratch, 'project');
const demoYaml = (name: string): unknown => parse(readFileSync(join(demoFolder, name), 'utf8'));
let served: ServedLookout;
let gateway: ServedGateway;
let store: ServedStore;
let ads: ServedAds;
let device: string;
let env: Record<string, string>;

beforeAll(async () => {
  const stateFolder = join(scratch, 'state');
  const catalogue = storeCatalogueSchema.parse(demoYaml('store.yaml'));
  gateway = await serveGateway();
  store = await serveStore({ catalogue, settings: {} });
  ads = await serveAds({ setup: exchangeSchema.parse(demoYaml('ad-exchange.yaml')) });
  served = await bootWithTools(stateFolder, 'small-phone', kelplineIos, {
    push: gateway.address,
    store: { ...store.address, account: 'ada' },
    ads: ads.address.ads,
  });
  device = `ios:${served.address}`;
  env = { FENLOK_STATE: stateFolder, FENLOK_LOOKOUT_TOKEN: served.token };
  mkdirSync(cwd);
  for (const folder of ['push', 'networks'])
    cpSync(join(demoFolder, folder), join(cwd, folder), { recursive: true });
  const intent = { ...(demoYaml('fenlok.yaml') as object), ios: { commands: standinTools(stateFolder) } };
  for (const [name, of] of Object.entries({
    'fenlok.yaml': intent,
    'gateway.json': gateway.address,
    'store.json': { fenlok: 'test-store/1', ...store.address },
    'ads.json': { fenlok: 'test-ads/1', ...ads.address },
  }))
    writeFileSync(join(cwd, name), JSON.stringify(of));
  expect((await fenlok(['add', demoIpa], cwd, env)).code).toBe(0);
});
afterAll(() => Promise.all([served, gateway, store, ads].map((one) => one.close())));

const settingsOf = ({ phone }: ServedLookout) => [phone.appearance, phone.orientation, phone.isOnline];

/** Kills a drill once the phone is set so. */
async function killOnce(drill: DrillId, isSo: () => boolean): Promise<void> {
  const around = ['--push', 'gateway.json', '--store', 'store.json', '--ads', 'ads.json'];
  const args = [join(root, 'dist/bin/fenlok.js'), 'drill', drill, '--device', device, ...around];
  const child = spawn(process.execPath, args, { cwd, env: { ...process.env, ...env }, stdio: 'ignore' });
  const ended = new Promise((resolve) => child.once('exit', resolve));
  await new Promise<void>((resolve) => {
    const timer = setInterval(() => {
      if (!isSo() && child.exitCode === null) return;
      clearInterval(timer);
      resolve();
    }, 5);
  });
  // it must not have ended by itself
  expect(child.exitCode).toBeNull();
  child.kill('SIGKILL');
  await ended;
}

test.each(
  drillIds
    .filter((id) => isDriven(id, 'ios'))
    .map((id) => {
      const orientation = id === 'rotate' ? 'landscape' : 'portrait';
      return [id, orientation, id !== 'network-lost' && id !== 'offline'] as const;
    }),
)(
  '%s killed half way: the next call puts back what its user had set',
  async (drill, orientation, isOnline) => {
    // one that was killed before may have taken it away
    await installKelpline(served);
    // a drill begins with the app as it is meant to be used first
    served.phone.appearance = 'dark';
    served.phone.orientation = orientation === 'portrait' ? 'landscape' : 'portrait';
    const before = settingsOf(served);
    await killOnce(drill, () => settingsOf(served).join() === `light,${orientation},${isOnline}`);
    const back = await fenlok(['restore', '--device', device], cwd, env);
    expect([back.code, back.err]).toEqual([0, '']);
    expect(settingsOf(served)).toEqual(before);
    const again = await fenlok(['restore', '--device', device], cwd, env);
    expect(again.out).toContain('no setting is left changed');
  },
);

test('what cannot be asked of it is said', async () => {
  // wherever the killed drills left it
  await installKelpline(served);
  await served.phone.bring('example.kelpline');
  served.phone.appearance = 'light';
  served.phone.orientation = 'portrait';
  const of = (...args: string[]) => fenlok([...args, '--device', device], cwd, env);
  expect((await of('hold', '--density', '300')).err).toMatch(
    /cannot be set so; it can be given --text-scale/,
  );
  expect((await of('look', '--app', 'example.kelpline', '--at-scale', '2')).err).toMatch(
    /belongs to one run/,
  );
  expect((await of('walk', 'keyboard', '--app', 'example.kelpline')).err).toMatch(/not driven on iOS yet/);
  const { err } = await of('drill', 'recents', 'rotate', '--screen', 'settings');
  expect(err).toContain('left out: recents: the switcher of iOS has no key');
  const nobody = await fenlok(['look', '--device', 'ios:127.0.0.1:1'], cwd, env);
  expect([nobody.code, nobody.err]).toEqual([5, expect.stringMatching(/no lookout answers.*docs\/ios\.md/)]);
});

test('two dossiers of one platform are no release of both', async () => {
  const of = (...args: string[]) => fenlok(['judge', ...args], cwd, env);
  expect(await of('dossier')).toMatchObject({ code: 2, err: expect.stringContaining('give two dossiers') });
  expect((await of('dossier', 'dossier')).err).toMatch(/both of ios.*fenlok compare/);
});
