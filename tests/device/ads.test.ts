/** The demo app's ads on a stand-in phone, with networks and a store that answer; and apps that differ from it in one thing. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from 'yaml';
import { indexFacts } from '../../src/core/areas/check.ts';
import { checks } from '../../src/core/areas/checks.ts';
import { collectFindings } from '../../src/core/checklist/collect-findings.ts';
import { openDevice } from '../../src/device/bridge/open-device.ts';
import { drillDevice } from '../../src/device/drill-session.ts';
import { adsClient } from '../../src/node/ads/ads-file.ts';
import { readIntent } from '../../src/node/project.ts';
import { storeClient } from '../../src/node/store/store-client.ts';
import { exchangeSchema } from '../../src/standins/ads/exchange.ts';
import { serveAds } from '../../src/standins/ads/serve-ads.ts';
import type { AppAds, PhoneApp, ScreenHost } from '../../src/standins/phone/app-model.ts';
import { kelpline } from '../../src/standins/phone/apps/kelpline/kelpline.ts';
import { storeCatalogueSchema } from '../../src/standins/store/catalogue.ts';
import { serveStore } from '../../src/standins/store/serve-store.ts';
import { kelplineDossier } from '../support/drill-bench.ts';
import { demoFolder, scratchFolder } from '../support/paths.ts';
import { bootPhone } from '../support/served-phone.ts';

const scratch = scratchFolder();
const yaml = (name: string): unknown => parse(readFileSync(join(demoFolder, name), 'utf8'));

let runs = 0;
async function loadAll(app: PhoneApp) {
  const intent = await readIntent(join(demoFolder, 'fenlok.yaml'));
  const ads = await serveAds({ setup: exchangeSchema.parse(yaml('ad-exchange.yaml')) });
  const store = await serveStore({ catalogue: storeCatalogueSchema.parse(yaml('store.yaml')), settings: {} });
  const phone = await bootPhone({
    apps: [app],
    ads: ads.address.ads,
    store: { ...store.address, account: 'ada' },
  });
  const stateFolder = join(scratch, 'state');
  const device = await openDevice(phone.address, { stateFolder });
  const folder = join(scratch, `dossier-${++runs}`);
  try {
    const { results } = await drillDevice(device, {
      dossier: await kelplineDossier(folder),
      intent,
      stateFolder,
      wanted: { drills: ['ads'] },
      kits: {
        ads: {
          client: adsClient({ fenlok: 'test-ads/1', ...ads.address }),
          store: storeClient({ fenlok: 'test-store/1', ...store.address, testers: [] }),
        },
      },
    });
    const facts = indexFacts(results.flatMap((result) => result.facts));
    const found = collectFindings(
      checks.filter(({ area, needs }) => area === 'ads' && needs !== 'ad-surroundings'),
      facts,
      intent,
    ).flatMap(({ findings }) =>
      findings.map(({ check, identity }) => `${check} ${identity.subject.split(' ')[1]} ${identity.aspect}`),
    );
    expect(results.flatMap(({ trouble = [] }) => trouble)).toEqual([]);
    return { found: found.sort(), folder, secrets: [ads.address.secret, store.address.secret] };
  } finally {
    await device.close();
    await Promise.all([phone.close(), ads.close(), store.close()]);
  }
}

const PLANTED = [
  'ad-after-removal ticket-interstitial no-ads',
  'ad-load ticket-interstitial ropewalk',
  'ad-load timetable-banner northmast',
  'live-ad-request northmast live',
];

test('the demo app: what is planted, and no secret in the dossier', async () => {
  const { folder, found, secrets } = await loadAll(kelpline);
  expect(found).toEqual(PLANTED);
  for (const name of readdirSync(join(folder, 'traces'))) {
    const text = readFileSync(join(folder, 'traces', name), 'utf8');
    for (const secret of secrets) expect(text).not.toContain(secret);
  }
});

/** What the app prints passes through `change`; a line that it makes nothing of is not printed. */
function printing(change: (line: Record<string, unknown>) => object | undefined): PhoneApp {
  const through = <H extends Pick<ScreenHost, 'log'>>(host: H): H => ({
    ...host,
    log: (tag: string, message: string) => {
      const line = tag === 'Fenlok' ? change(JSON.parse(message) as Record<string, unknown>) : message;
      if (line !== undefined) host.log(tag, typeof line === 'string' ? line : JSON.stringify(line));
    },
  });
  const { ads, screens } = kelpline;
  const answering: AppAds = {
    answered: (host, ...rest) => ads!.answered(through(host), ...rest),
    closed: (host, placement) => ads!.closed(through(host), placement),
  };
  return {
    ...kelpline,
    ads: answering,
    screens: Object.fromEntries(
      Object.entries(screens).map(([id, screen]) => [
        id,
        {
          ...screen,
          ...(screen.created && {
            created: (host: ScreenHost, again: boolean) => screen.created!(through(host), again),
          }),
        },
      ]),
    ),
  };
}

test.each<[string, PhoneApp, string[]]>([
  [
    'nobody is asked for consent',
    printing((line) => (line.kind === 'consent.given' ? undefined : line)),
    ['brightbuoy', 'northmast', 'ropewalk'].map((network) => `ad-order ${network} consent`),
  ],
  [
    'one network is never initialised',
    printing((line) => (line.kind === 'ad.initialised' && line.network === 'northmast' ? undefined : line)),
    ['ad-order northmast initialised'],
  ],
  [
    'the app says that it asks for a test ad, and does not: the network knows',
    printing((line) => (line.kind === 'ad.requested' ? { ...line, test: true } : line)),
    [],
  ],
  [
    'closing an ad leads elsewhere',
    {
      ...kelpline,
      ads: {
        ...kelpline.ads!,
        closed: (host, placement) => {
          kelpline.ads!.closed(host, placement);
          (host as ScreenHost).open('alerts', { instead: true });
        },
      },
    },
    ['ad-return ticket-interstitial screen'],
  ],
])('%s', async (_, app, more) => {
  expect((await loadAll(app)).found).toEqual([...PLANTED, ...more].sort());
});
