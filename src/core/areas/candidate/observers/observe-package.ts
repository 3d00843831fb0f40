import type { PackageFact } from '../../../model/fact.ts';
import type { PackageObserver } from '../../observer.ts';

export const observePackage = {
  id: 'package',
  reads: 'package',
  *observe({ app, digest }) {
    const manifest = app.android?.manifest;
    yield {
      kind: 'package',
      platform: app.platform,
      evidence: digest,
      container: app.container,
      build: app.build,
      minSdk: manifest?.minSdk,
      targetSdk: manifest?.targetSdk,
      debuggable: manifest?.application.debuggable ?? app.ios?.entitlements['get-task-allow'] === true,
      testOnly: manifest?.application.testOnly ?? false,
      permissions: app.permissions,
      locales: app.locales,
      declaredLocales: app.declaredLocales,
      ...(app.leftOut?.length && { leftOut: app.leftOut }),
      ...(app.madeWith.length > 0 && { toolkits: app.madeWith.map(({ toolkit }) => toolkit) }),
    } satisfies PackageFact;
  },
} satisfies PackageObserver;
