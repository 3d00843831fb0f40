/**
 * Without its usage description the system ends the app at the first use of the data that it guards; with an empty one
 * the store refuses it (Apple, *Requesting access to protected resources*). That the executable names a class does not
 * prove that it calls it, so a missing one is an estimate; that the app tracks, its privacy manifest says itself.
 */
import type { UsageDescriptionFact } from '../../model/fact.ts';
import type { Intent } from '../../model/intent.ts';
import type { Assertion, Check, Draft } from '../check.ts';

export const usageDescription = {
  id: 'usage-description',
  area: 'quality',
  needs: ['package', 'usage-description'],
  *run(facts, intent): Iterable<Assertion> {
    for (const fact of facts.of('usage-description')) yield judgeUsage(fact, intent);
  },
} satisfies Check;

function judgeUsage(fact: UsageDescriptionFact, intent: Intent): Assertion {
  if (fact.text === undefined && fact.declaredInManifest)
    return { outcome: 'failed', draft: draftOf(fact, 'untold-tracking', []) };
  if (fact.text === undefined) return { outcome: 'cantTell', draft: draftOf(fact, 'missing', []) };
  if (fact.text.trim() === '') return { outcome: 'failed', draft: draftOf(fact, 'empty', []) };
  const lacking = intent.locales.filter(
    (locale) => locale !== intent.sourceLocale && !fact.locales.includes(locale),
  );
  return lacking.length > 0
    ? { outcome: 'failed', draft: draftOf(fact, 'not-translated', lacking) }
    : { outcome: 'passed' };
}

const SEVERITY = { missing: 2, empty: 3, 'untold-tracking': 3, 'not-translated': 1 } as const;

const draftOf = (
  { evidence, importedClasses, key, text = '' }: UsageDescriptionFact,
  flaw: keyof typeof SEVERITY,
  lacking: string[],
): Draft => ({
  identity: { subject: key },
  basis: flaw === 'missing' ? 'estimated' : 'measured',
  severity: SEVERITY[flaw],
  digest: `${flaw} ${lacking.join(' ')} ${text}`,
  occurrence: { evidence, shown: key, data: { key, flaw, lacking, importedClasses, text } },
});
