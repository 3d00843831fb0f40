/** Each place in a waterfall says what its network wants to know, in the shape that it wants. */
import type { Assertion, Check } from '../check.ts';
import { lacksInParameters, waterfallEntries } from './wiring.ts';

export const adParameter = {
  id: 'ad-parameter',
  area: 'ads',
  needs: ['ad-surroundings'],
  *run(facts, intent): Iterable<Assertion> {
    for (const { evidence, platform } of facts.of('ad-surroundings'))
      for (const { entry, network, placement } of waterfallEntries(intent)) {
        if (!network[platform]) continue;
        const lacks = lacksInParameters(network, entry, platform);
        if (lacks.length === 0) yield { outcome: 'passed' };
        for (const { found, name, wanted } of lacks)
          yield {
            outcome: 'failed',
            draft: {
              identity: { subject: `placement ${placement.id}`, aspect: `${network.id} ${name}` },
              basis: 'measured',
              severity: 2,
              digest: found,
              occurrence: {
                evidence,
                shown: placement.id,
                data: { placement: placement.id, network: network.name, name, found, wanted },
              },
            },
          };
      }
  },
} satisfies Check;
