/** Each network of each waterfall loads once. That it has nothing to show is no mistake of the app, and no proof either. */

import { z } from 'zod';
import type { AdLoadFact } from '../../../model/facts/ads.ts';
import type { Assertion, IntentWith } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { tellingLoads } from '../telling-loads.ts';
import { nameOfNetwork, networksOf } from '../wiring.ts';

const dataSchema = z.strictObject({
  placement: z.string(),
  network: z.string(),
  outcome: z.enum(['failed', 'loaded', 'no-fill', 'pending']),
  reason: z.string(),
  log: z.array(z.string()),
});
type Data = z.infer<typeof dataSchema>;

export const adLoad = defineCheck({
  id: 'ad-load',
  area: 'ads',
  priority: 'cannot-use',
  standard: 'The description of each network (`ads.networks`)',
  basis: 'either',
  needs: 'ad-load',
  data: dataSchema,
  words: ({ log, network, outcome, placement, reason }) => ({
    what:
      outcome === 'failed'
        ? `${placement}: ${network} does not load`
        : outcome === 'no-fill'
          ? `${placement}: ${network} had nothing to show`
          : `${placement}: ${network} never answered`,
    measured: log.length > 0 ? log.join('; ') : reason || outcome,
    required: 'one ad loaded',
    why:
      outcome === 'failed'
        ? 'Whoever is asked after it gets the request, and nobody is told.'
        : 'It says nothing of the wiring: networks answer so when nobody bids for this device, now.',
    remedy:
      outcome === 'failed'
        ? 'Read the line of its log, and look first at app id, placement and connector.'
        : 'Try again later, or with the network’s own test placement.',
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
    const loads = tellingLoads(facts);
    for (const load of loads) {
      const { cell, outcome } = load;
      if (outcome === 'loaded') yield { outcome: 'passed', cell };
      else
        yield {
          outcome: outcome === 'failed' ? 'failed' : 'cantTell',
          cell,
          draft: draftOf(load, intent),
        };
    }
    for (const { id, waterfall } of intent.ads.placements)
      for (const { network } of waterfall)
        if (!loads.some((load) => load.placement === id && load.network === network))
          yield { outcome: 'untested', missingEvidence: `${id} from ${network}` };
  },

  doc: {
    looksAt: "The last request of each placement to each network, and the network's lines of the log",
    against: 'Loaded. Nothing to show, or no answer, is estimated',
    matters: 'A network that never loads earns nothing, and slows down every request of the waterfall.',
    measured:
      "The last request of each placement to each network in a trace, and the network's own lines in the log.",
    errs: 'That there is nothing to show, or no answer, is no fault of the app and stays estimated.',
    fixes: [
      {
        where: 'Any',
        language: 'text',
        code: `Read the reason that the network gives in the log, correct the placement or its parameters,
then run:  fenlok drill ads`,
      },
    ],
  },
});

const LINES_TOLD = 5;

function draftOf(
  { cell, evidence, log, network, outcome, placement, reason }: AdLoadFact,
  intent: IntentWith,
) {
  const { logTags = [] } = networksOf(intent).find(({ id }) => id === network) ?? {};
  const own = log.filter(({ tag }) => logTags.length === 0 || logTags.includes(tag));
  return {
    identity: { subject: `placement ${placement}`, aspect: network },
    target: { kind: 'placement' as const, id: placement, part: network },
    basis: outcome === 'failed' ? ('measured' as const) : ('estimated' as const),
    severity: outcome === 'failed' ? 2 : 1,
    digest: `${outcome} ${reason}`,
    occurrence: {
      evidence,
      cell,
      shown: placement,
      data: {
        placement,
        network: nameOfNetwork(intent, network),
        outcome,
        reason,
        log: own.slice(-LINES_TOLD).map(({ message, tag }) => `${tag}: ${message}`),
      },
    },
  };
}
