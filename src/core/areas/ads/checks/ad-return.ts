/** Closing an ad leads back to where its user was, with everything as it was. */

import { z } from 'zod';
import type { AdShowFact } from '../../../model/facts/ads.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({
  placement: z.string(),
  before: z.string(),
  after: z.string(),
  lost: z.array(z.string()),
});
type Data = z.infer<typeof dataSchema>;

export const adReturn = defineCheck({
  id: 'ad-return',
  area: 'ads',
  priority: 'wrong',
  standard: 'Human Interface Guidelines and Android developers, navigation',
  basis: 'measured',
  needs: 'ad-show',
  data: dataSchema,
  words: ({ after, before, lost, placement }) => ({
    what:
      before === after
        ? `Closing ${placement} loses what stood on the screen`
        : `Closing ${placement} leads elsewhere`,
    measured: before === after ? lost.join(', ') : after,
    required: `${before}, as it was`,
    why: 'An ad comes in the middle of what people do.',
    remedy: 'Save the state of the screen as for any other interruption, and finish nothing below the ad.',
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
    for (const show of facts.of('ad-show')) {
      const { after, before, cell, isClosed, placement } = show;
      if (!isClosed || before === '' || after === '') {
        yield { outcome: 'untested', cell, missingEvidence: `the screen before and after ${placement}` };
        continue;
      }
      const lost = show.lost.filter(({ key }) => !intent.drills.ignore.includes(key));
      yield before === after && lost.length === 0
        ? { outcome: 'passed', cell }
        : { outcome: 'failed', cell, draft: draftOf(show, lost) };
    }
  },

  doc: {
    looksAt: 'The screen before an ad, and after it was closed',
    against: 'The same, with its state',
    matters: 'Who closes an ad wants to go on where it began.',
    measured: 'The screen before an ad and after it was closed, with its state.',
    errs: 'Elements that change by themselves are to be named under drills.ignore.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'override fun onAdClosed() = Unit  // stay; do not start the first screen',
      },
      { where: 'iOS', language: 'swift', code: 'func adDidDismiss() { /* stay on this screen */ }' },
    ],
  },
});

const draftOf = ({ after, before, cell, evidence, placement }: AdShowFact, lost: AdShowFact['lost']) => ({
  identity: { subject: `placement ${placement}`, aspect: before === after ? 'state' : 'screen' },
  target: { kind: 'placement' as const, id: placement },
  basis: 'measured' as const,
  severity: before === after ? 1 : 2,
  digest: before === after ? lost.map(({ key, what }) => `${key} ${what}`).join(', ') : after,
  occurrence: {
    evidence,
    cell,
    shown: placement,
    data: { placement, before, after, lost: lost.map(({ key, what }) => `${key} (${what})`) },
  },
});
