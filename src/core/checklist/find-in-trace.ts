import { indexFacts } from '../areas/check.ts';
import { checks } from '../areas/checks.ts';
import type { TraceEvidence } from '../areas/observer.ts';
import { traceObservers } from '../areas/observers-by-evidence.ts';
import type { Fact } from '../model/fact.ts';
import { type Finding, rankOfPriority } from '../model/finding.ts';
import type { Intent } from '../model/intent.ts';
import type { OutcomeTable } from '../model/judgement.ts';
import { collectFindings, hadFacts } from './collect-findings.ts';
import { adsMatrix } from './matrices/ads.ts';
import { MatrixContext } from './matrices/matrix.ts';
import { purchasesMatrix } from './matrices/purchases.ts';

export interface FoundInTrace {
  /** What costs most comes first. */
  findings: Finding[];
  /** Situations of a purchase by products; of what was not seen, how to bring it about. */
  situations: OutcomeTable;
  /** Placements and their networks by what each needs, and whether it loaded. */
  ads: OutcomeTable;
}

/** All that the observers measure in one trace. */
export const factsOfTrace = (trace: TraceEvidence): Fact[] =>
  traceObservers.flatMap((observer) => [...observer.observe(trace)]);

/**
 * What all checks find in traces, with no dossier: for a UI test, or a page.
 *
 * @param facts of the traces, and, for what ad networks need of it, those of the package
 * @param intent which products and placements are looked for
 */
export function findInTrace(facts: Iterable<Fact>, intent: Intent): FoundInTrace {
  const index = indexFacts(facts);
  const able = checks.filter((check) => hadFacts(check, index));
  const findings = collectFindings(able, index, intent)
    .flatMap((report) => report.findings)
    .sort((a, b) => Number(b.basis === 'measured') - Number(a.basis === 'measured') || rank(a) - rank(b));
  const context = new MatrixContext(index, intent, findings, false);
  return {
    findings,
    situations: purchasesMatrix.table(context),
    ads: adsMatrix.table(context),
  };
}

const rank = ({ priority }: Finding): number => rankOfPriority(priority);
