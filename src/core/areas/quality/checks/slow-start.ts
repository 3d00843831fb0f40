/** A cold start shows its first screen, or a sign of life, in time (Android vitals: *excessive* from 5 s; the list asks 2 s). */

import { z } from 'zod';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { lastRuns } from '../../lifecycle/runs/class-of-run.ts';

const dataSchema = z.strictObject({
  medianMs: z.number(),
  slowestMs: z.number(),
  count: z.number(),
  requiredMs: z.number(),
});
type Data = z.infer<typeof dataSchema>;

export const slowStart = defineCheck({
  id: 'slow-start',
  area: 'quality',
  priority: 'harder',
  standard: 'Android vitals, App startup time',
  basis: 'measured',
  needs: 'drill-run',
  limits: ['startMs'],
  data: dataSchema,
  words: ({ count, medianMs, requiredMs, slowestMs }) => ({
    what: 'The first screen is late after a cold start',
    measured: `${medianMs} ms, the median of ${count} starts; the slowest ${slowestMs} ms`,
    required: `${requiredMs} ms`,
    why: 'Nothing on the screen for so long looks as if the app had not started.',
    remedy: 'Do less before the first frame, or show a screen that says that it loads.',
  }),

  *run(facts, { limits }): Iterable<Assertion<Data>> {
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

  doc: {
    looksAt:
      'The time to the first frame of five cold starts, as the system tells it, on iOS as the app does',
    against: '`limits.startMs`, 2 s. The median counts',
    matters: 'Nothing on the screen for so long looks as if the app had not started.',
    measured:
      'The time to the first frame of five cold starts, as the system tells it, on iOS as the app does. The median counts.',
    errs: 'It is the time on this device; a slower one takes longer.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'installSplashScreen(); lifecycleScope.launch(Dispatchers.IO) { database.open() }',
      },
    ],
  },
});
