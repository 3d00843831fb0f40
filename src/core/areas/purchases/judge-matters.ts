/** Faults of a history as findings: one for each product and matter, however often it was met; and what was never seen stays untested. */
import type { FindingData } from '../../model/finding.ts';
import type { Intent } from '../../model/intent.ts';
import {
  type LedgerFault,
  type LedgerFaultCode,
  ledgerFaultCodes,
} from '../../platform/purchases/ledger-report.ts';
import { scenarios as allScenarios, type ScenarioId } from '../../platform/purchases/scenarios.ts';
import type { Assertion, FactIndex } from '../check.ts';
import { type JudgedHistory, judgedHistories } from './purchase-history.ts';

/** What a fault is about. */
export type Matters = Partial<Record<LedgerFaultCode, string>>;

/** @param shownBy situations in which it would have come to light */
export function* judgeMatters(
  facts: FactIndex,
  intent: Intent,
  matters: Matters,
  shownBy: readonly ScenarioId[],
): Iterable<Assertion> {
  for (const history of facts.once(judgedHistories, intent)) {
    yield* judgeFaults(history, matters);
    for (const { outcome, product, scenario } of history.scenarios) {
      if (!shownBy.includes(scenario)) continue;
      const { cell } = history.fact;
      if (outcome === 'untested')
        yield { outcome, cell, lacking: `${product} ${allScenarios[scenario].name}` };
      else if (outcome === 'passed') yield { outcome, cell };
    }
  }
}

function* judgeFaults({ fact, faults }: JudgedHistory, matters: Matters): Iterable<Assertion> {
  const groups = new Map<string, LedgerFault[]>();
  for (const fault of faults) {
    const matter = matters[fault.code];
    if (matter === undefined) continue;
    const key = `${fault.product}\n${matter}`;
    groups.set(key, [...(groups.get(key) ?? []), fault]);
  }
  for (const [key, told] of groups) {
    const [product = '', matter = ''] = key.split('\n');
    yield { outcome: 'failed', cell: fact.cell, draft: draftOf(fact, product, matter, told) };
  }
}

const draftOf = (
  { cell, evidence }: JudgedHistory['fact'],
  product: string,
  matter: string,
  told: readonly LedgerFault[],
) => ({
  identity: { screen: 'app', subject: `product ${product}`, aspect: matter },
  basis: 'measured' as const,
  severity: told.length,
  digest: [...new Set(told.map(({ code }) => code))].sort().join(' '),
  occurrence: { evidence, cell, shown: product, data: dataOf(product, matter, told) },
});

function dataOf(product: string, matter: string, told: readonly LedgerFault[]): FindingData {
  const first = told[0]!;
  return {
    product,
    matter,
    codes: ledgerFaultCodes.filter((code) => told.some((fault) => fault.code === code)),
    count: told.length,
    firstAt: new Date(first.atMs).toISOString(),
    ...(first.sinceMs !== undefined && { afterMin: Math.round((first.atMs - first.sinceMs) / 60_000) }),
    devices: [...new Set(told.flatMap(({ device }) => device ?? []))],
  };
}
