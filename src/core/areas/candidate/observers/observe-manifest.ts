import type { ManifestFact, ShortcutFact } from '../../../model/facts/manifest.ts';
import type { PackageObserver } from '../../observer.ts';

const LAUNCHER = 'android.intent.category.LAUNCHER';

/** What the manifest says of the app as a whole, and the shortcuts that it names. */
export const observeManifest = {
  id: 'manifest',
  reads: 'package',
  *observe({ app, digest }) {
    if (!app.android) return;
    const { manifest, modules, shortcuts, splitsByLanguage } = app.android;
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
      modules,
      ...(splitsByLanguage !== undefined && { splitsByLanguage }),
      activities: components
        .filter(({ type }) => type === 'activity' || type === 'activity-alias')
        .map(({ enabled, exported, filters, launchMode, module, name, targetActivity }) => ({
          name,
          enabled,
          isLauncher: filters.some(({ categories }) => categories.includes(LAUNCHER)),
          takesLinks: exported === true && filters.some(({ schemes }) => schemes.length > 0),
          ...(launchMode && { launchMode }),
          ...(module && { module }),
          ...(targetActivity && { targetActivity }),
        })),
    } satisfies ManifestFact;
    for (const { enabled, id, intents } of shortcuts)
      yield { kind: 'shortcut', ...of, id, enabled, intents } satisfies ShortcutFact;
  },
} satisfies PackageObserver;
