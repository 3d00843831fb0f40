/** What each network of the waterfalls lacks in a package: its library, its connector, what is declared for it, its parameters. */
import type { AdNetwork } from '../../model/ad-network.ts';
import type { Platform } from '../../model/candidate.ts';
import type { AdSurroundingsFact } from '../../model/facts/ads.ts';
import type { AdPlacement, WaterfallEntry } from '../../model/intent-parts.ts';
import type { IntentWith } from '../check.ts';

export const wiringParts = ['library', 'connector', 'declarations', 'parameters'] as const;
export type WiringPart = (typeof wiringParts)[number];

export interface Lack<Part extends WiringPart = WiringPart> {
  part: Part;
  /** The class, permission, key or parameter. */
  name: string;
  /** What stands there instead; empty where nothing does. */
  found: string;
  wanted: string;
}

/** Descriptions that were read from their files; one that was not cannot be judged. */
export const networksOf = ({ ads }: IntentWith): AdNetwork[] =>
  ads.networks.filter((one) => typeof one !== 'string');

/** As people call it; its id where it is not described. */
export const nameOfNetwork = (intent: IntentWith, id: string): string =>
  networksOf(intent).find((network) => network.id === id)?.name ?? id;

/** What a package can show of it; its parameters stand in the intent file. */
export type PackagePart = Exclude<WiringPart, 'parameters'>;

/** Of a network that has no part on this platform, undefined. */
export function lacksInPackage(network: AdNetwork, app: AdSurroundingsFact): Lack<PackagePart>[] | undefined {
  if (app.platform === 'android' && network.android) {
    const { components, connector, library, metaData, permissions } = network.android;
    return [
      ...missingOf('library', library, app.classes),
      ...missingOf('connector', connector, app.classes),
      ...missingEach(permissions, app.permissions),
      ...missingEach(components, app.components),
      ...wrongValues(metaData, app.values),
    ];
  }
  if (app.platform === 'ios' && network.ios) {
    const { connector, library, plistKeys, skAdNetworkIds } = network.ios;
    return [
      ...missingOf('library', library, app.classes),
      ...missingOf('connector', connector, app.classes),
      ...missingEach(skAdNetworkIds, app.skAdNetworkIds),
      ...wrongValues(plistKeys, app.values),
    ];
  }
  return undefined;
}

/** Any one of several names will do. */
const missingOf = (
  part: PackagePart,
  names: readonly string[],
  there: readonly string[],
): Lack<PackagePart>[] =>
  names.length === 0 || names.some((name) => there.includes(name))
    ? []
    : [{ part, name: names[0]!, found: '', wanted: names.join(' or ') }];

const missingEach = (names: readonly string[], there: readonly string[]): Lack<PackagePart>[] =>
  names
    .filter((name) => !there.includes(name))
    .map((name) => ({ part: 'declarations', name, found: '', wanted: name }));

const wrongValues = (
  keys: readonly { key: string; matches?: string }[],
  values: Readonly<Record<string, string>>,
): Lack<PackagePart>[] =>
  keys.flatMap(({ key, matches }): Lack<PackagePart>[] => {
    const found = values[key];
    if (found === undefined) return [{ part: 'declarations', name: key, found: '', wanted: key }];
    if (matches === undefined || new RegExp(matches, 'u').test(found)) return [];
    return [{ part: 'declarations', name: key, found, wanted: `a value like ${matches}` }];
  });

export function lacksInParameters(network: AdNetwork, entry: WaterfallEntry, platform: Platform): Lack[] {
  const lacks: Lack[] = [];
  for (const [name, { matches, says }] of Object.entries(network.parameters)) {
    const found = parameterOf(entry, name, platform);
    if (found === undefined || !new RegExp(matches, 'u').test(found))
      lacks.push({ part: 'parameters', name, found: found ?? '', wanted: says });
  }
  for (const name of Object.keys(entry.parameters))
    if (!network.parameters[name])
      lacks.push({
        part: 'parameters',
        name,
        found: 'a parameter that the network does not know',
        wanted: Object.keys(network.parameters).join(', ') || 'none',
      });
  return lacks;
}

function parameterOf({ parameters }: WaterfallEntry, name: string, platform: Platform): string | undefined {
  const value = parameters[name];
  return typeof value === 'object' ? value[platform] : value;
}

/** Parameters of an entry that belong to a placement for tests. */
export const testIdsIn = (network: AdNetwork, entry: WaterfallEntry, platform: Platform): string[] =>
  Object.keys(entry.parameters)
    .flatMap((name) => parameterOf(entry, name, platform) ?? [])
    .filter((value) => network.testIds.some((pattern) => new RegExp(pattern, 'u').test(value)));

/** Each place in each waterfall, with the description of its network. */
export const waterfallEntries = (
  intent: IntentWith,
): { placement: AdPlacement; entry: WaterfallEntry; network: AdNetwork }[] => {
  const networks = new Map(networksOf(intent).map((network) => [network.id, network]));
  return intent.ads.placements.flatMap((placement) =>
    placement.waterfall.flatMap((entry) => {
      const network = networks.get(entry.network);
      return network ? [{ placement, entry, network }] : [];
    }),
  );
};
