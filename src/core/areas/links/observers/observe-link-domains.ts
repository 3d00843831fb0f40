import type { LinkDomainsFact } from '../../../model/facts/links.ts';
import { linkDomainsOf } from '../../../platform/links/link-decision.ts';
import type { PackageObserver } from '../../observer.ts';

/** Domains that the iOS app is signed for, and URL schemes that it declares. */
export const observeLinkDomains = {
  id: 'link-domains',
  reads: 'package',
  *observe({ app, digest }) {
    if (!app.ios) return;
    yield {
      kind: 'link-domains',
      platform: app.platform,
      evidence: digest,
      ...linkDomainsOf(app.ios),
    } satisfies LinkDomainsFact;
  },
} satisfies PackageObserver;
