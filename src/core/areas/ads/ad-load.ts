/** Each network of each waterfall loads once. That it has nothing to show is no mistake of the app, and no proof either. */
import type { AdLoadFact } from '../../model/facts/ads.ts';
import type { Intent } from '../../model/intent.ts';
import type { Assertion, Check } from '../check.ts';
import { tellingLoads } from './telling-loads.ts';
import { nameOfNetwork, networksOf } from './wiring.ts';

export const adLoad = {
  id: 'ad-load',
  area: 'ads',
  needs: ['ad-load'],
  *run(facts, intent): Iterable<Assertion> {
    const loads = tellingLoads(facts);
    for (const load of loads) {
      const { cell, outcome } = load;
      if (outcome === 'loaded') yield { outcome: 'passed', cell };
      else
        yield {
          outcome: outcome === 'failed' ? 'failed' : 'cantTell',
          cell,
          draft: draftOf(load, intent),
        };
    }
    for (const { id, waterfall } of intent.ads.placements)
      for (const { network } of waterfall)
        if (!loads.some((load) => load.placement === id && load.network === network))
          yield { outcome: 'untested', lacking: `${id} from ${network}` };
  },
} satisfies Check;

const LINES_TOLD = 5;

function draftOf({ cell, evidence, log, network, outcome, placement, reason }: AdLoadFact, intent: Intent) {
  const { logTags = [] } = networksOf(intent).find(({ id }) => id === network) ?? {};
  const own = log.filter(({ tag }) => logTags.length === 0 || logTags.includes(tag));
  return {
    identity: { subject: `placement ${placement}`, aspect: network },
    basis: outcome === 'failed' ? ('measured' as const) : ('estimated' as const),
    severity: outcome === 'failed' ? 2 : 1,
    digest: `${outcome} ${reason}`,
    occurrence: {
      evidence,
      cell,
      shown: placement,
      data: {
        placement,
        network: nameOfNetwork(intent, network),
        outcome,
        reason,
        log: own.slice(-LINES_TOLD).map(({ message, tag }) => `${tag}: ${message}`),
      },
    },
  };
}
