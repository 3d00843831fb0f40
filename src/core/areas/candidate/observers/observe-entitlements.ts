import type { EntitlementFact } from '../../../model/fact.ts';
import type { PackageObserver } from '../../observer.ts';

/** Entitlements of the executable's signature beside those of the provisioning profile. */
export const observeEntitlements = {
  id: 'entitlements',
  reads: 'package',
  *observe({ app, digest }) {
    if (!app.ios) return;
    const { entitlements, profile } = app.ios;
    const allowed = profile?.entitlements ?? {};
    for (const key of new Set([...Object.keys(entitlements), ...Object.keys(allowed)]))
      yield {
        kind: 'entitlement',
        platform: app.platform,
        evidence: digest,
        key,
        hasProfile: profile !== undefined,
        signed: entitlements[key],
        profile: allowed[key],
      } satisfies EntitlementFact;
  },
} satisfies PackageObserver;
