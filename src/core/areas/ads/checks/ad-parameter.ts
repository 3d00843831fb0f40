/** Each place in a waterfall says what its network wants to know, in the shape that it wants. */

import { z } from 'zod';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { lacksInParameters, waterfallEntries } from '../wiring.ts';

const dataSchema = z.strictObject({
  placement: z.string(),
  network: z.string(),
  name: z.string(),
  found: z.string(),
  wanted: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const adParameter = defineCheck({
  id: 'ad-parameter',
  area: 'ads',
  priority: 'cannot-use',
  standard: 'The description of each network (`ads.networks`)',
  basis: 'measured',
  needs: 'ad-surroundings',
  data: dataSchema,
  words: ({ found, name, network, placement, wanted }) => ({
    what: `${placement}: ${network} is given ${found === '' ? 'no' : 'a wrong'} ${name}`,
    measured: found === '' ? `no ${name} in its waterfall` : quote(found),
    required: wanted,
    why: 'The network refuses the request, and its error looks like one of the connection.',
    remedy: `Copy ${name} from the dashboard of ${network} for this platform, and into fenlok.yaml.`,
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
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
              target: { kind: 'placement', id: placement.id, part: network.id },
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

  doc: {
    looksAt: 'Parameters of each place in a waterfall (`ads.placements`)',
    against: 'The shapes in the description of its network',
    matters: 'A network that is asked with a wrong parameter answers with nothing, and no error says so.',
    measured:
      "Each parameter of the waterfalls in the intent file against the shape that the network's description gives.",
    errs: "A parameter of the right shape may still be another account's.",
    fixes: [
      {
        where: 'fenlok.yaml',
        language: 'yaml',
        code: `waterfall:
  - { network: brightbuoy, parameters: { unit: bb-4711 } }`,
      },
    ],
  },
});
