/** A screen that the user left comes back with what was typed, chosen and scrolled to. */

import { isStateDrill } from '../../model/drill.ts';
import type { DrillRunFact, StateChange } from '../../model/fact.ts';
import type { Assertion, Check, Draft } from '../check.ts';
import { classOfRun, lastRuns } from './runs/class-of-run.ts';

export const lostState = {
  id: 'lost-state',
  area: 'lifecycle',
  needs: ['drill-run'],
  *run(facts, intent): Iterable<Assertion> {
    for (const run of lastRuns(facts)) {
      if (!isStateDrill(run.drill)) continue;
      const found = classOfRun(run, intent.drills.ignore);
      if (found.kind === 'restored') yield { outcome: 'passed', cell: run.cell };
      if (found.kind !== 'partly-restored') continue;
      for (const change of worstOfEach(found.lost))
        yield { outcome: 'failed', cell: run.cell, draft: draftOf(run, change) };
    }
  },
} satisfies Check;

/** What a person typed weighs more than where a list stood. */
const WEIGHTS: Record<StateChange['what'], number> = {
  typed: 6,
  checked: 5,
  selected: 5,
  content: 4,
  gone: 4,
  scroll: 3,
  text: 2,
  focused: 1,
};

/** An element that lost its text and its focus is one finding; a focus that went with its field's text is the same loss. */
function worstOfEach(lost: readonly StateChange[]): StateChange[] {
  const byKey = new Map<string, StateChange>();
  for (const change of lost) {
    const before = byKey.get(change.key);
    if (!before || WEIGHTS[before.what] < WEIGHTS[change.what]) byKey.set(change.key, change);
  }
  return [...byKey.values()];
}

const draftOf = ({ cell, drill, evidence }: DrillRunFact, { boundsPx, ...change }: StateChange): Draft => ({
  identity: { screen: cell.screen, subject: change.key, aspect: drill },
  basis: 'measured',
  severity: WEIGHTS[change.what],
  digest: change.what,
  occurrence: { evidence, cell, boundsPx, shown: change.before, data: { drill, ...change } },
});
