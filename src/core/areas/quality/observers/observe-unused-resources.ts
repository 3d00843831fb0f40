import type { UnusedResourceFact } from '../../../model/fact.ts';
import type { PackageObserver } from '../../observer.ts';

export const observeUnusedResources = {
  id: 'unused-resources',
  reads: 'package',
  *observe({ app, digest }) {
    for (const resource of app.android?.unusedResources ?? [])
      yield {
        kind: 'unused-resource',
        platform: app.platform,
        evidence: digest,
        ...resource,
      } satisfies UnusedResourceFact;
  },
} satisfies PackageObserver;
