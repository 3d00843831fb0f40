/** Roles that contradict one another, and values on what has none to give (WCAG 2.2, 4.1.2). */
import type { StopFact } from '../../model/fact.ts';
import type { Assertion, Check } from '../check.ts';
import { conflictOf } from './roles.ts';
import { departed, passed, reachedStops, untested } from './stops.ts';

export const roleConflict = {
  id: 'role-conflict',
  area: 'accessibility',
  needs: ['capture', 'stop'],
  *run(facts) {
    for (const stop of reachedStops(facts)) yield judgeStop(stop);
  },
} satisfies Check;

function judgeStop(stop: StopFact): Assertion {
  const { traits, value } = stop;
  if (!traits) return untested(stop, 'traits');
  const conflict = conflictOf(traits);
  if (conflict)
    return departed(stop, {
      basis: 'measured',
      severity: 2,
      digest: traits.join(' '),
      data: { roles: [...conflict.roles], keep: conflict.keep, why: conflict.why },
    });
  if (value && !stop.actionable && traits.every((trait) => trait === 'text' || trait === 'heading'))
    return departed(stop, {
      basis: 'measured',
      severity: 1,
      digest: `value on ${traits.join(' ') || 'nothing'}`,
      aspect: 'value',
      data: { value, roles: traits },
    });
  return passed(stop);
}
