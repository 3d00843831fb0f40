/** No placement for tests ships: it shows ads that pay nothing, and says so to everybody. */

import { z } from 'zod';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { testIdsIn, waterfallEntries } from '../wiring.ts';

const dataSchema = z.strictObject({ placement: z.string(), network: z.string(), found: z.string() });
type Data = z.infer<typeof dataSchema>;

export const testPlacement = defineCheck({
  id: 'test-placement',
  area: 'ads',
  priority: 'cannot-use',
  standard: 'The description of each network (`ads.networks`, `testIds`)',
  basis: 'measured',
  needs: 'ad-surroundings',
  data: dataSchema,
  words: ({ found, network, placement }) => ({
    what: `${placement}: ${network} is asked for test ads in the release`,
    measured: quote(found),
    required: 'the placement that earns money',
    why: 'Everybody sees ads that say that they are tests, and none of them pays.',
    remedy: 'Put in the id of the real placement.',
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
    for (const { evidence, platform } of facts.of('ad-surroundings'))
      for (const { entry, network, placement } of waterfallEntries(intent)) {
        const ids = testIdsIn(network, entry, platform);
        if (ids.length === 0) yield { outcome: 'passed' };
        for (const found of ids)
          yield {
            outcome: 'failed',
            draft: {
              identity: { subject: `placement ${placement.id}`, aspect: network.id },
              target: { kind: 'placement', id: placement.id, part: network.id },
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

  doc: {
    looksAt: 'The same',
    against: "None of the network's `testIds`",
    matters: 'Test ads pay nothing, and say so to everybody.',
    measured: 'The parameters of the waterfalls against the ids that the network gives out for tests.',
    errs: 'Ids that code puts in their place at run time are not seen.',
    fixes: [
      {
        where: 'fenlok.yaml',
        language: 'yaml',
        code: 'parameters: { unit: bb-4711 }   # the id of your own placement',
      },
    ],
  },
});
