/** Nothing is shown before the platform's question for a rating, and nothing is given for it. */

import { z } from 'zod';
import type { RatingRoundFact } from '../../../model/facts/ratings.ts';
import { type Assertion, defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({
  flaw: z.enum(['own-stars', 'thanks', 'goods', 'claim']),
  gave: z.string(),
});
type Data = z.infer<typeof dataSchema>;

const WHAT: Record<Data['flaw'], string> = {
  'own-stars': "The app shows stars of its own before the platform's question",
  thanks: 'The app thanks for a rating that nobody may have given',
  goods: 'The app gives something for a rating',
  claim: 'The app takes the end of the question for a question that was shown',
};
const WHY: Record<Data['flaw'], string> = {
  'own-stars': 'Stores forbid it: only who is pleased would then be asked.',
  thanks: 'No app is told whether anything was shown or written: most who read the thanks have seen nothing.',
  goods: 'Stores forbid it, and take apps down for it.',
  claim: 'The platform says that it is done also where it showed nothing.',
};

export const ratingManner = defineCheck({
  id: 'rating-manner',
  area: 'ratings',
  priority: 'harder',
  standard: 'Google Play, User ratings and reviews; App Store Review Guidelines, 1.1.7 and 5.6.1',
  basis: 'measured',
  needs: 'rating-round',
  data: dataSchema,
  words: ({ flaw, gave }) => ({
    what: WHAT[flaw],
    measured:
      flaw === 'own-stars'
        ? 'seen before rating.asked'
        : flaw === 'claim'
          ? 'rating.finished with shown: true'
          : `rating.thanked${gave ? `, ${gave}` : ''}`,
    required: "the platform's question alone, and then what would have come without it",
    why: WHY[flaw],
    remedy: 'Ask, and go on as if nothing had been.',
  }),

  *run(facts): Iterable<Assertion<Data>> {
    for (const round of facts.of('rating-round')) {
      const flaws = flawsOf(round);
      for (const flaw of flaws) {
        const { cell, evidence, gave } = round;
        yield {
          outcome: 'failed',
          cell,
          draft: {
            identity: { subject: 'rating', aspect: flaw },
            basis: 'measured',
            severity: flaw === 'goods' || flaw === 'own-stars' ? 2 : 1,
            digest: flaw,
            occurrence: { evidence, cell, shown: 'rating', data: { flaw, gave } },
          },
        };
      }
      if (flaws.length === 0 && round.asked) yield { outcome: 'passed', cell: round.cell };
    }
  },

  doc: {
    looksAt:
      "Traces: what the app shows before it asks, and what it says when the platform is done; stars in the app's own windows",
    against: 'No stars of its own, no thanks, nothing given, and no word that it was shown',
    matters: 'Stores forbid what leads users to an answer, and take apps down for it.',
    measured:
      'Lines `rating.stars`, `rating.thanked` and `rating.finished` of the trace; an element for stars in the hierarchy before the question.',
    errs: 'Stars that are drawn by hand and not told in the trace are not seen.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'reviewManager.launchReviewFlow(activity, info).addOnCompleteListener { goOn() }',
      },
    ],
  },
});

const flawsOf = ({ asked, claims, gave, ownStars, thanked }: RatingRoundFact): Data['flaw'][] => [
  ...(ownStars && asked ? (['own-stars'] as const) : []),
  ...(thanked ? ([gave ? 'goods' : 'thanks'] as const) : []),
  ...(claims === 'shown' ? (['claim'] as const) : []),
];
