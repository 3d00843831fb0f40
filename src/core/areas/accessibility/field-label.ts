/** WCAG 2.2, 3.3.2: a field has a label that stays; its placeholder goes when something is typed. */
import type { StopFact } from '../../model/fact.ts';
import type { Check } from '../check.ts';
import { departed, passed, reachedStops, withoutLabels } from './stops.ts';

export const fieldLabel = {
  id: 'field-label',
  area: 'accessibility',
  needs: ['capture', 'stop'],
  *run(facts) {
    const unknown: StopFact[] = [];
    for (const stop of reachedStops(facts)) {
      // without any name it is found as a control without one
      if (!stop.isField || stop.nameFrom === 'none') continue;
      if (stop.nameFrom === 'label' || stop.nameFrom === 'label-for') yield passed(stop);
      else if (!stop.knowsLabels) unknown.push(stop);
      else
        yield departed(stop, {
          basis: 'measured',
          severity: 1,
          digest: stop.nameFrom,
          data: { from: stop.nameFrom, name: stop.name, platform: stop.platform },
        });
    }
    yield* withoutLabels(unknown);
  },
} satisfies Check;
