/** What can be tapped, and what neither a reader nor a switch comes to (WCAG 2.2, 2.1.1). */
import type { Check } from '../check.ts';
import { departed, passed } from './stops.ts';

export const unreachableControl = {
  id: 'unreachable-control',
  area: 'accessibility',
  needs: ['capture', 'stop'],
  *run(facts) {
    for (const stop of facts.of('stop')) {
      if (!stop.actionable) continue;
      if (!stop.shutInBy) yield passed(stop);
      else
        yield departed(stop, {
          basis: 'measured',
          severity: 1,
          digest: stop.shutInBy,
          data: { shutInBy: stop.shutInBy, platform: stop.platform },
        });
    }
  },
} satisfies Check;
