/** The phone finds who a link is for from the manifest, by its own code; it must come out as `matchLink` has it. */

import { readSiteFile } from '../../src/core/formats/site-file.ts';
import type { SiteFile } from '../../src/core/model/site-file.ts';
import { type LinkCandidate, linkFiltersOf } from '../../src/core/platform/links/link-decision.ts';
import { parseLinkUri } from '../../src/core/platform/links/link-uri.ts';
import { linkMatcher } from '../../src/core/platform/links/match-link.ts';
import type { AndroidDevice } from '../../src/device/android/android-device.ts';
import { quoteShell } from '../../src/device/android/quote-shell.ts';
import { openDevice } from '../../src/device/bridge/open-device.ts';
import { nodePorts } from '../../src/node/ports.ts';
import { type ServedPhone, servePhone } from '../../src/standins/phone/bridge/serve-phone.ts';
import { shapes } from '../../src/standins/phone/shapes.ts';
import { packLinkApp, readBytes } from '../support/link-app.ts';
import { type AndroidGroup, activityXml, casesOf, linkCases, manifestXml } from '../support/link-cases.ts';
import { describeWith, scratchFolder } from '../support/paths.ts';

const CERTIFICATE =
  'D6:7A:63:BC:0E:68:C2:3D:5E:6B:85:F6:F9:33:55:3E:FA:F4:8E:B7:03:65:8A:83:C1:BF:79:EB:A5:17:C7:EB';

const serve = (packageName: string, fingerprint: string, head = ''): string =>
  `${head}${JSON.stringify([
    {
      relation: ['delegate_permission/common.handle_all_urls'],
      target: {
        namespace: 'android_app',
        package_name: packageName,
        sha256_cert_fingerprints: [fingerprint],
      },
    },
  ])}`;

/** The groups lie in one app here: each gets hosts and schemes of its own, so that one filter alone decides. */
function apart(group: AndroidGroup, i: number): AndroidGroup {
  const text = JSON.stringify(group)
    .replaceAll(/ferry(?=\.?example)/gi, (host) => `${host}${i}`)
    .replaceAll(/\bkelp(?=:|\\")/gi, (scheme) => `${scheme}${i}`);
  const takesEveryHost = group.filter.includes('host="*"');
  return JSON.parse(takesEveryHost ? text.replaceAll('https', `web${i}`) : text) as AndroidGroup;
}

describeWith(
  'aapt2',
  'apksigner',
  'framework',
)('links fired through the bridge', () => {
  const folder = scratchFolder();
  const verified = `<activity android:name=".Verified" android:exported="true"><intent-filter android:autoVerify="true">
    <action android:name="android.intent.action.VIEW" /><category android:name="android.intent.category.DEFAULT" />
    <category android:name="android.intent.category.BROWSABLE" /><data android:scheme="https" android:pathPrefix="/in" />
    ${['good', 'other-app', 'other-key', 'moved', 'text', 'silent'].map((host) => `<data android:host="${host}.example" />`).join('')}
    </intent-filter></activity>
    <activity-alias android:name=".Alias" android:targetActivity=".Verified" android:exported="true"><intent-filter>
    <action android:name="android.intent.action.VIEW" /><category android:name="android.intent.category.DEFAULT" />
    <category android:name="android.intent.category.BROWSABLE" /><data android:scheme="alias" /></intent-filter></activity-alias>`;
  const twice = (name: string) => activityXml({ about: '', filter: '<data android:scheme="twice" />' }, name);
  const groups = linkCases.android.map(apart);
  const activities = groups.map((group, i) => activityXml(group, `.Link${i}`));
  const sites = new Map([
    ['good.example', serve('example.links', CERTIFICATE)],
    ['other-app.example', serve('example.others', CERTIFICATE)],
    ['other-key.example', serve('example.links', CERTIFICATE.replace('D6', 'D7'))],
    ['moved.example', serve('example.links', CERTIFICATE, 'HTTP/1.1 301 Moved\nlocation: /there\n\n')],
    ['text.example', serve('example.links', CERTIFICATE, 'HTTP/1.1 200 OK\ncontent-type: text/plain\n\n')],
  ]);
  const urls = [
    ...new Set(groups.flatMap((group) => casesOf(group).map(([url]) => url))),
    ...[...sites.keys(), 'silent.example'].flatMap((host) => [`https://${host}/in`, `https://${host}/out`]),
    'alias:it',
    'twice:it',
  ];
  let phone: ServedPhone;
  let device: AndroidDevice;
  let candidate: LinkCandidate;

  beforeAll(async () => {
    const apk = packLinkApp(folder, manifestXml([...activities, verified, twice('.One'), twice('.Other')]));
    phone = await servePhone({ shape: shapes.common, ports: nodePorts, sites });
    const installed = await phone.os.packages.install(readBytes(apk), { replace: true });
    if (typeof installed === 'string') throw new Error(installed);
    const { components, targetSdk = 1 } = installed.opened.app.android!.manifest;
    const [certificate] = installed.opened.app.signing.certificates;
    candidate = {
      appId: 'example.links',
      android: {
        filters: linkFiltersOf(components),
        targetSdk,
        certificates: [certificate!.sha256],
        deviceSdk: shapes.common.sdk,
      },
    };
    device = await openDevice(phone.address, { stateFolder: folder });
  });
  afterAll(async () => {
    await device.close();
    await phone.close();
  });

  const SYSTEM: Record<string, string> = {
    'com.android.browser/.BrowserActivity': 'browser',
    'com.android.intentresolver/.ResolverActivity': 'choice',
  };

  /** Of what the phone says that it opened: an activity of the app, its browser, its chooser, or nothing. */
  async function fired(url: string, options = ''): Promise<string> {
    const { out } = await device.run(
      `am start -W -a android.intent.action.VIEW -c android.intent.category.BROWSABLE ${options} -d ${quoteShell(url)}`,
    );
    const started = /^Activity: (\S+)/m.exec(out)?.[1] ?? 'nobody';
    return SYSTEM[started] ?? started.replace('/', '');
  }

  test('come out as matchLink has it, also where they are addressed to the app', async () => {
    const files = [...sites].map(
      ([host, text]): SiteFile =>
        readSiteFile(host, new TextEncoder().encode(text), { host, kind: 'assetlinks' }),
    );
    const { decide } = linkMatcher(candidate, files);
    const differing: string[] = [];
    const seen = new Map<string, number>();
    const hold = (url: string, found: string, expected: string) => {
      if (found !== expected) differing.push(`${url}: the phone ${found}, matchLink ${expected}`);
    };
    for (const url of urls) {
      const { components, opens } = decide(parseLinkUri(url));
      seen.set(opens, (seen.get(opens) ?? 0) + 1);
      // what nobody said is served is a failure to the phone, and unknown to Fenlok
      hold(url, await fired(url), opens === 'app' ? components[0]! : opens === 'unknown' ? 'browser' : opens);
      const taking = components.length > 1 ? 'choice' : (components[0] ?? 'nobody');
      hold(`${url} addressed`, await fired(url, '-p example.links'), taking);
    }
    expect(differing).toEqual([]);
    expect(urls.length).toBeGreaterThan(150);
    for (const outcome of ['app', 'browser', 'choice', 'nobody', 'unknown'])
      expect(seen.get(outcome) ?? 0).toBeGreaterThan(0);
  });
});
