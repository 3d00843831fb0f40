import type { UsageDescriptionFact } from '../../../model/fact.ts';
import type { PackageObserver } from '../../observer.ts';
import { GUARDED_CLASSES } from '../guarded-classes.ts';

const TRACKING_KEY = 'NSUserTrackingUsageDescription';

/** What private data the executable refers to, and what the user is told about it. */
export const observeUsageDescriptions = {
  id: 'usage-descriptions',
  reads: 'package',
  *observe({ app, digest }) {
    if (!app.ios) return;
    const { executable, privacyManifests, usageDescriptions } = app.ios;
    const imported = new Set(executable.slices.flatMap(({ importedClasses }) => importedClasses));
    const told = new Map(usageDescriptions.map((description) => [description.key, description]));
    const needed = new Map(
      GUARDED_CLASSES.map(({ classes, keys }) => [
        keys.find((key) => told.has(key)) ?? keys[0],
        classes.filter((name) => imported.has(name)),
      ]),
    );
    for (const [key, classes] of needed) if (classes.length === 0) needed.delete(key);
    const tracks = privacyManifests.some(({ NSPrivacyTracking }) => NSPrivacyTracking === true);
    const keys = new Set([...needed.keys(), ...told.keys(), ...(tracks ? [TRACKING_KEY] : [])]);
    for (const key of keys)
      yield {
        kind: 'usage-description',
        platform: app.platform,
        evidence: digest,
        key,
        importedClasses: needed.get(key) ?? [],
        ...(tracks && key === TRACKING_KEY && { declaredInManifest: true }),
        text: told.get(key)?.text,
        locales: told.get(key)?.locales ?? [],
      } satisfies UsageDescriptionFact;
  },
} satisfies PackageObserver;
