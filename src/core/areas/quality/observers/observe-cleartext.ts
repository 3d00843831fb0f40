/** Whether traffic without TLS is allowed (Android, *Network security configuration*; Apple, *NSAppTransportSecurity*). */
import type { AndroidPart, IosPart, PlistDict, PlistValue } from '../../../model/app-package.ts';
import type { CleartextFact } from '../../../model/fact.ts';
import type { PackageObserver } from '../../observer.ts';

// Apps for Android 9 and later are denied it unless they say otherwise.
const DENIED_FROM_TARGET = 28;

type Said = Pick<CleartextFact, 'host' | 'permitted' | 'saidBy' | 'trustsUserCertificates'>;

export const observeCleartext = {
  id: 'cleartext',
  reads: 'package',
  *observe({ app, digest }) {
    const said = app.android ? ofAndroid(app.android) : app.ios ? ofIos(app.ios) : [];
    for (const one of said)
      yield { kind: 'cleartext', platform: app.platform, evidence: digest, ...one } satisfies CleartextFact;
  },
} satisfies PackageObserver;

/** Where a configuration file is named, the attribute of the manifest is not looked at. */
function ofAndroid({ manifest, networkSecurity }: AndroidPart): Said[] {
  const byDefault = (manifest.targetSdk ?? 1) < DENIED_FROM_TARGET;
  const { usesCleartextTraffic } = manifest.application;
  if (!networkSecurity)
    return [
      {
        host: '*',
        permitted: usesCleartextTraffic ?? byDefault,
        saidBy: usesCleartextTraffic === undefined ? 'default' : 'android:usesCleartextTraffic',
        trustsUserCertificates: false,
      },
    ];
  const base = networkSecurity.cleartext ?? byDefault;
  return [
    {
      host: '*',
      permitted: base,
      saidBy: networkSecurity.cleartext === undefined ? 'default' : '<base-config>',
      trustsUserCertificates: networkSecurity.trustsUserCertificates,
    },
    ...networkSecurity.domains.flatMap(({ cleartext, names, trustsUserCertificates }) =>
      names.map((host) => ({
        host,
        permitted: cleartext ?? base,
        saidBy: cleartext === undefined ? 'default' : '<domain-config>',
        trustsUserCertificates,
      })),
    ),
  ];
}

function ofIos({ info }: IosPart): Said[] {
  const dict = (value: PlistValue | undefined): PlistDict =>
    typeof value === 'object' && !Array.isArray(value) ? value : {};
  const transport = dict(info.NSAppTransportSecurity);
  const everywhere = transport.NSAllowsArbitraryLoads;
  return [
    {
      host: '*',
      permitted: everywhere === true,
      saidBy: everywhere === undefined ? 'default' : 'NSAllowsArbitraryLoads',
      trustsUserCertificates: false,
    },
    ...Object.entries(dict(transport.NSExceptionDomains)).map(([host, rules]) => ({
      host,
      permitted: dict(rules).NSExceptionAllowsInsecureHTTPLoads === true,
      saidBy: 'NSExceptionAllowsInsecureHTTPLoads',
      trustsUserCertificates: false,
    })),
  ];
}
