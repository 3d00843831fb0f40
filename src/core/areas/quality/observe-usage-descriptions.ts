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
    const told = new Map(usageDescriptions.map((description) => [description.key, description]));
    const needed = new Map(
      GUARDED_CLASSES.map(({ classes, keys }) => [
        keys.find((key) => told.has(key)) ?? keys[0],
        classes.filter((name) => imported.has(name)),
      ]),
    );
    for (const [key, classes] of needed) if (classes.length === 0) needed.delete(key);
    for (const key of new Set([...needed.keys(), ...told.keys()]))
      yield {
        kind: 'usage-description',
        platform: app.platform,
        evidence: digest,
        key,
        importedClasses: needed.get(key) ?? [],
        text: told.get(key)?.text,
        locales: told.get(key)?.locales ?? [],
      } satisfies UsageDescriptionFact;
  },
} satisfies PackageObserver;
