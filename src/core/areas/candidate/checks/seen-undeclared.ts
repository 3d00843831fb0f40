/** What the candidate has and nobody declared: no drill goes there, and no list asks for it. */

import { z } from 'zod';
import type { ManifestFact } from '../../../model/facts/manifest.ts';
import type { IntentScreen } from '../../../model/intent-parts.ts';
import { type Assertion, defineCheck } from '../../check.ts';
import { lastPart, quote } from '../../words.ts';
import { declaredAndSeen, kindsOfEvidence, nothingLookedAt } from '../declared-and-seen.ts';

const dataSchema = z.strictObject({
  sort: z.string(),
  name: z.string(),
  field: z.string(),
  declared: z.array(z.string()),
});
type Data = z.infer<typeof dataSchema>;

export const seenUndeclared = defineCheck({
  id: 'seen-undeclared',
  area: 'candidate',
  priority: 'harder',
  standard: 'Our own: the intent file against the evidence',
  basis: 'estimated',
  needs: 'package',
  reads: kindsOfEvidence,
  data: dataSchema,
  words: ({ declared, field, name, sort }) => ({
    what: `The candidate has the ${sort} ${quote(name)}, which fenlok.yaml does not declare`,
    measured: `declared: ${declared.slice(0, 8).join(', ')}${declared.length > 8 ? ` and ${declared.length - 8} more` : ''}`,
    required: `everything that the candidate has under ${field}`,
    why: 'No drill goes there and no plan asks for it: nobody looks at it before a release.',
    remedy:
      sort === 'activity'
        ? `Write its screen under screens in fenlok.yaml (activity: ${lastPart(name)}), or mark this as a false alarm where nobody sees it.`
        : `Write it under ${field} in fenlok.yaml, or mark this as a false alarm.`,
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
    const of = (name: string, evidence: string, data: Omit<Data, 'name'>): Assertion<Data> => ({
      outcome: 'cantTell',
      draft: {
        identity: { subject: `${data.sort} ${name}` },
        basis: 'estimated',
        severity: 1,
        digest: 'not declared',
        occurrence: { evidence, shown: name, data: { ...data, name } },
      },
    });
    for (const { declared, field, seen, sort, source } of declaredAndSeen(facts, intent)) {
      // where nothing is declared nobody has said yet what there is
      if (declared.length === 0) yield { outcome: 'inapplicable' };
      else if (seen.size === 0) yield { outcome: 'untested', because: nothingLookedAt(field, source) };
      else
        for (const [name, evidence] of seen)
          yield declared.includes(name)
            ? { outcome: 'passed' }
            : of(name, evidence, { sort, field, declared: [...declared] });
    }
    for (const manifest of facts.of('manifest'))
      for (const { isDeclared, name } of ownActivities(manifest, intent.screens))
        yield isDeclared
          ? { outcome: 'passed' }
          : of(name, manifest.evidence, {
              sort: 'activity',
              field: 'screens',
              declared: intent.screens.map(({ activity }) => activity!),
            });
  },

  doc: {
    looksAt:
      'Screens and languages of captures, routes, ad placements and notification channels that drills met, and the activities of the package',
    against: 'The intent file, `fenlok.yaml`, where it declares any of that sort',
    matters:
      'A screen that no list names is never drilled, never captured in Arabic, never read by a reader.',
    measured:
      "The names in the evidence, against the names in the intent file. Activities are looked at where every screen names its own: those in the package of the app's first one, enabled, and no aliases.",
    errs: 'An activity may show nothing, or be one that only a library starts; that is why a person decides.',
    fixes: [
      {
        where: 'fenlok.yaml',
        language: 'yaml',
        code: 'screens:\n  - { id: refund, activity: RefundActivity, parent: tickets, reach: [{ tap: nav_tickets }, { tap: refund }] }',
      },
    ],
  },
});

/** Activities of the team's own code; none where screens share activities. */
function ownActivities(
  { activities, appId }: ManifestFact,
  screens: readonly IntentScreen[],
): { name: string; isDeclared: boolean }[] {
  if (screens.length === 0 || screens.some(({ activity }) => activity === undefined)) return [];
  const folderOf = (name: string) => name.slice(0, name.lastIndexOf('.') + 1);
  const launchers = activities.filter(({ isLauncher }) => isLauncher);
  const own = [`${appId}.`, ...launchers.map(({ name, targetActivity }) => folderOf(targetActivity ?? name))];
  return activities
    .filter(
      ({ enabled, name, targetActivity }) =>
        enabled && targetActivity === undefined && own.some((folder) => name.startsWith(folder)),
    )
    .map(({ name }) => ({ name, isDeclared: screens.some(({ activity }) => name.endsWith(activity!)) }));
}
