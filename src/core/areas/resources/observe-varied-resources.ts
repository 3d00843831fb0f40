import type { VariedResourceFact } from '../../model/fact.ts';
import type { PackageObserver } from '../observer.ts';

/** Resources that come in several forms, where variants were asked for. */
export const observeVariedResources = {
  id: 'varied-resources',
  version: 2,
  reads: 'package',
  *observe({ app, digest }) {
    const minSdk = app.android?.manifest.minSdk;
    for (const { askedBy, forms, name } of app.variants ?? [])
      yield {
        kind: 'varied-resource',
        platform: app.platform,
        evidence: digest,
        name,
        forms,
        ...(askedBy && { askedBy }),
        ...(minSdk !== undefined && { minSdk }),
      } satisfies VariedResourceFact;
  },
} satisfies PackageObserver;
