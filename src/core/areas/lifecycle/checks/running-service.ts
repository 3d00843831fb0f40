/** After the user has gone home nothing of the app runs on that need not. */

import { z } from 'zod';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { lastPart } from '../../words.ts';
import { lastRuns } from '../runs/class-of-run.ts';

const dataSchema = z.strictObject({ service: z.string() });
type Data = z.infer<typeof dataSchema>;

export const runningService = defineCheck({
  id: 'running-service',
  area: 'lifecycle',
  priority: 'harder',
  standard: 'Android developers, Services overview',
  basis: 'estimated',
  needs: 'drill-run',
  data: dataSchema,
  words: ({ service }, { occurrences }) => ({
    what: `${lastPart(service)} runs on after the app was left`,
    measured: `seen running after going home from ${[...new Set(occurrences.map(({ cell }) => cell!.screen))].join(', ')}`,
    required: 'nothing, unless the user would miss it',
    why: 'It costs battery and data while nobody looks, and the system may end the app for it. Whether it is needed cannot be seen from here.',
    remedy:
      'Stop it when the screen is left; or name it under drills.services in fenlok.yaml, or rule that it is needed.',
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
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
            occurrence: { evidence, cell, shown: service, data: { service } },
          },
        };
    }
  },

  doc: {
    looksAt: "The app's services after going home",
    against: '`drills.services` of the intent file. Always estimated',
    matters: 'It costs battery and data while nobody looks, and the system may end the app for it.',
    measured: "The app's services that run some time after the user went home.",
    errs: 'Whether the user would miss it cannot be seen; always estimated.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'override fun onStop() { super.onStop(); stopService(Intent(this, PositionService::class.java)) }',
      },
      {
        where: 'fenlok.yaml',
        language: 'yaml',
        code: 'drills: { services: [PlaybackService] }   # may run on',
      },
    ],
  },
});
