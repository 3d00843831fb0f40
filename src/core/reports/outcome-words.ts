/** How an outcome is shown everywhere: a mark that needs no colour, and words. */
import type { Outcome } from '../model/outcome.ts';

export const outcomeMark: Record<Outcome, string> = {
  passed: '■',
  failed: '▲',
  cantTell: '◐',
  untested: '□',
  inapplicable: '–',
};

export const outcomeWord: Record<Outcome, string> = {
  passed: 'passed',
  failed: 'failed',
  cantTell: "can't tell",
  untested: 'untested',
  inapplicable: 'does not apply',
};
