/** No exception that nobody catches ends the app, and it answers at all times. */
import type { Assertion, Check } from '../check.ts';
import { lastRuns } from '../lifecycle/runs/class-of-run.ts';

export const crash = {
  id: 'crash',
  area: 'quality',
  needs: ['drill-run'],
  *run(facts): Iterable<Assertion> {
    for (const { cell, crash: crashed, drill, evidence, notResponding } of lastRuns(facts)) {
      if (!crashed && !notResponding) {
        yield { outcome: 'passed', cell };
        continue;
      }
      const { exception, frame, message } = crashed ?? { exception: '', frame: '', message: '' };
      yield {
        outcome: 'failed',
        cell,
        draft: {
          identity: {
            screen: cell.screen,
            subject: crashed ? frame || exception : 'not responding',
            aspect: drill,
          },
          basis: 'measured',
          severity: crashed ? 2 : 1,
          digest: exception,
          occurrence: {
            evidence,
            cell,
            shown: exception,
            data: { drill, step: cell.step, exception, frame, message },
          },
        },
      };
    }
  },
} satisfies Check;
