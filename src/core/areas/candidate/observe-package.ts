import type { PackageFact } from '../../model/fact.ts';
import type { PackageObserver } from '../observer.ts';

export const observePackage = {
  id: 'package',
  version: 1,
  reads: 'package',
  *observe({ app, digest }) {
    yield {
      kind: 'package',
      platform: app.platform,
      evidence: digest,
      build: app.build,
      minSdk: app.manifest.minSdk,
      targetSdk: app.manifest.targetSdk,
      debuggable: app.manifest.debuggable,
      permissions: app.manifest.permissions,
      locales: app.locales,
    } satisfies PackageFact;
  },
} satisfies PackageObserver;
