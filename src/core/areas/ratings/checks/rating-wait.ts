/** After the question for a rating the app goes on, whether or not anything was shown. */

import { z } from 'zod';
import { type Assertion, defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({
  prompt: z.boolean(),
  finished: z.boolean(),
});
type Data = z.infer<typeof dataSchema>;

export const ratingWait = defineCheck({
  id: 'rating-wait',
  area: 'ratings',
  priority: 'cannot-use',
  standard: 'Android developers, Google Play In-App Reviews; Apple, Requesting App Store reviews',
  basis: 'measured',
  needs: 'rating-round',
  data: dataSchema,
  words: ({ finished, prompt }) => ({
    what: prompt
      ? 'The app does not go on after the question for a rating was closed'
      : 'The app waits for a question for a rating that is not shown',
    measured: `${prompt ? 'closed' : 'nothing was shown'}, ${finished ? 'the platform said that it was done' : 'and the app told of no end'}; then the app was not ready for its user`,
    required: 'the app goes on, whatever was shown',
    why: 'Most of the time the platform shows nothing, and then its user is stuck.',
    remedy: 'Go on when the platform is done or has failed, and after a short time in any case.',
  }),

  *run(facts): Iterable<Assertion<Data>> {
    const rounds = facts.of('rating-round').filter(({ round }) => round === 'moment' || round === 'again');
    for (const { asked, cell, evidence, finished, prompt = false, ready } of rounds) {
      if (!asked && !prompt) continue;
      if (ready === undefined)
        yield {
          outcome: 'untested',
          because: 'fenlok.yaml does not say what stands on the screen then: ratings.goesOn',
        };
      else if (ready) yield { outcome: 'passed', cell };
      else
        yield {
          outcome: 'failed',
          cell,
          draft: {
            identity: { subject: 'rating', aspect: prompt ? 'closed' : 'not shown' },
            basis: 'measured',
            severity: prompt ? 1 : 2,
            digest: `${prompt}`,
            occurrence: { evidence, cell, shown: 'rating', data: { prompt, finished } },
          },
        };
    }
  },

  doc: {
    looksAt: 'The screen after the question, in the drill `ratings`: twice, once with the quota used up',
    against: '`ratings.goesOn` of `fenlok.yaml` is there within 6 seconds',
    matters: 'The platform mostly shows nothing: an app that waits for it stands still for nearly all users.',
    measured: 'The hierarchy after the window of the store was closed, or after nothing was shown.',
    errs: 'Without `ratings.goesOn` nobody can tell.',
    fixes: [
      {
        where: 'fenlok.yaml',
        language: 'yaml',
        code: 'ratings:\n  reach: [{ tap: book }]\n  goesOn: booked',
      },
    ],
  },
});
