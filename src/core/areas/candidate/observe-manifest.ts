import type { ManifestFact, ShortcutFact } from '../../model/facts/manifest.ts';
import type { PackageObserver } from '../observer.ts';

const LAUNCHER = 'android.intent.category.LAUNCHER';

/** What the manifest says of the app as a whole, and the shortcuts that it names. */
export const observeManifest = {
  id: 'manifest',
  version: 1,
  reads: 'package',
  *observe({ app, digest }) {
    if (!app.android) return;
    const { manifest, shortcuts } = app.android;
    const { application, components, features, libraries, screens } = manifest;
    const of = { platform: app.platform, evidence: digest };
    yield {
      kind: 'manifest',
      ...of,
      appId: app.build.appId,
      supportsRtl: application.supportsRtl,
      features,
      libraries,
      screens,
      activities: components
        .filter(({ type }) => type === 'activity' || type === 'activity-alias')
        .map(({ enabled, filters, launchMode, name, targetActivity }) => ({
          name,
          enabled,
          isLauncher: filters.some(({ categories }) => categories.includes(LAUNCHER)),
          ...(launchMode && { launchMode }),
          ...(targetActivity && { targetActivity }),
        })),
    } satisfies ManifestFact;
    for (const { enabled, id, intents } of shortcuts)
      yield { kind: 'shortcut', ...of, id, enabled, intents } satisfies ShortcutFact;
  },
} satisfies PackageObserver;
