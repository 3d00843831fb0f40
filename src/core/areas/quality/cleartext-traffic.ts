import type { CleartextFact } from '../../model/fact.ts';
import type { Assertion, Check } from '../check.ts';

// The device itself, and the machine that an emulator runs on: meant for development.
const LOCAL_HOST = /^(localhost|127\.0\.0\.1|10\.0\.2\.2|\[::1\])$/;

/** Traffic without TLS can be read and changed on the way; user-added certificates let others do the same. */
export const cleartextTraffic = {
  id: 'cleartext-traffic',
  area: 'quality',
  needs: ['package', 'cleartext'],
  *run(facts): Iterable<Assertion> {
    for (const fact of facts.of('cleartext')) {
      const asked = [
        fact.permitted && judge(fact, 'cleartext'),
        fact.trustsUserCertificates && judge(fact, 'user-certificates'),
      ].filter((assertion) => assertion !== false);
      yield* asked.length > 0 ? asked : [{ outcome: 'passed' as const }];
    }
  },
} satisfies Check;

function judge({ evidence, host, platform, saidBy }: CleartextFact, flaw: string): Assertion {
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
