import type { LinkDomainsFact } from '../../model/facts/links.ts';
import type { PackageObserver } from '../observer.ts';

/** Domains that the iOS app is signed for, and URL schemes that it declares. */
export const observeLinkDomains = {
  id: 'link-domains',
  version: 1,
  reads: 'package',
  *observe({ app, digest }) {
    if (!app.ios) return;
    const { associatedDomains, entitlements, urlSchemes } = app.ios;
    const fullAppId = entitlements['application-identifier'];
    yield {
      kind: 'link-domains',
      platform: app.platform,
      evidence: digest,
      domains: associatedDomains,
      schemes: urlSchemes,
      ...(typeof fullAppId === 'string' && { fullAppId }),
    } satisfies LinkDomainsFact;
  },
} satisfies PackageObserver;
