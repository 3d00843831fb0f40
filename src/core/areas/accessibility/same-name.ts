/** Stops of one screen that share a name and are not the same thing: neither ear nor voice can tell them apart. */
import type { StopFact } from '../../model/fact.ts';
import type { Assertion, Check } from '../check.ts';
import { spokenForm } from './spoken-form.ts';
import { departed, passed, stopsByScreen } from './stops.ts';

export const sameName = {
  id: 'same-name',
  area: 'accessibility',
  needs: ['capture', 'stop'],
  *run(facts) {
    for (const stops of stopsByScreen(facts)) {
      const byName = new Map<string, StopFact[]>();
      for (const stop of stops) {
        const name = spokenForm(stop.name);
        if (stop.actionable && stop.enabled && name) byName.set(name, [...(byName.get(name) ?? []), stop]);
      }
      for (const alike of byName.values()) yield judgeAlike(alike);
    }
  },
} satisfies Check;

function judgeAlike(alike: readonly StopFact[]): Assertion {
  const first = alike[0]!;
  if (alike.length === 1) return passed(first);
  const keys = [...new Set(alike.map(({ element }) => element.key))].sort();
  // what they do cannot be seen; rows of a list surely differ, two buttons may lead to one place
  return departed(first, {
    basis: 'estimated',
    severity: alike.length,
    digest: `${keys.join(', ')}: ${keys.length === 1 ? 'rows' : 'elements'}`,
    data: { name: first.name, count: alike.length, elements: keys, areRows: keys.length === 1 },
  });
}
