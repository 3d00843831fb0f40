/**
 * A shortcut of the launcher opens an activity by its class, and says "App isn't installed" where there is none (Android
 * developers, *Create shortcuts*). The id of the package is written out, so that a build with another id misses itself.
 */
import type { ManifestFact, ShortcutFact } from '../../model/facts/manifest.ts';
import type { Assertion, Check } from '../check.ts';

export const deadShortcut = {
  id: 'dead-shortcut',
  area: 'links',
  needs: ['package', 'manifest', 'shortcut'],
  *run(facts): Iterable<Assertion> {
    const [manifest] = facts.of('manifest');
    if (!manifest) return;
    for (const shortcut of facts.of('shortcut')) {
      const flaw = shortcut.enabled ? findFlaw(shortcut, manifest) : undefined;
      yield flaw ? { outcome: 'failed', draft: draftOf(shortcut, manifest, flaw) } : { outcome: 'passed' };
    }
  },
} satisfies Check;

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
