/** Who comes back to the app finds the screen that was left, not the first one. */
import { isStateDrill } from '../../model/drill.ts';
import type { Assertion, Check } from '../check.ts';
import { classOfRun, lastRuns } from './runs/class-of-run.ts';

export const lostScreen = {
  id: 'lost-screen',
  area: 'lifecycle',
  needs: ['drill-run'],
  *run(facts, intent): Iterable<Assertion> {
    for (const run of lastRuns(facts)) {
      if (!isStateDrill(run.drill)) continue;
      const { cell, drill, evidence, landed } = run;
      const found = classOfRun(run, intent.drills.ignore);
      if (found.kind === 'restored' || found.kind === 'partly-restored') yield { outcome: 'passed', cell };
      if (found.kind !== 'restarted') continue;
      const data = { drill, at: found.at, activity: landed?.activity ?? '' };
      yield {
        outcome: 'failed',
        cell,
        draft: {
          identity: { screen: cell.screen, subject: 'screen', aspect: drill },
          basis: 'measured',
          severity: found.at === 'outside' ? 2 : 1,
          digest: `${found.at} ${data.activity}`,
          occurrence: { evidence, cell, boundsPx: landed?.boundsPx, shown: cell.screen, data },
        },
      };
    }
  },
} satisfies Check;
