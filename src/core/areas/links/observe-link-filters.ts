import type { LinkFilterFact } from '../../model/fact.ts';
import type { PackageObserver } from '../observer.ts';

/** Intent filters that name a scheme: the links that the app asks the OS for. */
export const observeLinkFilters = {
  id: 'link-filters',
  version: 2,
  reads: 'package',
  *observe({ app, digest }) {
    for (const component of app.android?.manifest.components ?? []) {
      if (component.type !== 'activity' && component.type !== 'activity-alias') continue;
      for (const [i, filter] of component.filters.entries())
        if (filter.schemes.length > 0)
          yield {
            kind: 'link-filter',
            platform: app.platform,
            evidence: digest,
            component: component.name,
            componentType: component.type,
            position: i + 1,
            ...(component.targetActivity && { targetActivity: component.targetActivity }),
            exported: component.exported,
            enabled: component.enabled,
            filter,
          } satisfies LinkFilterFact;
    }
  },
} satisfies PackageObserver;
