import type { UsageDescriptionFact } from '../../model/fact.ts';
import type { PackageObserver } from '../observer.ts';
import { GUARDED_CLASSES } from './guarded-classes.ts';

/** What private data the executable refers to, and what the user is told about it. */
export const observeUsageDescriptions = {
  id: 'usage-descriptions',
  version: 1,
  reads: 'package',
  *observe({ app, digest }) {
    if (!app.ios) return;
    const { executable, usageDescriptions } = app.ios;
    const imported = new Set(executable.slices.flatMap(({ importedClasses }) => importedClasses));
    const needed = GUARDED_CLASSES.map(({ classes, key }) => ({
      key,
      importedClasses: classes.filter((name) => imported.has(name)),
    })).filter(({ importedClasses }) => importedClasses.length > 0);
    const keys = new Set([...needed.map(({ key }) => key), ...usageDescriptions.map(({ key }) => key)]);
    for (const key of keys) {
      const told = usageDescriptions.find((of) => of.key === key);
      yield {
        kind: 'usage-description',
        platform: app.platform,
        evidence: digest,
        key,
        importedClasses: needed.find((of) => of.key === key)?.importedClasses ?? [],
        text: told?.text,
        locales: told?.locales ?? [],
      } satisfies UsageDescriptionFact;
    }
  },
} satisfies PackageObserver;
