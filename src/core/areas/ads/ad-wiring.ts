/** Each network of the waterfalls has its library, its connector and its declarations in the package. */
import type { AdNetwork } from '../../model/ad-network.ts';
import type { AdSurroundingsFact } from '../../model/facts/ads.ts';
import type { Intent } from '../../model/intent.ts';
import type { Assertion, Check } from '../check.ts';
import { type Lack, lacksInPackage, networksOf } from './wiring.ts';

export const adWiring = {
  id: 'ad-wiring',
  area: 'ads',
  needs: ['ad-surroundings'],
  *run(facts, intent): Iterable<Assertion> {
    for (const app of facts.of('ad-surroundings'))
      for (const network of usedNetworks(intent)) {
        const lacks = lacksInPackage(network, app);
        if (!lacks) yield { outcome: 'inapplicable' };
        else if (lacks.length === 0) yield { outcome: 'passed' };
        for (const lack of lacks ?? [])
          yield { outcome: 'failed', draft: draftOf(app, network, lack, intent) };
      }
  },
} satisfies Check;

const placementsOf = ({ ads }: Intent, { id }: AdNetwork): string[] =>
  ads.placements
    .filter(({ waterfall }) => waterfall.some(({ network }) => network === id))
    .map((one) => one.id);

const usedNetworks = (intent: Intent): AdNetwork[] =>
  networksOf(intent).filter((network) => placementsOf(intent, network).length > 0);

const draftOf = (
  { evidence, platform }: AdSurroundingsFact,
  network: AdNetwork,
  { found, name, part, wanted }: Lack,
  intent: Intent,
) => ({
  identity: { subject: `network ${network.id}`, aspect: `${part} ${name}` },
  basis: 'measured' as const,
  severity: part === 'library' ? 3 : part === 'connector' ? 2 : 1,
  digest: found,
  occurrence: {
    evidence,
    shown: network.name,
    data: {
      network: network.name,
      part,
      name,
      found,
      wanted,
      platform,
      placements: placementsOf(intent, network),
    },
  },
});
