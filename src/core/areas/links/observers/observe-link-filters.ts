import type { LinkFilterFact } from '../../../model/facts/links.ts';
import { linkFiltersOf } from '../../../platform/links/link-decision.ts';
import type { PackageObserver } from '../../observer.ts';

/** Intent filters that name a scheme: the links that the app asks the OS for. */
export const observeLinkFilters = {
  id: 'link-filters',
  reads: 'package',
  *observe({ app, digest }) {
    for (const declared of linkFiltersOf(app.android?.manifest.components ?? []))
      if (declared.filter.schemes.length > 0)
        yield {
          kind: 'link-filter',
          platform: app.platform,
          evidence: digest,
          ...declared,
        } satisfies LinkFilterFact;
  },
} satisfies PackageObserver;
