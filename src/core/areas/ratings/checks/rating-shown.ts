/** The question for a rating was seen in a channel in which it can appear. */

import { z } from 'zod';
import type { RatingRoundFact } from '../../../model/facts/ratings.ts';
import type { RatingChannel } from '../../../model/rating.ts';
import { promptShows, SURE_CHANNEL } from '../../../platform/rating-prompt.ts';
import { type Assertion, defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({
  channel: z.string(),
  asked: z.boolean(),
  sure: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const ratingShown = defineCheck({
  id: 'rating-shown',
  area: 'ratings',
  priority: 'harder',
  standard: 'Android developers, Test in-app reviews; Apple, Requesting App Store reviews',
  basis: 'measured',
  needs: 'rating-round',
  data: dataSchema,
  words: ({ asked, channel, sure }) => ({
    what: 'No question for a rating appears where it always does',
    measured: `${asked ? 'the app asked' : 'the app did not ask'}, and nothing was shown; the build came by ${channel}`,
    required: `the platform's question, as always by ${sure}`,
    why: 'What does not appear there appears nowhere.',
    remedy: asked
      ? 'Look whether the flow is launched from an activity in front, and whether the store is signed in.'
      : 'Look at the steps of ratings.reach: do they lead to the moment at which the app asks?',
  }),

  *run(facts, { ratings }): Iterable<Assertion<Data>> {
    const rounds = facts.of('rating-round').filter(({ round }) => round === 'moment');
    for (const round of rounds) yield judgeRound(round, ratings.channel);
    if (rounds.length === 0)
      yield { outcome: 'untested', because: 'no drill has looked for it: fenlok drill ratings' };
  },

  doc: {
    looksAt:
      'Whether a window of the store was in front in the drill `ratings`, and the channel that the build came through',
    against:
      'Android: nothing in a build from a cable, always by the private share link, by quota elsewhere. iOS: always in a local build, never in the beta programme',
    matters: 'Its silence is mostly no fault, and where it is one nobody notices.',
    measured:
      'The window in front after the app asked. The channel is `ratings.channel`, else a build from a cable is told by the system, which names no installer.',
    errs: 'Which track of the store a build came from is told by nothing on the device: `ratings.channel` is believed.',
    fixes: [
      {
        where: 'fenlok.yaml',
        language: 'yaml',
        code: 'ratings:\n  channel: private-share\n  reach: [{ tap: book }]',
      },
    ],
  },
});

function judgeRound(
  { asked, cell, evidence, installer, platform, prompt }: RatingRoundFact,
  said: RatingChannel | undefined,
): Assertion<Data> {
  if (prompt) return { outcome: 'passed', cell };
  const channel = said ?? (installer === '' ? 'local' : undefined);
  const sure = SURE_CHANNEL[platform];
  const untested = (why: string): Assertion<Data> => ({ outcome: 'untested', because: why });
  if (prompt === undefined) return untested('the drill did not come to the moment at which the app asks');
  switch (promptShows(platform, channel)) {
    case 'never':
      return untested(`nothing is ever shown in a build of this kind (${channel}): try it with ${sure}`);
    case 'quota':
      return untested(
        `nothing was shown, and by the quota of ${channel} that is no fault: try it with ${sure}`,
      );
    case 'unknown':
      return untested(
        'nothing was shown, and nobody says which channel the build came through: ratings.channel',
      );
  }
  return {
    outcome: 'failed',
    cell,
    draft: {
      identity: { subject: 'rating', aspect: 'shown' },
      basis: 'measured',
      severity: 1,
      digest: `${channel}`,
      occurrence: {
        evidence,
        cell,
        shown: 'rating',
        data: { channel: `${channel}`, asked: asked !== undefined, sure },
      },
    },
  };
}
