/** A cold start shows its first screen, or a sign of life, in time (Android vitals: *excessive* from 5 s; the list asks 2 s). */
import type { Assertion, Check } from '../check.ts';
import { lastRuns } from '../lifecycle/runs/class-of-run.ts';

export const slowStart = {
  id: 'slow-start',
  area: 'quality',
  needs: ['drill-run'],
  *run(facts, { limits }): Iterable<Assertion> {
    for (const { cell, drill, evidence, startsMs } of lastRuns(facts)) {
      if (drill !== 'cold-start' || !startsMs) continue;
      const sorted = [...startsMs].sort((a, b) => a - b);
      const medianMs = sorted[sorted.length >> 1]!;
      if (medianMs <= limits.startMs) yield { outcome: 'passed', cell };
      else
        yield {
          outcome: 'failed',
          cell,
          draft: {
            identity: { subject: 'cold start', aspect: cell.device },
            basis: 'measured',
            severity: medianMs / limits.startMs,
            digest: `${Math.round(medianMs / 250) * 250}`,
            occurrence: {
              evidence,
              cell,
              shown: 'cold start',
              data: { medianMs, slowestMs: sorted.at(-1)!, count: sorted.length, requiredMs: limits.startMs },
            },
          },
        };
    }
  },
} satisfies Check;
