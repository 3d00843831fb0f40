/** Consent comes before the first request, and each network is initialised before it is asked. */
import type { AdLoadFact } from '../../model/facts/ads.ts';
import type { Assertion, Check } from '../check.ts';
import { nameOfNetwork } from './wiring.ts';

export const adOrder = {
  id: 'ad-order',
  area: 'ads',
  needs: ['ad-load'],
  *run(facts, intent): Iterable<Assertion> {
    const seen = new Set<string>();
    for (const load of facts.of('ad-load')) {
      const { cell, consent, isInitialised, network } = load;
      const faults = [
        ...(consent === 'none' || consent === 'asked' ? ['consent'] : []),
        ...(isInitialised ? [] : ['initialised']),
      ];
      if (faults.length === 0) yield { outcome: 'passed', cell };
      for (const fault of faults) {
        const key = `${network} ${fault}`;
        if (seen.has(key)) continue;
        seen.add(key);
        yield { outcome: 'failed', cell, draft: draftOf(load, fault, nameOfNetwork(intent, network)) };
      }
    }
  },
} satisfies Check;

const draftOf = (
  { at, cell, consent, evidence, network, placement }: AdLoadFact,
  fault: string,
  name: string,
) => ({
  identity: { subject: `network ${network}`, aspect: fault },
  basis: 'measured' as const,
  severity: fault === 'consent' ? 2 : 1,
  digest: consent,
  occurrence: { evidence, cell, shown: placement, data: { network: name, placement, fault, consent, at } },
});
