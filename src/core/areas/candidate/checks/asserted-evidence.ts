/** A capture that does not say which build it was taken on may be of the one before the fix. */

import { z } from 'zod';
import { defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({ screen: z.string() });

export const assertedEvidence = defineCheck({
  id: 'asserted-evidence',
  area: 'candidate',
  priority: 'wrong',
  standard: 'Our own: what was seen on one build proves nothing about another',
  basis: 'estimated',
  needs: 'capture',
  data: dataSchema,
  words: ({ screen }, { occurrences }) => ({
    what: `${occurrences.length === 1 ? 'A capture' : `${occurrences.length} captures`} of ${screen} may be of another build`,
    measured: 'no build in capture.json, so that only a person’s word binds it to this one',
    required: 'the build as the device told it',
    why: 'What was seen on the build before the fix proves nothing about this one.',
    remedy: 'Capture it with fenlok drill, or with the build in capture.json; or rule on it, if you know.',
  }),

  *run(facts) {
    for (const { buildBasis, cell, evidence } of facts.of('capture')) {
      if (buildBasis === 'seen') yield { outcome: 'passed', cell };
      else
        yield {
          outcome: 'cantTell',
          cell,
          draft: {
            identity: { screen: cell.screen, subject: 'captures' },
            basis: 'estimated',
            severity: 1,
            digest: 'asserted',
            occurrence: { evidence, cell, shown: cell.screen, data: { screen: cell.screen } },
          },
        };
    }
  },

  doc: {
    looksAt: 'The build that each capture says it was taken on',
    against: 'The build of the candidate. Evidence of another build is refused when it is added',
    matters: 'A screen that was fixed yesterday is easily shown by the picture of the day before.',
    measured: 'Whether the build was read from the device, or is not said.',
    errs: 'A capture may be of this build all the same; then a person rules so.',
    fixes: [
      {
        where: 'capture.json',
        language: 'json',
        code: '"build": { "appId": "example.app", "version": "2.4.0", "build": "240", "code": "2230a5b80aa379c2" }',
      },
    ],
  },
});
