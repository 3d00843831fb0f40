/** What of a package ad networks look for: their classes, what is declared for them, and the ids of their attribution. */
import type { AppPackage } from '../../../model/app-package.ts';
import type { AdSurroundingsFact } from '../../../model/facts/ads.ts';
import type { PackageObserver } from '../../observer.ts';

export const observeAdSurroundings = {
  id: 'ad-surroundings',
  reads: 'package',
  *observe({ app, digest }) {
    yield {
      kind: 'ad-surroundings',
      platform: app.platform,
      evidence: digest,
      permissions: [...app.permissions].sort(),
      ...(app.ios ? inIos(app) : inAndroid(app)),
    };
  },
} satisfies PackageObserver;

type Found = Omit<AdSurroundingsFact, 'kind' | 'platform' | 'evidence' | 'permissions'>;

function inAndroid({ android }: AppPackage): Found {
  const { components = [], metaData = [] } = android?.manifest ?? {};
  return {
    classes: android?.classNames ?? [],
    components: components.map(({ name }) => name),
    values: Object.fromEntries(metaData.map(({ name, value }) => [name, value])),
    skAdNetworkIds: [],
  };
}

function inIos({ ios }: AppPackage): Found {
  const { executable, info, parts } = ios!;
  const items = Array.isArray(info.SKAdNetworkItems) ? info.SKAdNetworkItems : [];
  return {
    classes: [
      ...new Set([
        ...executable.slices.flatMap(({ importedClasses }) => importedClasses),
        ...parts
          .filter(({ kind }) => kind === 'framework')
          .map(({ path }) => path.slice(path.lastIndexOf('/') + 1).replace(/\.framework$/, '')),
      ]),
    ].sort(),
    components: [],
    values: Object.fromEntries(
      Object.entries(info).flatMap(([key, value]) => (typeof value === 'string' ? [[key, value]] : [])),
    ),
    skAdNetworkIds: items.flatMap((item) => {
      const id =
        typeof item === 'object' &&
        item !== null &&
        'SKAdNetworkIdentifier' in item &&
        item.SKAdNetworkIdentifier;
      return typeof id === 'string' ? [id.toLowerCase()] : [];
    }),
  };
}
