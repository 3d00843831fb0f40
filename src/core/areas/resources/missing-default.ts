import type { Check } from '../check.ts';
import { pickedResources } from './picks.ts';

/** Every listed device finds a form of every resource. */
export const missingDefault = {
  id: 'missing-default',
  area: 'resources',
  needs: ['package', 'varied-resource'],
  *run(facts, intent) {
    for (const { fact, picks } of facts.once(pickedResources, intent)) {
      const without = picks.filter(({ form }) => !form);
      const [first] = without;
      if (!first) {
        yield { outcome: 'passed' };
        continue;
      }
      const { device, locale, night } = first.situation;
      yield {
        outcome: 'failed',
        draft: {
          identity: { subject: fact.name },
          basis: 'measured',
          severity: without.length / picks.length,
          digest: fact.forms.map(({ qualifiers }) => qualifiers).join(' '),
          occurrence: {
            evidence: fact.evidence,
            shown: fact.name,
            data: {
              forms: fact.forms.map(({ qualifiers }) => qualifiers),
              missing: without.length,
              of: picks.length,
              device: device.name,
              locale,
              night,
            },
          },
        },
      };
    }
  },
} satisfies Check;
