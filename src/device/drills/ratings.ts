/** The question for a rating, brought about twice: see `walks/ask-for-rating.ts`. */
import type { Drill } from './drill.ts';
import { keepTrace } from './keep-trace.ts';
import { askForRating } from './walks/ask-for-rating.ts';

export const ratings: Drill = {
  id: 'ratings',
  needs: ['ratings', 'fresh-install'],
  *plan({ intent }) {
    if (intent.ratings.reach.length === 0)
      yield {
        what: 'ratings',
        why: 'fenlok.yaml names no steps to the moment at which the app asks: ratings.reach',
      };
    else
      yield {
        drill: 'ratings',
        says: 'ratings',
        key: '',
        estimateS: 60,
        run: async ({ dossier, intent: current, subject }) =>
          keepTrace(dossier, await askForRating(subject, current)),
      };
  },
  // it clears the data of the app
  onlyNamed: true,
  doneBy: (fact) => (fact.kind === 'rating-round' && fact.round !== 'told' ? '' : undefined),
};
