import { z } from 'zod';
import type { CleartextFact } from '../../../model/fact.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';

// The device itself, and the machine that an emulator runs on: meant for development.
const LOCAL_HOST = /^(localhost|127\.0\.0\.1|10\.0\.2\.2|\[::1\])$/;

const dataSchema = z.strictObject({
  flaw: z.string(),
  host: z.string(),
  local: z.boolean(),
  platform: z.enum(['android', 'ios']),
  saidBy: z.string(),
});
type Data = z.infer<typeof dataSchema>;

/** Traffic without TLS can be read and changed on the way; user-added certificates let others do the same. */
export const cleartextTraffic = defineCheck({
  id: 'cleartext-traffic',
  area: 'quality',
  priority: 'wrong',
  standard: 'Android developers, Network security configuration; Apple, NSAppTransportSecurity',
  basis: 'either',
  needs: 'package',
  reads: ['cleartext'],
  data: dataSchema,
  words: ({ flaw, host, local, platform, saidBy }) =>
    flaw === 'user-certificates'
      ? {
          what: `Certificates that the user added are trusted ${host === '*' ? 'everywhere' : `for ${host}`}`,
          measured: '<certificates src="user" /> outside <debug-overrides>',
          required: 'the certificates of the system, in a release',
          why: 'Whoever gets a certificate onto the device can read and change what the app sends.',
          remedy: 'Move it into <debug-overrides>, which a release build ignores.',
        }
      : {
          what: `Traffic without TLS is allowed ${host === '*' ? 'to every host' : `to ${host}`}`,
          measured: saidBy === 'default' ? 'not said, and the target SDK is below 28' : `${saidBy} allows it`,
          required: 'https alone',
          why: local
            ? 'The address is one of development machines: in a release it is left over, or does no harm.'
            : 'Whoever is on the same network can read and change what the app sends and receives.',
          remedy:
            platform === 'ios'
              ? 'Take the exception out of NSAppTransportSecurity, and serve the host over https.'
              : 'Take the permission out of the network security configuration, and serve the host over https.',
        },

  *run(facts): Iterable<Assertion<Data>> {
    for (const fact of facts.of('cleartext')) {
      const asked = [
        fact.permitted && judge(fact, 'cleartext'),
        fact.trustsUserCertificates && judge(fact, 'user-certificates'),
      ].filter((assertion) => assertion !== false);
      yield* asked.length > 0 ? asked : [{ outcome: 'passed' as const }];
    }
  },

  doc: {
    looksAt: 'Network security configuration, `usesCleartextTraffic`, `NSAppTransportSecurity`',
    against:
      "TLS everywhere, the system's certificates alone. Estimated for addresses of development machines",
    matters: 'Whoever is on the same network can read and change what the app sends and receives.',
    measured:
      'The network security configuration and usesCleartextTraffic by target SDK, or NSAppTransportSecurity.',
    errs: 'Addresses of development machines may be left over and do no harm, so that they are estimated. What code does by itself is not seen.',
    fixes: [
      {
        where: 'res/xml/network_security_config.xml',
        language: 'xml',
        code: '<network-security-config><base-config cleartextTrafficPermitted="false" /></network-security-config>',
      },
      {
        where: 'Info.plist',
        language: 'xml',
        code: '<!-- no NSAllowsArbitraryLoads, no NSExceptionAllowsInsecureHTTPLoads -->',
      },
    ],
  },
});

function judge({ evidence, host, platform, saidBy }: CleartextFact, flaw: string): Assertion<Data> {
  const local = LOCAL_HOST.test(host);
  return {
    outcome: local ? 'cantTell' : 'failed',
    draft: {
      identity: { subject: host, aspect: flaw },
      basis: local ? 'estimated' : 'measured',
      severity: host === '*' ? 3 : local ? 1 : 2,
      digest: `${flaw} ${saidBy}`,
      occurrence: { evidence, shown: host, data: { flaw, host, local, platform, saidBy } },
    },
  };
}
