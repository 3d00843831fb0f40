import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from 'yaml';
import { adAfterRemoval } from '../../../src/core/areas/ads/checks/ad-after-removal.ts';
import { adLoad } from '../../../src/core/areas/ads/checks/ad-load.ts';
import { adOrder } from '../../../src/core/areas/ads/checks/ad-order.ts';
import { adParameter } from '../../../src/core/areas/ads/checks/ad-parameter.ts';
import { adReturn } from '../../../src/core/areas/ads/checks/ad-return.ts';
import { adSeller } from '../../../src/core/areas/ads/checks/ad-seller.ts';
import { adWiring } from '../../../src/core/areas/ads/checks/ad-wiring.ts';
import { liveAdRequest } from '../../../src/core/areas/ads/checks/live-ad-request.ts';
import { testPlacement } from '../../../src/core/areas/ads/checks/test-placement.ts';
import type { Check } from '../../../src/core/areas/check.ts';
import { observers } from '../../../src/core/areas/observers.ts';
import { readAppAds } from '../../../src/core/formats/ads/app-ads.ts';
import { decodeTrace } from '../../../src/core/formats/trace.ts';
import { adNetworkSchema } from '../../../src/core/model/ad-network.ts';
import type { Fact } from '../../../src/core/model/fact.ts';
import type { AdSurroundingsFact, AppAdsFact } from '../../../src/core/model/facts/ads.ts';
import { type Intent, intentSchema } from '../../../src/core/model/intent.ts';
import { aBuild, departures, run } from '../../support/facts.ts';
import { demoFolder } from '../../support/paths.ts';

const networks = ['brightbuoy', 'ropewalk'].map((id) =>
  adNetworkSchema.parse(parse(readFileSync(join(demoFolder, `networks/${id}.yaml`), 'utf8'))),
);
const intentWith = (parameters: Record<string, unknown>): Intent =>
  intentSchema.parse({
    fenlok: 'intent/1',
    app: { id: aBuild.appId },
    ads: {
      networks,
      placements: [{ id: 'top', format: 'banner', waterfall: [{ network: 'brightbuoy', parameters }] }],
    },
  });
const right = { unit: 'bb-unit-0001' };

const android: AdSurroundingsFact = {
  kind: 'ad-surroundings',
  platform: 'android',
  evidence: 'package',
  classes: ['com.brightbuoy.ads.Brightbuoy', 'com.brightbuoy.connector.BrightbuoyConnector'],
  permissions: ['android.permission.ACCESS_NETWORK_STATE', 'android.permission.INTERNET'],
  components: ['com.brightbuoy.ads.FullScreenActivity'],
  values: { 'com.brightbuoy.APP_ID': 'bb-app-004711' },
  skAdNetworkIds: [],
};
const ios: AdSurroundingsFact = {
  ...android,
  platform: 'ios',
  classes: ['BrightbuoyAds', 'BrightbuoyConnector'],
  values: { BrightbuoyAppID: 'bb-app-004711' },
  skAdNetworkIds: ['bb0example.skadnetwork'],
};

test.each<[string, AdSurroundingsFact, string[]]>([
  ['all of it', android, []],
  ['all of it on iOS', ios, []],
  [
    'no library',
    { ...android, classes: android.classes.slice(1) },
    ['library com.brightbuoy.ads.Brightbuoy'],
  ],
  [
    'no connector',
    { ...android, classes: android.classes.slice(0, 1) },
    ['connector com.brightbuoy.connector.BrightbuoyConnector'],
  ],
  [
    'no permission',
    { ...android, permissions: android.permissions.slice(1) },
    ['declarations android.permission.ACCESS_NETWORK_STATE'],
  ],
  ['no activity', { ...android, components: [] }, ['declarations com.brightbuoy.ads.FullScreenActivity']],
  ['no app id', { ...android, values: {} }, ['declarations com.brightbuoy.APP_ID']],
  [
    'an app id of another shape',
    { ...android, values: { 'com.brightbuoy.APP_ID': 'nm-app-004711' } },
    ['declarations com.brightbuoy.APP_ID'],
  ],
  ['no id for attribution', { ...ios, skAdNetworkIds: [] }, ['declarations bb0example.skadnetwork']],
  ['no key in Info.plist', { ...ios, values: {} }, ['declarations BrightbuoyAppID']],
])('what a network needs: %s', (_, app, expected) => {
  // Ropewalk is described, and asked for nowhere
  expect(departures(run(adWiring, [app], intentWith(right)))).toEqual(
    expected.map((lack) => `failed network brightbuoy ${lack}`),
  );
});

test.each<[string, Record<string, unknown>, string[]]>([
  ['as it wants them', right, []],
  ['one for each platform', { unit: { android: 'bb-unit-0001', ios: 'oops' } }, []],
  ['none', {}, ['unit']],
  ['of another network', { unit: 'rw-unit-0001' }, ['unit']],
  ['one that it does not know', { ...right, untis: 'x' }, ['untis']],
])('what it is told: %s', (_, parameters, expected) => {
  expect(departures(run(adParameter, [android], intentWith(parameters)))).toEqual(
    expected.map((name) => `failed placement top brightbuoy ${name}`),
  );
});

test('a placement for tests must not ship', () => {
  expect(departures(run(testPlacement, [android], intentWith(right)))).toEqual([]);
  expect(departures(run(testPlacement, [android], intentWith({ unit: 'bb-test-0001' })))).toEqual([
    'failed placement top brightbuoy',
  ]);
});

const site = (text: string): AppAdsFact => {
  const { problems, sellers } = readAppAds('app-ads.txt', text);
  return {
    kind: 'app-ads',
    platform: 'android',
    evidence: 'site',
    host: 'kelpline.example',
    sellers,
    faults: problems.map(({ expected = '', found, place = '' }) => ({ line: place, found, expected })),
  };
};

test.each<[string, string, string[]]>([
  ['listed', 'brightbuoy.example, kelp-1, DIRECT', []],
  [
    'listed in capitals, with a comment and an extension',
    '\ufeffBrightBuoy.example ,kelp-1,reseller,f0 ; x=1 # ours',
    [],
  ],
  [
    'in between of others',
    '# hello\r\ncontact=a@b.example\r\nother.example,1,DIRECT\r\nbrightbuoy.example,1,DIRECT',
    [],
  ],
  [
    'beside variables whose values hold commas',
    'CONTACT = Ada, Harbour office, +47 1\nmanagerdomain=seller.example, NO\nbrightbuoy.example,1,DIRECT',
    [],
  ],
  ['not listed', 'other.example, 1, DIRECT', ['failed network brightbuoy missing']],
  [
    'a line with a typo',
    'brightbuoy.example, 1, DIRECTLY',
    ['failed line 1 line', 'failed network brightbuoy missing'],
  ],
  ['no account', 'brightbuoy.example, , DIRECT', ['failed line 1 line', 'failed network brightbuoy missing']],
  ['no domain', 'brightbuoy, 1, DIRECT', ['failed line 1 line', 'failed network brightbuoy missing']],
  ['a page of HTML', '<!doctype html>', ['failed line 1 line', 'failed network brightbuoy missing']],
])('app-ads.txt: %s', (_, text, expected) => {
  expect(departures(run(adSeller, [site(text)], intentWith(right)))).toEqual(expected);
});

test.each<[what: string, text: string, expected: string[]]>([
  ['ours', 'brightbuoy.example, kelp-1, DIRECT', []],
  ['ours among others', 'brightbuoy.example, x, RESELLER\nbrightbuoy.example, kelp-1, RESELLER', []],
  ['another', 'brightbuoy.example, kelp-2, DIRECT', ['failed network brightbuoy account']],
  ['none at all', 'other.example, kelp-1, DIRECT', ['failed network brightbuoy missing']],
])('the account in app-ads.txt: %s', (_, text, expected) => {
  const intent = intentWith(right);
  const withAccount = intent.ads.networks.map((network) =>
    typeof network === 'string' ? network : { ...network, sellerAccount: 'kelp-1' },
  );
  const own = { ...intent, ads: { ...intent.ads, networks: withAccount } };
  expect(departures(run(adSeller, [site(text)], own))).toEqual(expected);
});

test.each([
  ['a key with a typo', { conector: [] }, /conector/],
  ['an expression that is none', { testIds: ['('] }, /regular expression/],
  [
    'an id of attribution of another shape',
    { ios: { library: ['A'], skAdNetworkIds: ['x.skadnetwork'] } },
    /0123456789\.skadnetwork/,
  ],
  ['no format', { formats: [] }, /formats/],
])('a description of a network with %s is refused', (_, change, why) => {
  expect(adNetworkSchema.safeParse({ ...networks[0], ...change }).error?.message).toMatch(why);
});

/** Short for lines of a trace: `second kind key=value`. */
async function trace(...short: string[]): Promise<Fact[]> {
  const lines = short.map((text) => {
    const [second, kind, ...rest] = text.split(' ');
    const fields = Object.fromEntries(rest.map((pair) => pair.split('='))) as Record<string, unknown>;
    const said = (key: string) => (key in fields ? { [key]: fields[key] === 'true' } : {});
    return {
      at: `2026-11-27T10:00:${second!.padStart(2, '0')}Z`,
      kind,
      device: 'one',
      hierarchy: '',
      pid: 1,
      ...fields,
      ...said('test'),
      ...said('isDevelopment'),
      ...said('isRegistered'),
      ...('registered' in fields && { registered: String(fields.registered).split(',') }),
      ...('products' in fields && { products: String(fields.products).split(',').filter(Boolean) }),
    };
  });
  const decoded = await decodeTrace('t.jsonl', lines.map((line) => JSON.stringify(line)).join('\n'));
  return observers.flatMap((observer) =>
    observer.reads === 'trace'
      ? [...observer.observe({ digest: 't', platform: 'android', lines: decoded })]
      : [],
  );
}
const READY = [
  '0 ad.device isDevelopment=true registered=brightbuoy',
  '1 consent.given',
  '2 ad.initialised network=brightbuoy',
];
const ASKED = '5 ad.requested placement=top network=brightbuoy test=true';
const LOADED = '6 ad.loaded placement=top network=brightbuoy';
const intentOf = { ...intentWith(right), ads: { ...intentWith(right).ads, removedBy: 'no-ads' } };

test.each<[string, Check, string[], string[]]>([
  ['loaded', adLoad, [...READY, ASKED, LOADED], []],
  [
    'refused',
    adLoad,
    [...READY, ASKED, '6 ad.failed placement=top network=brightbuoy reason=bad-unit'],
    ['failed placement top brightbuoy'],
  ],
  [
    'nothing to show',
    adLoad,
    [...READY, ASKED, '6 ad.failed placement=top network=brightbuoy reason=no-fill'],
    ['cantTell placement top brightbuoy'],
  ],
  ['no answer', adLoad, [...READY, ASKED], ['cantTell placement top brightbuoy']],
  [
    'refused first, and loaded then',
    adLoad,
    [
      ...READY,
      ASKED,
      '6 ad.failed placement=top network=brightbuoy reason=x',
      '7 ad.requested placement=top network=brightbuoy test=true',
      '8 ad.loaded placement=top network=brightbuoy',
    ],
    [],
  ],
  ['lines in another order', adLoad, [LOADED, ASKED, ...READY], []],
  ['in order', adOrder, [...READY, ASKED], []],
  ['refused consent is an answer', adOrder, [READY[0]!, '1 consent.refused', READY[2]!, ASKED], []],
  ['nobody was asked', adOrder, [READY[2]!, ASKED], ['failed network brightbuoy consent']],
  [
    'the question still open',
    adOrder,
    ['1 consent.asked', READY[2]!, ASKED],
    ['failed network brightbuoy consent'],
  ],
  [
    'initialised too late',
    adOrder,
    [READY[1]!, ASKED, '7 ad.initialised network=brightbuoy'],
    ['failed network brightbuoy initialised'],
  ],
  ['a test ad on a registered device', liveAdRequest, [...READY, ASKED], []],
  [
    'a live ad',
    liveAdRequest,
    [...READY, ASKED.replace('true', 'false')],
    ['failed network brightbuoy live'],
  ],
  [
    'not registered',
    liveAdRequest,
    ['0 ad.device isDevelopment=true registered=ropewalk', ASKED],
    ['failed network brightbuoy unregistered'],
  ],
  [
    'not said',
    liveAdRequest,
    [READY[0]!, '5 ad.requested placement=top network=brightbuoy'],
    ['cantTell network brightbuoy unsaid'],
  ],
  [
    'a live ad, of which the app says otherwise',
    liveAdRequest,
    [...READY, ASKED, '6 ad.asked network=brightbuoy test=false isRegistered=true'],
    ['failed network brightbuoy live'],
  ],
  [
    'a network that does not know the device',
    liveAdRequest,
    [...READY, ASKED, '6 ad.asked network=brightbuoy test=true isRegistered=false'],
    ['failed network brightbuoy unregistered'],
  ],
  [
    'a live ad on a device of a user',
    liveAdRequest,
    ['0 ad.device isDevelopment=false', ASKED.replace('true', 'false')],
    [],
  ],
  [
    'shown to who has not bought',
    adAfterRemoval,
    ['3 access.now products=', ASKED, LOADED, '7 ad.showed placement=top'],
    [],
  ],
  [
    'shown to who bought its removal',
    adAfterRemoval,
    ['3 access.now products=no-ads', ASKED, LOADED, '7 ad.showed placement=top'],
    ['failed placement top no-ads'],
  ],
  [
    'shown before it was bought',
    adAfterRemoval,
    ['7 ad.showed placement=top', '8 access.now products=no-ads'],
    [],
  ],
  [
    'back where it was',
    adReturn,
    [
      '6 screen.seen step=a activity=x/.A',
      '7 ad.showed placement=top',
      '8 ad.closed placement=top',
      '9 screen.seen step=b activity=x/.A',
    ],
    [],
  ],
  [
    'back elsewhere',
    adReturn,
    [
      '6 screen.seen step=a activity=x/.A',
      '7 ad.showed placement=top',
      '8 ad.closed placement=top',
      '9 screen.seen step=b activity=x/.B',
    ],
    ['failed placement top screen'],
  ],
])('ads in a trace: %s', async (_, check, lines, expected) => {
  expect(departures(run(check, await trace(...lines), intentOf))).toEqual(expected);
});

test('a failure brings the network’s own lines of the log, and no others', async () => {
  const [failed] = run(
    adLoad,
    await trace(
      ...READY,
      '4 log.line tag=Brightbuoy message=before',
      ASKED,
      '5 log.line tag=Brightbuoy message=unit-unknown',
      '5 log.line tag=Zygote message=x',
      '6 ad.failed placement=top network=brightbuoy reason=refused',
    ),
    intentOf,
  );
  expect(failed).toMatchObject({ draft: { occurrence: { data: { log: ['Brightbuoy: unit-unknown'] } } } });
});

test('what was never loaded, shown or looked at is untested', async () => {
  const missingEvidence = async (check: Check, lines: string[]) =>
    run(check, await trace(...lines), intentOf).flatMap((one) =>
      'missingEvidence' in one ? [one.missingEvidence] : [],
    );
  expect(await missingEvidence(adLoad, READY)).toEqual(['top from brightbuoy']);
  expect(await missingEvidence(liveAdRequest, [ASKED])).toHaveLength(1);
  expect(await missingEvidence(adAfterRemoval, ['7 ad.showed placement=top'])).toEqual([
    'ads while no-ads is owned',
  ]);
  expect(await missingEvidence(adReturn, ['7 ad.showed placement=top'])).toHaveLength(1);
});
