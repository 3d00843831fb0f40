import { catalogueObservers, packageObservers } from '../areas/observers-by-evidence.ts';
import type { AppPackage } from '../model/app-package.ts';
import type { Fact } from '../model/fact.ts';

/** All that the observers measure on a package: what it declares, its parts, the catalogues among its assets. */
export const factsOfPackage = (app: AppPackage): Fact[] => [
  ...packageObservers.flatMap((observer) => [...observer.observe({ digest: app.digest, app })]),
  ...(app.assetTexts ?? []).flatMap(({ catalogue, name, path }) =>
    catalogueObservers.flatMap((observer) => [
      ...observer.observe({ digest: app.digest, platform: app.platform, name, file: path, catalogue }),
    ]),
  ),
];
