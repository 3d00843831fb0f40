/**
 * Code that asks for certain things must say why in the privacy manifest of its bundle, or the store takes no upload
 * (Apple, *Describing use of required reason API*). Told by what the code imports.
 */
import type { RequiredReasonFact } from '../../model/fact.ts';
import { REASON_CATEGORIES } from '../../platform/apple/required-reasons.ts';
import type { Assertion, Check, Draft } from '../check.ts';

export const requiredReason = {
  id: 'required-reason',
  area: 'quality',
  needs: ['package', 'required-reason'],
  *run(facts): Iterable<Assertion> {
    for (const fact of facts.of('required-reason')) yield judgeReason(fact);
  },
} satisfies Check;

function judgeReason(fact: RequiredReasonFact): Assertion {
  const { does, reasons } = REASON_CATEGORIES.find(({ name }) => name === fact.category)!;
  if (fact.given.length === 0) return { outcome: 'failed', draft: draftOf(fact, 'none', does, reasons) };
  // the list may have grown since it was copied
  return fact.given.some((reason) => reasons.includes(reason))
    ? { outcome: 'passed' }
    : { outcome: 'cantTell', draft: draftOf(fact, 'unknown', does, reasons) };
}

const draftOf = (
  { category, evidence, given, part, symbols }: RequiredReasonFact,
  flaw: 'none' | 'unknown',
  does: string,
  known: readonly string[],
): Draft => ({
  identity: { subject: part || 'app', aspect: category },
  basis: flaw === 'none' ? 'measured' : 'estimated',
  severity: flaw === 'none' ? 3 : 1,
  digest: `${symbols.join(' ')} ${given.join(' ')}`,
  occurrence: {
    evidence,
    shown: part,
    data: { category, does, flaw, given, known: [...known], part, symbols },
  },
});
