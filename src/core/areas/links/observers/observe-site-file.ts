import type { SiteFileFact } from '../../../model/facts/links.ts';
import type { SiteObserver } from '../../observer.ts';

/** What a site says of the apps that may open its links, and how it was served. */
export const observeSiteFile = {
  id: 'site-file',
  reads: 'site',
  *observe({ digest, platform, site }) {
    if (site.kind === 'app-ads') return;
    yield { kind: 'site-file', platform, evidence: digest, site } satisfies SiteFileFact;
  },
} satisfies SiteObserver;
