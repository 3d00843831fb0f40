/** Situations that a purchase must be seen in, by product; of what was never seen, how to bring it about. */

import type { SeenScenario } from '../../areas/purchases/ledger/recognise-scenarios.ts';
import { type ScenarioId, scenarioIds, scenarios } from '../../areas/purchases/ledger/scenarios.ts';
import { judgedHistories } from '../../areas/purchases/purchase-history.ts';
import type { IntentProduct } from '../../model/intent-parts.ts';
import type { TableCell } from '../../model/judgement.ts';
import { worstOf } from '../../model/outcome.ts';
import { inapplicableCell, type Matrix, type MatrixContext, untestedCell } from './matrix.ts';

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

export const purchasesMatrix: Matrix = {
  id: 'purchases',
  drill: 'purchases',
  table: (context) => {
    const seen = context.facts.once(judgedHistories, context.intent).flatMap((history) => history.scenarios);
    const { products } = context.intent.purchases;
    return {
      columns: products.map(({ id }) => id),
      rows:
        products.length === 0
          ? []
          : scenarioIds.map((id) => ({
              name: scenarios[id].name,
              note: '',
              cells: products.map((product) => cellOf(product, id, seen, context)),
            })),
    };
  },
};

function cellOf(
  { id: product, kind }: IntentProduct,
  scenario: ScenarioId,
  seen: readonly SeenScenario[],
  context: MatrixContext,
): TableCell {
  const { kinds, provoke } = scenarios[scenario];
  if (!kinds.includes(kind)) return inapplicableCell;
  const own = seen.filter((one) => one.product === product && one.scenario === scenario);
  const outcome = worstOf(own.map((one) => one.outcome)) ?? 'untested';
  if (outcome === 'untested') return untestedCell(provoke);
  if (outcome === 'passed') return { outcome, findings: [] };
  const found = context.where(
    ({ area, target }) =>
      area === 'purchases' &&
      target?.kind === 'product' &&
      target.id === product &&
      MATTERS[scenario].includes(target.part ?? ''),
  );
  // what was ruled on is as the ruling says
  return found.length > 0 ? context.cell(found, 'inapplicable') : { outcome, findings: [] };
}
