/** Who bought the removal of ads sees none. */

import { z } from 'zod';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { nameOfNetwork } from '../wiring.ts';

const dataSchema = z.strictObject({
  placement: z.string(),
  network: z.string(),
  removedBy: z.string(),
  at: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const adAfterRemoval = defineCheck({
  id: 'ad-after-removal',
  area: 'ads',
  priority: 'cannot-use',
  standard: 'App Store Review Guidelines, 3.1 Payments; Google Play, Payments policy',
  basis: 'measured',
  needs: 'ad-session',
  reads: ['ad-show'],
  data: dataSchema,
  words: ({ at, network, placement, removedBy }) => ({
    what: `${placement} is shown although ${removedBy} is bought`,
    measured: `${network ? `an ad of ${network}` : 'an ad'} at ${at}`,
    required: `none while ${removedBy} is owned`,
    why: 'It is the one thing that its buyer paid for.',
    remedy: 'Ask what is owned before an ad is loaded, and again before it is shown.',
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
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
          target: { kind: 'placement', id: placement },
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
    else yield { outcome: 'untested', missingEvidence: `ads while ${removedBy} is owned` };
  },

  doc: {
    looksAt: 'Ads that were shown, and what the app gave then',
    against: 'None while `ads.removedBy` is owned',
    matters: 'People paid for it. They ask for their money back, and write a review.',
    measured: 'Each ad that a trace shows, against what the app said that it gave at that moment.',
    errs: 'Without a trace in which the product was owned, nothing is told.',
    fixes: [
      { where: 'Android', language: 'kotlin', code: 'if (!purchases.owns("no-ads")) placement.load()' },
      { where: 'iOS', language: 'swift', code: 'guard !purchases.owns("no-ads") else { return }' },
    ],
  },
});
