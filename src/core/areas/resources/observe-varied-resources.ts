import type { VariedResourceFact } from '../../model/fact.ts';
import type { PackageObserver } from '../observer.ts';

/** Resources that come in several forms, where variants were asked for. */
export const observeVariedResources = {
  id: 'varied-resources',
  version: 1,
  reads: 'package',
  *observe({ app, digest }) {
    const minSdk = app.android?.manifest.minSdk;
    for (const { forms, name } of app.variants ?? [])
      yield {
        kind: 'varied-resource',
        platform: app.platform,
        evidence: digest,
        name,
        forms,
        ...(minSdk !== undefined && { minSdk }),
      } satisfies VariedResourceFact;
  },
} satisfies PackageObserver;
