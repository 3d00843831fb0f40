/** Each network of the waterfalls has its library, its connector and its declarations in the package. */

import { z } from 'zod';
import type { AdNetwork } from '../../../model/ad-network.ts';
import type { AdSurroundingsFact } from '../../../model/facts/ads.ts';
import type { Assertion, IntentWith } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { type Lack, lacksInPackage, networksOf, type PackagePart } from '../wiring.ts';

const dataSchema = z.strictObject({
  network: z.string(),
  part: z.enum(['library', 'connector', 'declarations']),
  name: z.string(),
  found: z.string(),
  wanted: z.string(),
  platform: z.enum(['android', 'ios']),
  placements: z.array(z.string()),
});
type Data = z.infer<typeof dataSchema>;

export const adWiring = defineCheck({
  id: 'ad-wiring',
  area: 'ads',
  priority: 'cannot-use',
  standard: 'The description of each network (`ads.networks`)',
  basis: 'measured',
  needs: 'ad-surroundings',
  data: dataSchema,
  words: ({ found, name, network, part, placements, platform, wanted }) => {
    const { remedy, what } = PARTS[part];
    const place = platform === 'ios' ? 'the app’s binary and Info.plist' : 'the package’s code and manifest';
    return {
      what: `${network}: ${what}`,
      measured: found === '' ? `no ${name} in ${place}` : `${name} is ${quote(found)}`,
      required: wanted,
      why: `Without it no ad of ${network} can be loaded: ${placements.join(', ')} ${placements.length === 1 ? 'goes' : 'go'} on to the next network, and nobody is told.`,
      remedy,
    };
  },

  *run(facts, intent): Iterable<Assertion<Data>> {
    for (const app of facts.of('ad-surroundings'))
      for (const network of usedNetworks(intent)) {
        const lacks = lacksInPackage(network, app);
        if (!lacks) yield { outcome: 'inapplicable' };
        else if (lacks.length === 0) yield { outcome: 'passed' };
        for (const lack of lacks ?? [])
          yield { outcome: 'failed', draft: draftOf(app, network, lack, intent) };
      }
  },

  doc: {
    looksAt:
      'Classes, permissions, components, meta-data and Info.plist of the package, and `SKAdNetworkItems`',
    against: 'What the description of each network of the waterfalls (`ads.networks`) needs',
    matters: 'A network whose library or declaration is missing never shows an ad.',
    measured:
      'Classes, permissions, components, meta-data and Info.plist entries of the package, and SKAdNetworkItems.',
    errs: 'Classes whose names are shortened by the build can only be told where the mapping keeps them.',
    fixes: [
      {
        where: 'AndroidManifest.xml',
        language: 'xml',
        code: '<meta-data android:name="example.brightbuoy.APP_ID" android:value="bb-app-1" />',
      },
      {
        where: 'Info.plist',
        language: 'xml',
        code: `<key>SKAdNetworkItems</key>
<array><dict><key>SKAdNetworkIdentifier</key><string>abc123.skadnetwork</string></dict></array>`,
      },
    ],
  },
});

const placementsOf = ({ ads }: IntentWith, { id }: AdNetwork): string[] =>
  ads.placements
    .filter(({ waterfall }) => waterfall.some(({ network }) => network === id))
    .map((one) => one.id);

const usedNetworks = (intent: IntentWith): AdNetwork[] =>
  networksOf(intent).filter((network) => placementsOf(intent, network).length > 0);

const draftOf = (
  { evidence, platform }: AdSurroundingsFact,
  network: AdNetwork,
  { found, name, part, wanted }: Lack<PackagePart>,
  intent: IntentWith,
) => ({
  identity: { subject: `network ${network.id}`, aspect: `${part} ${name}` },
  target: { kind: 'network' as const, id: network.id, part },
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

const PARTS: Readonly<Record<Data['part'], { what: string; remedy: string }>> = {
  library: {
    what: 'its library is not in the build',
    remedy: 'Add the library to the release variant, and keep it from being shrunk away.',
  },
  connector: {
    what: 'the connector through which it is asked is not in the build',
    remedy: 'Add the connector (adapter) for this network, of a version that fits its library.',
  },
  declarations: {
    what: 'what it must find declared is not there',
    remedy: 'Declare it as the guide of the network says, also in the release variant.',
  },
};
