/** No placement for tests ships: it shows ads that pay nothing, and says so to everybody. */
import type { Assertion, Check } from '../check.ts';
import { testIdsIn, waterfallEntries } from './wiring.ts';

export const testPlacement = {
  id: 'test-placement',
  area: 'ads',
  needs: ['ad-surroundings'],
  *run(facts, intent): Iterable<Assertion> {
    for (const { evidence, platform } of facts.of('ad-surroundings'))
      for (const { entry, network, placement } of waterfallEntries(intent)) {
        const ids = testIdsIn(network, entry, platform);
        if (ids.length === 0) yield { outcome: 'passed' };
        for (const found of ids)
          yield {
            outcome: 'failed',
            draft: {
              identity: { subject: `placement ${placement.id}`, aspect: network.id },
              basis: 'measured',
              severity: 2,
              digest: found,
              occurrence: {
                evidence,
                shown: placement.id,
                data: { placement: placement.id, network: network.name, found },
              },
            },
          };
      }
  },
} satisfies Check;
