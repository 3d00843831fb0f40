/**
 * A shortcut of the launcher opens an activity by its class, and says "App isn't installed" where there is none (Android
 * developers, *Create shortcuts*). The id of the package is written out, so that a build with another id misses itself.
 */

import { z } from 'zod';
import type { ManifestFact, ShortcutFact } from '../../../model/facts/manifest.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';

const dataSchema = z.strictObject({
  id: z.string(),
  flaw: z.enum(['other-package', 'no-activity', 'disabled']),
  found: z.string(),
  appId: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const deadShortcut = defineCheck({
  id: 'dead-shortcut',
  area: 'links',
  priority: 'cannot-use',
  standard: 'Android developers, Create shortcuts',
  basis: 'measured',
  needs: 'package',
  reads: ['manifest', 'shortcut'],
  data: dataSchema,
  words: ({ appId, flaw, found, id }) => ({
    what: `The shortcut ${quote(id)} opens nothing`,
    measured:
      flaw === 'other-package'
        ? `it asks for the package ${found}, and this one is ${appId}`
        : flaw === 'disabled'
          ? `${found} is switched off in the manifest`
          : `the manifest has no activity ${found}`,
    required: 'an enabled activity of this package',
    why: 'The launcher says that the app is not installed.',
    remedy:
      flaw === 'other-package'
        ? 'Let the build write the id of each variant into android:targetPackage.'
        : 'Name an activity that the manifest has in android:targetClass, or take the shortcut away.',
  }),

  *run(facts): Iterable<Assertion<Data>> {
    const [manifest] = facts.of('manifest');
    if (!manifest) return;
    for (const shortcut of facts.of('shortcut')) {
      const flaw = shortcut.enabled ? findFlaw(shortcut, manifest) : undefined;
      yield flaw ? { outcome: 'failed', draft: draftOf(shortcut, manifest, flaw) } : { outcome: 'passed' };
    }
  },

  doc: {
    looksAt: 'The shortcuts of the launcher',
    against: 'An enabled activity of this package',
    matters: 'The launcher says that the app is not installed.',
    measured: 'Package and class of each shortcut against the activities of the manifest.',
    errs: 'Shortcuts that code makes are not seen.',
    fixes: [
      {
        where: 'res/xml/shortcuts.xml',
        language: 'xml',
        code: `<intent android:action="android.intent.action.VIEW"
    android:targetPackage="example.kelpline" android:targetClass="example.kelpline.TicketsActivity" />`,
      },
    ],
  },
});

type Flaw = { flaw: 'other-package' | 'no-activity' | 'disabled'; found: string };

/** Intents with the class of an activity; the others are answered by whatever app takes them. */
function findFlaw({ intents }: ShortcutFact, { activities, appId }: ManifestFact): Flaw | undefined {
  for (const { targetClass, targetPackage } of intents) {
    if (!targetClass || !targetPackage) continue;
    const activity = activities.find(({ name }) => name === targetClass);
    if (targetPackage !== appId) {
      // an activity of its own, asked for under another id
      if (activity) return { flaw: 'other-package', found: targetPackage };
      continue;
    }
    if (!activity) return { flaw: 'no-activity', found: targetClass };
    if (!activity.enabled) return { flaw: 'disabled', found: targetClass };
  }
  return undefined;
}

const draftOf = ({ evidence, id }: ShortcutFact, { appId }: ManifestFact, { flaw, found }: Flaw) => ({
  identity: { subject: `shortcut ${id}` },
  basis: 'measured' as const,
  severity: 2,
  digest: `${flaw} ${found}`,
  occurrence: { evidence, shown: id, data: { id, flaw, found, appId } },
});
