/**
 * Facts are kept by their observer's version, so output that changes under the same version would leave stale
 * facts in dossiers. Each observer's output on fixed evidence is recorded here by id and version: when this
 * fails, raise the observer's version and record the new digest beside it.
 */
import { createHash } from 'node:crypto';
import type { CaptureEvidence, CatalogueEvidence, Observer } from '../../../src/core/areas/observer.ts';
import { observers } from '../../../src/core/areas/observers.ts';
import { readPushPayload } from '../../../src/core/formats/push-payload.ts';
import { readSiteFile } from '../../../src/core/formats/site-file.ts';
import type { Fact } from '../../../src/core/model/fact.ts';
import { drillTrace, formScreen, startScreen } from '../../support/drill-trace.ts';
import { appEvidence, box, canvas, screenEvidence, ui } from '../../support/facts.ts';

// the last digits of a power may differ between engines
const roundNumbers = (_: string, value: unknown) =>
  typeof value === 'number' ? Math.round(value * 1e6) / 1e6 : value;

const RECORDED: Record<string, string> = {
  'unseen-focus 1': 'd99f467a26d21303',
  'other-moment 1': '201f38d861a2b5db',
  'sides 1': '14f3fef4d0088a2f',
  'package 3': 'f5826fdd365b4d24',
  'unread-parts 1': 'c776d199246b30c2',
  'signing 3': 'c1e78d964b199bd3',
  'entitlements 1': '5bceeae854cd0771',
  'backup 1': '55dd11dbd521ef44',
  'components 2': '8a29283424b28c25',
  'cleartext 1': '643250f8ad366a3a',
  'usage-descriptions 2': '192682eb3f6f4423',
  'required-reasons 1': '82ef029ad938a134',
  'native-libraries 1': '6cdcbaffa33168dd',
  'unused-resources 1': '89bb587fd2fa8b59',
  'manifest 1': 'ad277e868517cd1d',
  'layout-views 1': 'd4607f5a8ddb236f',
  'named-colours 1': 'a0305b6c2644b131',
  'link-filters 3': '339f7e5a342fd997',
  'link-domains 1': '7e067b065b9461d0',
  'link-runs 1': 'e4f99e2e247bb7b6',
  'push-setup 1': 'ec5922db3e3cbfd0',
  'payload 1': 'c8f97b10ac296e7e',
  'sale 1': '30e2bf04cf5d97fe',
  'push-runs 2': '827b937dcd801479',
  'purchases 1': '8201df0dde5a791c',
  'ad-surroundings 1': '67a67b5de3eecc3c',
  'app-ads 1': '9d8ff256d378a00c',
  'ad-runs 1': '59da0e8b345b11ae',
  'site-file 1': 'ec01d64c512cfe33',
  'varied-resources 2': 'd38d49ce737bf37a',
  'catalogue 4': 'ececb6218526c279',
  'catalogue-file 3': 'e36a0465a72a72d9',
  'capture 3': '758127195fcfccea',
  'stops 3': 'db920e02d944f4fd',
  'targets 3': 'dda29f4919513109',
  'text-contrast 8': '43df88b0e3a0d2d8',
  'colour-pairs 1': '8f5e4376056042e6',
  'icon-contrast 5': '27bd5d8412a900ff',
  'screen-texts 3': '51f53445998223f1',
  'places 1': 'fb653a82b0761380',
  'drill-run 1': '03af02ff251752a3',
};

const pixels = canvas(200, 400, [250, 250, 250]);
for (let x = 20; x < 100; x += 7) pixels.fill(box([x, 20, 3, 16]), [90, 100, 110]);
pixels.fill(box([10, 300, 180, 90]), [30, 60, 90]);

const tree = ui(
  [0, 0, 200, 400],
  { className: 'a.Frame' },
  ui([10, 10, 120, 36], { id: 'title', text: 'Title', className: 'a.Text' }),
  ui([10, 60, 40, 30], { id: 'bare', className: 'a.ImageButton', clickable: true }),
  ui(
    [0, 100, 200, 150],
    { scrollable: true },
    ui([0, 230, 200, 40], { clickable: true, label: 'Row' }, ui([10, 235, 50, 20], { text: 'Cut' })),
  ),
  ui([10, 300, 180, 90], { className: 'a.EditText', hint: 'Your name', enabled: false }),
);

const screen = screenEvidence(tree, { pixels, densityDpi: 320 });
const app = appEvidence({
  namedColours: [{ name: 'color/ink', light: 0xff102030, dark: 0xffe0e0e0 }],
  layoutViews: [
    {
      ...{ layout: 'layout/a', view: 'name', role: 'field', isNamed: false, isActionable: true },
      fixedTexts: [{ part: 'hint', text: 'Your name' }],
      textSize: { value: 14, unit: 'sp' },
      heightDp: 20,
      sideAttributes: ['paddingLeft'],
    },
  ],
  variants: [
    { name: 'drawable/x', forms: [{ qualifiers: 'xhdpi', file: 'res/x.png', widthPx: 2, heightPx: 2 }] },
  ],
  texts: [
    { key: 'at', locale: 'default', text: '%1$s at %2$d' },
    { key: 'plurals/n', locale: 'de', form: 'one', text: 'ein Platz' },
  ],
  components: [
    {
      type: 'activity',
      name: 'app.Screen',
      exported: 'unset',
      enabled: true,
      filters: [
        {
          actions: ['VIEW'],
          categories: [],
          schemes: ['https'],
          authorities: [{ host: 'a.example' }],
          specificParts: [],
          relativeGroups: [],
          paths: ['path=/x'],
          mimeTypes: [],
          autoVerify: true,
        },
      ],
      metaData: [],
    },
  ],
  android: {
    backup: { fullBackup: { includes: [], excludes: [{ domain: 'file', path: 'x' }] } },
    nativeLibraries: [{ file: 'lib/x86/libx.so', abi: 'x86', segmentAlignBytes: 4096 }],
    unusedResources: [{ name: 'drawable/x', type: 'drawable', files: ['res/x.png'], compressedBytes: 10 }],
    colourPairs: [
      {
        layout: 'layout/x',
        view: 'title',
        part: 'text',
        night: false,
        text: { name: 'color/ink', argb: 0x80102030 },
        background: { name: '#ffffff', argb: 0xffffffff },
        from: 'layout',
        bold: false,
      },
    ],
  },
});
const ios = appEvidence({
  unread: [{ code: 'x', place: 'App', found: 'encrypted code' }],
  ios: {
    entitlements: { 'aps-environment': 'development', 'get-task-allow': true },
    team: 'A',
    privacyManifests: [{ NSPrivacyTracking: true }],
    reasons: [{ category: 'UserDefaults', symbols: ['NSUserDefaults'], given: ['CA92.1'] }],
    parts: [
      {
        kind: 'framework',
        path: 'Frameworks/Charts.framework',
        id: 'example.charts',
        team: 'B',
        signature: {
          scheme: 'code-signature',
          outcome: 'broken',
          problems: [
            { code: 'signature.entry', place: 'entry Frameworks/Charts.framework/a', found: 'changed' },
          ],
          signers: [],
        },
        reasons: [{ category: 'DiskSpace', symbols: ['statfs'], given: [] }],
      },
    ],
    executable: {
      name: 'App',
      slices: [
        { architecture: 'arm64', uuid: 'U', encrypted: false, libraries: [], importedClasses: ['LAContext'] },
      ],
    },
  },
});

const catalogue: CatalogueEvidence = {
  digest: 'catalogue',
  platform: 'android',
  name: 'res',
  file: 'values-de/strings.xml',
  catalogue: {
    format: 'android-strings',
    syntax: 'printf-java',
    entries: [
      {
        key: 'at',
        locale: 'de',
        kind: 'text',
        forms: [{ form: '', text: 'um 5%', swallowed: ["'"], line: 3 }],
      },
      { key: 'n', locale: 'de', kind: 'plural', forms: [{ form: 'other', text: '%d <b>Plätze\u200b' }] },
    ],
    problems: [{ code: 'x', place: 'strings.xml, line 9', found: 'half a file' }],
  },
};

const trace = drillTrace({
  drill: 'process-death',
  seen: { before: formScreen({ note: 'Hi', scrolledPx: 30 }), 'back-1': startScreen },
  processes: { away: null, after: { pid: 9, startTicks: 95 } },
  more: [
    { at: '2026-11-23T10:00:00Z', kind: 'setting.put-back', setting: 'night', was: 'no', now: 'no' },
    { at: '2026-11-23T10:00:00Z', kind: 'services.seen', step: 'after', services: ['a.B'] },
  ],
});

const links = {
  ...drillTrace({
    drill: 'fire-links',
    more: [
      {
        at: '2026-11-27T10:00:00Z',
        kind: 'link.fired',
        step: 'link-1',
        url: 'https://a.example/x',
        how: 'cold',
        addressed: false,
        route: 'x',
        probe: 'good',
        variant: 'plain',
        arguments: { n: '1' },
        started: 'example.app/.Screen',
        from: '',
      },
      {
        at: '2026-11-27T10:00:00Z',
        kind: 'log.line',
        tag: 'Fenlok',
        pid: 1,
        message: '{"kind":"link.opened","arguments":{"n":1}}',
      },
    ],
  }),
};
const site = {
  digest: 'site',
  platform: 'android' as const,
  site: readSiteFile('a.example/assetlinks.json', new TextEncoder().encode('[]'), {
    host: 'a.example',
    kind: 'assetlinks',
  }),
};

const payload = {
  digest: 'payload',
  platform: 'android' as const,
  name: 'delay.json',
  payload: readPushPayload('delay.json', new TextEncoder().encode('{"data":{"kind":"delay","since":1}}')),
};
const sale = {
  digest: 'sale',
  platform: 'ios' as const,
  name: 'year.jws',
  sale: {
    form: 'transaction' as const,
    trust: { is: 'verified' as const, by: 'apple' as const },
    appId: 'example.app',
    product: 'pass.year',
    transaction: '2',
    original: '1',
    boughtAt: '2026-11-27T10:00:00.000Z',
    state: 'renewed' as const,
  },
};
const at = '2026-11-27T10:00:00Z';
const messages = drillTrace({
  drill: 'push-walk',
  more: [
    { at, kind: 'permission.asked', step: 'allowed', asked: true, answer: 'allow', granted: true },
    { at, kind: 'token.registered', step: 'allowed', bytes: 32, isHex: true, digest: 'd' },
    {
      at,
      kind: 'message.sent',
      step: 'message-1',
      message: 'delay',
      environment: 'production',
      state: 'front',
      digest: 'd',
      status: 200,
    },
    {
      at,
      kind: 'notifications.seen',
      step: 'message-1',
      posted: [{ channel: 'c', title: 't', text: 'x', actions: ['a'] }],
    },
    { at, kind: 'message.tapped', step: 'message-1' },
  ],
});

const purchases = {
  ...messages,
  lines: [
    { at, kind: 'store.listed', account: 'ada', device: 'one', asked: ['a', 'b'], returned: ['a'] },
    {
      at,
      kind: 'store.offered',
      account: 'ada',
      product: 'a',
      productKind: 'consumable',
      name: 'A',
      description: '',
      price: '€1',
      amount: 1,
      currency: 'EUR',
      locale: 'en',
    },
    {
      at,
      kind: 'store.bought',
      account: 'ada',
      device: 'one',
      product: 'a',
      transaction: '1',
      original: '1',
    },
    { at, kind: 'access.now', device: 'one', products: ['a'] },
    { at, kind: 'ad.requested', device: 'one', placement: 'p', network: 'n', test: true },
    { at, kind: 'ad.loaded', device: 'one', placement: 'p', network: 'n' },
    { at, kind: 'ad.showed', device: 'one', placement: 'p' },
  ],
};

const appAds = {
  digest: 'app-ads',
  platform: 'android' as const,
  site: readSiteFile('app-ads.txt', new TextEncoder().encode('a.example, 1, DIRECT\nnobody\n'), {
    host: 'kelpline.example',
    kind: 'app-ads',
  }),
};

/** For observers that find nothing on the common one. */
const screensOf: Record<string, CaptureEvidence> = {
  'unseen-focus': screenEvidence(ui([0, 0, 9, 9], {}, ui([0, 0, 0, 0], { id: 'ghost', focusable: true }))),
  'other-moment': screenEvidence(
    ui(
      [0, 0, 99, 200],
      {},
      ...[20, 50, 80, 110, 140].map((y) => ui([9, y, 80, 20], { text: 'Settings', className: 'TextView' })),
    ),
  ),
  sides: screenEvidence(ui([0, 0, 99, 40], {}, ui([9, 9, 40, 20], { text: 'مرحبا' })), {
    cell: { locale: 'ar' },
    pixels: written(),
  }),
};

function written() {
  const pixels = canvas(99, 40, [255, 255, 255]);
  for (let x = 12; x < 42; x += 6) pixels.fill(box([x, 14, 3, 9]), [0, 0, 0]);
  return pixels;
}

/** The fixed evidence of each sort. */
function factsOf(observer: Observer): Fact[] {
  switch (observer.reads) {
    case 'capture':
      return [...observer.observe(screensOf[observer.id] ?? screen)];
    case 'catalogue':
      return [...observer.observe(catalogue)];
    case 'site':
      return [site, appAds].flatMap((of) => [...observer.observe(of)]);
    case 'payload':
      return [...observer.observe(payload)];
    case 'sale':
      return [...observer.observe(sale)];
    case 'trace':
      return [trace, links, messages, purchases].flatMap((of) => [...observer.observe(of)]);
    default:
      return [app, ios].flatMap((of) => [...observer.observe(of)]);
  }
}

test.each(observers.map((observer) => [`${observer.id} ${observer.version}`, observer] as const))(
  '%s gives what it gave',
  (name, observer) => {
    const facts = factsOf(observer);
    expect(facts.length).toBeGreaterThan(0);
    expect(createHash('sha256').update(JSON.stringify(facts, roundNumbers)).digest('hex').slice(0, 16)).toBe(
      RECORDED[name],
    );
  },
);
