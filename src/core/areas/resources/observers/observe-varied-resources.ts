import type { VariedResourceFact } from '../../../model/fact.ts';
import type { PackageObserver } from '../../observer.ts';

/** Resources that come in several forms, where variants were asked for. */
export const observeVariedResources = {
  id: 'varied-resources',
  reads: 'package',
  *observe({ app, digest }) {
    const { features = [], minSdk } = app.android?.manifest ?? {};
    const demands = (name: string) => features.some((feature) => feature.name === name && feature.required);
    // Android developers, *Create and run a wearable app*; *Get started with TV apps*
    const madeFor = demands('android.hardware.type.watch')
      ? 'watch'
      : demands('android.software.leanback')
        ? 'tv'
        : undefined;
    for (const { askedBy, forms, name } of app.variants ?? [])
      yield {
        kind: 'varied-resource',
        platform: app.platform,
        evidence: digest,
        name,
        forms,
        ...(askedBy && { askedBy }),
        ...(minSdk !== undefined && { minSdk }),
        ...(madeFor && { madeFor }),
      } satisfies VariedResourceFact;
  },
} satisfies PackageObserver;
