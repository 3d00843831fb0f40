/** Purchases and ads of the demo app on stand-in iOS phones, by the drills of Android: what the app's lines tell, and what the store and the networks saw. */
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from 'yaml';
import { standinTools } from '../../src/cli/commands/demo/surroundings.ts';
import { buyingKit } from '../../src/cli/commands/drill/buying-kit.ts';
import { indexFacts } from '../../src/core/areas/check.ts';
import { checks } from '../../src/core/areas/checks.ts';
import { collectFindings } from '../../src/core/checklist/collect-findings.ts';
import { MatrixContext } from '../../src/core/checklist/matrices/matrix.ts';
import { purchasesMatrix } from '../../src/core/checklist/matrices/purchases.ts';
import type { DrillId } from '../../src/core/model/drill.ts';
import { drillDevice } from '../../src/device/drill-session.ts';
import { openLookout } from '../../src/device/ios/ios-device.ts';
import { adsClient } from '../../src/node/ads/ads-file.ts';
import { addPackage, openDossier } from '../../src/node/dossier.ts';
import { readIntent } from '../../src/node/project.ts';
import { exchangeSchema } from '../../src/standins/ads/exchange.ts';
import { serveAds } from '../../src/standins/ads/serve-ads.ts';
import type { PhoneApp } from '../../src/standins/phone/app-model.ts';
import { kelplineIos } from '../../src/standins/phone/apps/kelpline/ios.ts';
import { storeCatalogueSchema } from '../../src/standins/store/catalogue.ts';
import { serveStore } from '../../src/standins/store/serve-store.ts';
import { demoFolder, scratchFolder } from '../support/paths.ts';
import { bootWithTools, demoIpa } from '../support/served-lookout.ts';

const scratch = scratchFolder();
const stateFolder = join(scratch, 'state');
const yaml = (name: string): unknown => parse(readFileSync(join(demoFolder, name), 'utf8'));

/** A phone that can be driven, and on which tools install the app. */
async function bootBuyer(app: PhoneApp, store: { store: string; secret: string }, ads: string) {
  const around = { store: { ...store, account: 'ada' }, ads };
  const served = await bootWithTools(stateFolder, 'small-phone', app, around);
  const { address, phone, token } = served;
  const device = await openLookout(address, token);
  const close = async () => {
    await device.close();
    await served.close();
  };
  return { device, phone, close };
}

let runs = 0;
async function drill(app: PhoneApp, drills: readonly DrillId[]) {
  const given = await readIntent(join(demoFolder, 'fenlok.yaml'));
  const intent = { ...given, ios: { commands: standinTools(stateFolder) } };
  const store = await serveStore({ catalogue: storeCatalogueSchema.parse(yaml('store.yaml')), settings: {} });
  const ads = await serveAds({ setup: exchangeSchema.parse(yaml('ad-exchange.yaml')) });
  const storeFile = join(scratch, `store-${++runs}.json`);
  writeFileSync(storeFile, JSON.stringify({ fenlok: 'test-store/1', ...store.address }));
  const [first, second] = await Promise.all([0, 1].map(() => bootBuyer(app, store.address, ads.address.ads)));
  const folder = join(scratch, `dossier-${runs}`);
  await addPackage(folder, demoIpa);
  const dossier = await openDossier(folder);
  try {
    const kit = await buyingKit(storeFile, dossier, second!.device);
    const { results } = await drillDevice(first!.device, {
      dossier,
      intent,
      stateFolder,
      wanted: { drills },
      kits: {
        store: kit,
        ads: { client: adsClient({ fenlok: 'test-ads/1', ...ads.address }), store: kit.client },
      },
    });
    const facts = indexFacts(results.flatMap((result) => result.facts));
    const wanted = checks.filter(
      ({ area, needs }) => ['purchases', 'ads'].includes(area) && needs !== 'ad-surroundings',
    );
    const collected = collectFindings(wanted, facts, intent);
    const findings = collected.flatMap((report) => report.findings);
    const table = purchasesMatrix.table(new MatrixContext(facts, intent, findings, false));
    expect(results.flatMap(({ trouble = [] }) => trouble)).toEqual([]);
    return {
      found: findings
        .map(({ check, identity: { aspect = '', subject } }) => `${check} ${subject} ${aspect}`)
        .sort(),
      unseenBy: (id: string) => collected.find(({ check }) => check.id === id)!.unseen,
      untested: table.rows.flatMap(({ cells, name }) =>
        cells.flatMap(({ outcome }, i) => (outcome === 'untested' ? [`${name} ${table.columns[i]}`] : [])),
      ),
      texts: readdirSync(join(folder, 'traces')).map((name) =>
        readFileSync(join(folder, 'traces', name), 'utf8'),
      ),
      secrets: [store.address.secret, ads.address.secret, first!.phone.ads.advertisingId],
    };
  } finally {
    await Promise.all([first!.close(), second!.close(), store.close(), ads.close()]);
  }
}

const ADS = [
  'ad-after-removal placement ticket-interstitial no-ads',
  'ad-load placement ticket-interstitial ropewalk',
  'ad-load placement timetable-banner northmast',
  'live-ad-request network northmast live',
];

test('the demo app: what is planted, every situation seen, no secret and no id of the device in the dossier', async () => {
  const { found, secrets, texts, untested } = await drill(kelplineIos, ['purchases', 'ads']);
  expect(found).toEqual(
    [
      ...ADS,
      'ended-purchase product no-ads kept',
      'ended-purchase product pass.year kept',
      'product-ids product crossing.20 misspelt',
      'product-texts product pass.month price de',
      'unfinished-purchase product crossings.10 granted-twice',
      'unfinished-purchase product crossings.10 unfinished',
      'unrestored-purchase product no-ads not-restored',
    ].sort(),
  );
  // nobody can buy it yet
  expect(untested.filter((cell) => !cell.includes('crossings.20'))).toEqual([]);
  for (const secret of secrets) expect(texts.filter((text) => text.includes(secret))).toEqual([]);
});

test('an app that keeps the id of the device to itself: whether it is registered stays untested, never failed', async () => {
  const quiet: PhoneApp = {
    ...kelplineIos,
    began: ({ log }, process) => log('Fenlok', JSON.stringify({ kind: 'app.began', ...process })),
  };
  const { found, unseenBy } = await drill(quiet, ['ads']);
  expect(found).toEqual(ADS);
  expect(unseenBy('live-ad-request')).toEqual([expect.stringContaining('advertising id')]);
});
