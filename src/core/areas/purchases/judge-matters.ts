/** Faults of a history as findings: one for each product and matter, however often it was met; and what was never seen stays untested. */

import type { Assertion, FactIndex, IntentWith } from '../check.ts';
import { type LedgerFault, type LedgerFaultCode, ledgerFaultCodes } from './ledger/ledger-report.ts';
import type { SeenScenario } from './ledger/recognise-scenarios.ts';
import { scenarios as allScenarios, type ScenarioId } from './ledger/scenarios.ts';
import type { Matter, MatterData } from './matter-words.ts';
import { type JudgedHistory, judgedHistories } from './purchase-history.ts';

/** What a fault is about; what costs most stands first. */
export type Matters = Partial<Record<LedgerFaultCode, Matter>>;

/** @param shownBy situations in which it would have come to light */
export function* judgeMatters(
  facts: FactIndex<'purchase-history'>,
  intent: IntentWith,
  matters: Matters,
  shownBy: readonly ScenarioId[],
): Iterable<Assertion<MatterData>> {
  for (const history of facts.once(judgedHistories, intent)) {
    const { cell } = history.fact;
    const groups = groupFaults(history, matters);
    for (const { matter, product, told } of groups)
      yield { outcome: 'failed', cell, draft: draftOf(history.fact, dataOf(product, matter, told), matters) };
    for (const seen of history.scenarios) {
      if (!shownBy.includes(seen.scenario)) continue;
      const { outcome, product, scenario } = seen;
      if (outcome === 'untested')
        yield { outcome, cell, missingEvidence: `${product} ${allScenarios[scenario].name}` };
      else if (outcome === 'passed') yield { outcome, cell };
      // what is at fault in no moment of its own: given, but not at once
      else if (outcome === 'failed' && !groups.some((group) => group.product === product))
        yield { outcome, cell, draft: draftOf(history.fact, dataOfScenario(seen, matters), matters) };
    }
  }
}

interface Group {
  product: string;
  matter: Matter;
  told: LedgerFault[];
}

function groupFaults({ faults }: JudgedHistory, matters: Matters): Group[] {
  const groups = new Map<string, Group>();
  for (const fault of faults) {
    const matter = matters[fault.code];
    if (matter === undefined) continue;
    const { product } = fault;
    const group = groups.get(`${product}\n${matter}`);
    if (group) group.told.push(fault);
    else groups.set(`${product}\n${matter}`, { product, matter, told: [fault] });
  }
  return [...groups.values()];
}

const MOST_COUNTED = 1000;

const draftOf = ({ cell, evidence }: JudgedHistory['fact'], data: MatterData, matters: Matters) => ({
  identity: { screen: 'app', subject: `product ${data.product}`, aspect: data.matter },
  target: { kind: 'product' as const, id: data.product, part: data.matter },
  basis: 'measured' as const,
  severity: rankOf(data.matter, matters) * MOST_COUNTED + Math.min(data.count, MOST_COUNTED - 1),
  digest: [...data.codes].sort().join(' '),
  occurrence: { evidence, cell, shown: data.product, data },
});

/** Higher is worse. */
const rankOf = (matter: Matter, matters: Matters): number => {
  const all = [...new Set(Object.values(matters))];
  return all.length - all.indexOf(matter);
};

function dataOf(product: string, matter: Matter, told: readonly LedgerFault[]): MatterData {
  const first = told[0]!;
  return {
    product,
    matter,
    codes: ledgerFaultCodes.filter((code) => told.some((fault) => fault.code === code)),
    count: told.length,
    firstAt: new Date(first.atMs).toISOString(),
    ...(first.sinceMs !== undefined && { afterMin: Math.round((first.atMs - first.sinceMs) / 60_000) }),
  };
}

const dataOfScenario = ({ failedMs, product, scenario }: SeenScenario, matters: Matters): MatterData => ({
  product,
  matter: Object.values(matters)[0]!,
  codes: [scenario],
  count: 1,
  firstAt: new Date(failedMs!).toISOString(),
});
