import { z } from 'zod';

/** The five outcome values of the W3C Evaluation and Report Language (EARL 1.0 Schema, section 2.5). */
export const outcomeSchema = z.enum(['passed', 'failed', 'cantTell', 'inapplicable', 'untested']);
export type Outcome = z.infer<typeof outcomeSchema>;

/** How sure a finding is: an exact reading, or a heuristic that a person must confirm. */
export const basisSchema = z.enum(['measured', 'estimated']);
export type Basis = z.infer<typeof basisSchema>;

/** Most trouble first: the order in which outcomes are listed everywhere. */
export const worstFirst: readonly Outcome[] = ['failed', 'cantTell', 'untested', 'passed', 'inapplicable'];

export const worstOf = (outcomes: Iterable<Outcome>): Outcome | undefined => {
  const present = new Set(outcomes);
  return worstFirst.find((outcome) => present.has(outcome));
};
