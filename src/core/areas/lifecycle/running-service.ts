/** After the user has gone home nothing of the app runs on that need not. */
import type { Assertion, Check } from '../check.ts';
import { lastRuns } from './runs/class-of-run.ts';

export const runningService = {
  id: 'running-service',
  area: 'lifecycle',
  needs: ['drill-run'],
  *run(facts, intent): Iterable<Assertion> {
    for (const { cell, drill, evidence, servicesAfter } of lastRuns(facts)) {
      if (drill !== 'background-services' || !servicesAfter) continue;
      const running = servicesAfter.filter(
        (name) => !intent.drills.services.some((allowed) => name.endsWith(allowed)),
      );
      if (running.length === 0) yield { outcome: 'passed', cell };
      for (const service of running)
        yield {
          outcome: 'cantTell',
          cell,
          draft: {
            identity: { subject: service, aspect: drill },
            basis: 'estimated',
            severity: 1,
            digest: 'running',
            occurrence: { evidence, cell, shown: service, data: { service, drill } },
          },
        };
    }
  },
} satisfies Check;
