import { indexFacts } from '../areas/check.ts';
import { checks } from '../areas/checks.ts';
import { collectFindings } from '../checklist/collect-findings.ts';
import type { Fact, FactKind } from '../model/fact.ts';
import type { Finding } from '../model/finding.ts';
import type { Intent } from '../model/intent.ts';

/**
 * What the checks that read these facts would say of a change.
 *
 * @returns why the change is none: its finding stays, or another comes; undefined where it is one
 */
export function troubleWith(
  findingId: string,
  { after, before, kinds }: { before: readonly Fact[]; after: readonly Fact[]; kinds: readonly FactKind[] },
  intent: Intent,
): string | undefined {
  const concerned = checks.filter(({ needs, reads }) =>
    [needs, ...reads].some((kind) => kinds.includes(kind)),
  );
  const found = (facts: readonly Fact[]) =>
    collectFindings(concerned, indexFacts(facts), intent).flatMap(({ findings }) => findings);
  const was = new Set(found(before).map(({ id }) => id));
  const now = found(after);
  if (now.some(({ id }) => id === findingId)) return 'the check would still find it';
  const come = now.find(({ id }) => !was.has(id));
  return come && `${come.check} would find: ${come.words.what}`;
}

/** Whether the check of a finding still finds it. */
export const isFound = ({ check, id }: Finding, facts: readonly Fact[], intent: Intent): boolean =>
  collectFindings(
    checks.filter((one) => one.id === check),
    indexFacts(facts),
    intent,
  ).some(({ findings }) => findings.some((one) => one.id === id));
