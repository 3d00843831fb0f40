import type { UnusedResourceFact } from '../../model/fact.ts';
import { libraryOf } from '../../platform/android/library-resources.ts';
import { LOOKS_UP_BY_NAME } from '../../platform/app-toolkits.ts';
import type { Assertion, Check } from '../check.ts';

// What takes room, or work for translators; values such as colours and styles weigh next to nothing.
const COUNTED = new Set(['drawable', 'mipmap', 'raw', 'font', 'layout', 'string', 'plurals', 'array']);

// As many names as a person reads; the count says the rest.
const NAMES_SHOWN = 12;

/** Resources that nothing leads to, one finding a type: code may still look them up in ways that cannot be seen. */
export const unusedResource = {
  id: 'unused-resource',
  area: 'quality',
  needs: ['package', 'unused-resource'],
  *run(facts): Iterable<Assertion> {
    const toolkits = facts.of('package').flatMap((of) => of.toolkits ?? []);
    if (toolkits.some((toolkit) => LOOKS_UP_BY_NAME.has(toolkit))) return;
    const byType = new Map<string, UnusedResourceFact[]>();
    for (const fact of facts.of('unused-resource'))
      if (COUNTED.has(fact.type) && libraryOf(fact.name) === undefined)
        byType.set(fact.type, [...(byType.get(fact.type) ?? []), fact]);
    if (byType.size === 0) yield { outcome: 'passed' };
    for (const [type, unused] of byType) yield judgeType(type, unused);
  },
} satisfies Check;

function judgeType(type: string, unused: readonly UnusedResourceFact[]): Assertion {
  const sorted = [...unused].sort(
    (a, b) => b.compressedBytes - a.compressedBytes || (a.name < b.name ? -1 : 1),
  );
  const bytes = sorted.reduce((sum, { compressedBytes }) => sum + compressedBytes, 0);
  return {
    outcome: 'cantTell',
    draft: {
      identity: { subject: type },
      basis: 'estimated',
      severity: bytes,
      digest: sorted.map(({ name }) => name).join(' '),
      occurrence: {
        evidence: sorted[0]!.evidence,
        shown: type,
        data: {
          type,
          count: sorted.length,
          bytes,
          names: sorted.slice(0, NAMES_SHOWN).map(({ name }) => name),
        },
      },
    },
  };
}
