/** The question for a rating comes when its user has done something, and not again and again. */

import { z } from 'zod';
import type { RatingRoundFact } from '../../../model/facts/ratings.ts';
import { IOS_QUOTA } from '../../../platform/rating-prompt.ts';
import { type Assertion, defineCheck } from '../../check.ts';

const flaws = ['start', 'button', 'during', 'after-crash', 'again', 'too-often'] as const;
const dataSchema = z.strictObject({
  flaw: z.enum(flaws),
  screen: z.string(),
  done: z.string(),
  count: z.number(),
});
type Data = z.infer<typeof dataSchema>;

const WHAT: Record<Data['flaw'], string> = {
  start: 'The app asks for a rating as soon as it is started',
  button: 'A button asks for a rating',
  during: 'The app asks for a rating in the middle of an act',
  'after-crash': 'The app asks for a rating after it crashed',
  again: 'The app asks for a rating again at once',
  'too-often': 'The app asks for a rating more often than the platform allows',
};
const WHY: Record<Data['flaw'], string> = {
  start: 'Who has not used it yet has nothing to say, and the quota of that user is spent.',
  button: 'The platform mostly shows nothing, so that the button does nothing.',
  during: 'What the user was doing is interrupted, and the answer is about that.',
  'after-crash': 'The answer will be about the crash.',
  again: 'The platform shows it once and then is silent for a long time.',
  'too-often': 'What goes beyond is never shown.',
};
const DAY_MS = 86_400_000;

export const ratingMoment = defineCheck({
  id: 'rating-moment',
  area: 'ratings',
  priority: 'harder',
  standard:
    'Android developers, Google Play In-App Reviews, When to request; Apple, Requesting App Store reviews',
  basis: 'either',
  needs: 'rating-round',
  data: dataSchema,
  words: ({ count, done, flaw, screen }) => ({
    what: WHAT[flaw],
    measured: `${count === 1 ? 'once' : `${count} times`}${screen ? `, on ${screen}` : ''}${done ? `, after: ${done}` : ''}`,
    required: 'after something that went well, and not again soon',
    why: WHY[flaw],
    remedy:
      flaw === 'button'
        ? "Let the button open the app's page in the store."
        : 'Ask where something has just ended well, and remember that it was asked.',
  }),

  *run(facts): Iterable<Assertion<Data>> {
    const asked = facts.of('rating-round').filter(isAsked);
    for (const round of asked) {
      const flaw = flawOf(round);
      if (flaw) yield found(round, flaw, 1, 'measured');
      else if (round.asked.moment === 'other')
        yield {
          outcome: 'untested',
          because: 'the app does not say at which moment it asks (rating.asked, moment)',
        };
      else yield { outcome: 'passed', cell: round.cell };
      // the drill brings the same moment about twice; an app that remembers is silent then
      if (round.round === 'again') yield found(round, 'again', 2, 'estimated');
    }
    for (const device of new Set(asked.map(({ deviceId }) => deviceId))) {
      const own = asked.filter(({ deviceId, platform }) => deviceId === device && platform === 'ios');
      const times = own.map((round) => Date.parse(round.asked.at)).sort((a, b) => a - b);
      const most = Math.max(
        0,
        ...times.map(
          (from) => times.filter((at) => at >= from && at < from + IOS_QUOTA.days * DAY_MS).length,
        ),
      );
      if (most > IOS_QUOTA.count) yield found(own[0]!, 'too-often', most, 'measured');
    }
  },

  doc: {
    looksAt: 'Each `rating.asked` of a trace: its moment, what came before, how often',
    against: '`done`. iOS: three in 365 days',
    matters: 'The platform asks each user a few times at most: a wasted question does not come back.',
    measured:
      'What the app says of the moment; a crash before it in the same trace; whether the drill saw it at the first start.',
    errs: 'The moment is what the app says. Asked again at once is estimated: the drill brings the moment about twice.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'if (trip.isOver && settings.lastAskedDaysAgo > 120) reviewManager.launchReviewFlow(activity, info)',
      },
      {
        where: 'iOS',
        language: 'swift',
        code: 'if trip.isOver && lastAskedVersion != version { requestReview() }',
      },
    ],
  },
});

type Asked = RatingRoundFact & { asked: NonNullable<RatingRoundFact['asked']> };
const isAsked = (round: RatingRoundFact): round is Asked => round.asked !== undefined;

function flawOf({ afterCrash, asked, round }: Asked): Data['flaw'] | undefined {
  if (round === 'first-start' || asked.moment === 'start') return 'start';
  if (afterCrash || asked.moment === 'after-crash') return 'after-crash';
  return asked.moment === 'button' || asked.moment === 'during' ? asked.moment : undefined;
}

const found = (
  { asked: { done, screen }, cell, evidence }: Asked,
  flaw: Data['flaw'],
  count: number,
  basis: 'measured' | 'estimated',
): Assertion<Data> => ({
  outcome: basis === 'measured' ? 'failed' : 'cantTell',
  cell,
  draft: {
    identity: { subject: 'rating', aspect: flaw },
    basis,
    severity: flaw === 'after-crash' || flaw === 'during' ? 2 : 1,
    digest: flaw,
    occurrence: { evidence, cell, shown: 'rating', data: { flaw, screen, done, count } },
  },
});
