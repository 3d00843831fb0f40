/** What a drill saw of the question for a rating, a line for each time. */
import type { Fact } from '../../../core/model/fact.ts';
import type { RatingRoundFact } from '../../../core/model/facts/ratings.ts';

const ROUNDS: Record<RatingRoundFact['round'], string> = {
  'first-start': 'first start',
  moment: 'its moment',
  again: 'its moment again',
  told: 'as the app tells',
};

export const ratingLines = (facts: readonly Fact[]): string[] => {
  const rounds = facts.filter((fact): fact is RatingRoundFact => fact.kind === 'rating-round');
  return rounds.map(
    (round) =>
      `  ${ROUNDS[round.round].padEnd(18)}${[askedWords(round), shownWords(round), afterWords(round)].filter(Boolean).join(', ')}`,
  );
};

const askedWords = ({ asked }: RatingRoundFact): string => (asked ? 'asked' : 'not asked');

function shownWords({ prompt }: RatingRoundFact): string {
  if (prompt === undefined) return 'not reached';
  return prompt ? 'a window of the store came' : 'nothing was shown';
}

function afterWords({ ready, round }: RatingRoundFact): string {
  if (round === 'first-start') return '';
  if (ready === undefined) return 'and whether the app goes on nobody says (ratings.goesOn)';
  return ready ? 'the app goes on' : 'the app does not go on';
}
