/** Situations that a purchase must be seen in, by product; of what was never seen, how to bring it about. */
import type { FactIndex } from '../areas/check.ts';
import { judgedHistories } from '../areas/purchases/purchase-history.ts';
import type { Finding } from '../model/finding.ts';
import type { Intent, IntentProduct } from '../model/intent.ts';
import type { OutcomeTable, TableCell } from '../model/judgement.ts';
import { type Outcome, worstOf } from '../model/outcome.ts';
import type { SeenScenario } from '../platform/purchases/recognise-scenarios.ts';
import { type ScenarioId, scenarioIds, scenarios } from '../platform/purchases/scenarios.ts';
import { outcomeOf } from './apply-rulings.ts';

/** Findings that explain why a situation was failed, by the matter that they are about. */
const MATTERS: Readonly<Record<ScenarioId, readonly string[]>> = {
  cancelled: ['granted-unpaid'],
  bought: [],
  'at-once': ['missing'],
  finished: ['unfinished', 'granted-twice', 'finished-twice', 'finished-early'],
  relaunched: ['missing'],
  'second-device': ['not-restored', 'missing'],
  elsewhere: ['not-restored', 'missing'],
  owned: ['sold-twice'],
  renewed: ['missing'],
  'one-expired': ['kept'],
  'all-expired': ['kept'],
  refunded: ['kept'],
  deferred: ['granted-unpaid'],
  offline: ['missing'],
  reset: ['kept'],
};

export function coverPurchases(
  facts: FactIndex,
  findings: readonly Finding[],
  intent: Intent,
  strict: boolean,
): OutcomeTable {
  const seen = facts.once(judgedHistories, intent).flatMap((history) => history.scenarios);
  const { products } = intent.purchases;
  return {
    columns: products.map(({ id }) => id),
    rows:
      products.length === 0
        ? []
        : scenarioIds.map((id) => ({
            name: scenarios[id].name,
            note: '',
            cells: products.map((product) => cellOf(product, id, seen, findings, strict)),
          })),
  };
}

function cellOf(
  { id: product, kind }: IntentProduct,
  scenario: ScenarioId,
  seen: readonly SeenScenario[],
  findings: readonly Finding[],
  strict: boolean,
): TableCell {
  const { kinds, provoke } = scenarios[scenario];
  if (!kinds.includes(kind)) return { outcome: 'inapplicable', findings: [] };
  const own = seen.filter((one) => one.product === product && one.scenario === scenario);
  const outcome = worstOf(own.map((one) => one.outcome)) ?? 'untested';
  if (outcome === 'untested') return { outcome, why: provoke, findings: [] };
  if (outcome === 'passed') return { outcome, findings: [] };
  const told = findings.filter(
    ({ area, identity }) =>
      area === 'purchases' &&
      identity.subject === `product ${product}` &&
      MATTERS[scenario].includes(identity.aspect ?? ''),
  );
  const outcomes: Outcome[] = told.map((finding) => outcomeOf(finding, strict));
  return { outcome: worstOf(outcomes) ?? outcome, findings: told.map(({ id }) => id) };
}
