/** Who bought the removal of ads sees none. */

import type { Assertion, Check } from '../check.ts';
import { nameOfNetwork } from './wiring.ts';

export const adAfterRemoval = {
  id: 'ad-after-removal',
  area: 'ads',
  needs: ['ad-session'],
  *run(facts, intent): Iterable<Assertion> {
    const { removedBy } = intent.ads;
    if (removedBy === undefined) return;
    let wasTried = false;
    for (const { at, cell, evidence, held, network, placement } of facts.of('ad-show')) {
      if (!held.includes(removedBy)) continue;
      wasTried = true;
      yield {
        outcome: 'failed',
        cell,
        draft: {
          identity: { subject: `placement ${placement}`, aspect: removedBy },
          basis: 'measured',
          severity: 2,
          digest: network,
          occurrence: {
            evidence,
            cell,
            shown: placement,
            data: { placement, network: network && nameOfNetwork(intent, network), removedBy, at },
          },
        },
      };
    }
    const wasHeld = facts.of('ad-session').some(({ held }) => held.includes(removedBy));
    if (wasTried) return;
    if (wasHeld) yield { outcome: 'passed' };
    else yield { outcome: 'untested', lacking: `ads while ${removedBy} is had` };
  },
} satisfies Check;
