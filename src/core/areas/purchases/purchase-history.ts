/** All histories of a candidate together, judged once for all the checks that read them. */
import type { PurchaseHistoryFact } from '../../model/facts/purchases.ts';
import type { LedgerLine, ProductKind } from '../../model/ledger.ts';
import type { FactIndex, IntentWith } from '../check.ts';
import { judgeLedger } from './ledger/judge-ledger.ts';
import type { LedgerFault } from './ledger/ledger-report.ts';
import { recogniseScenarios, type SeenScenario } from './ledger/recognise-scenarios.ts';

export interface JudgedHistory {
  fact: PurchaseHistoryFact;
  faults: LedgerFault[];
  scenarios: SeenScenario[];
}

/** Each trace on its own, since each may have a clock of its own; of a device's drills the last. */
export function judgedHistories(facts: FactIndex<'purchase-history'>, intent: IntentWith): JudgedHistory[] {
  const kinds = kindsOf(intent);
  return lastRuns(facts.of('purchase-history')).map((fact) => ({
    fact,
    faults: judgeLedger(fact.lines, { kinds }).faults,
    scenarios: recogniseScenarios(fact.lines, {
      products: Object.keys(kinds).length > 0 ? kinds : kindsIn(fact.lines),
    }),
  }));
}

export const kindsOf = ({ purchases }: IntentWith): Record<string, ProductKind> =>
  Object.fromEntries(purchases.products.map(({ id, kind }) => [id, kind]));

function kindsIn(lines: readonly LedgerLine[]): Record<string, ProductKind> {
  const kinds: Record<string, ProductKind> = {};
  for (const line of lines)
    if ((line.kind === 'store.bought' || line.kind === 'store.renewed') && line.productKind)
      kinds[line.product] = line.productKind;
  return kinds;
}

function lastRuns(all: readonly PurchaseHistoryFact[]): PurchaseHistoryFact[] {
  const last = new Map<string, PurchaseHistoryFact>();
  for (const fact of all) {
    const key = fact.deviceId || fact.evidence;
    const before = last.get(key);
    if (!before || before.at < fact.at) last.set(key, fact);
  }
  return [...last.values()];
}
