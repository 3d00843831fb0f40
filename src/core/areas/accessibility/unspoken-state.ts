/**
 * State that is shown by looks alone (WCAG 2.2, 4.1.2 and 1.3.1): something that is on or off, or one of several, and does
 * not say which.
 */
import type { StopFact } from '../../model/fact.ts';
import type { Assertion, Check } from '../check.ts';
import { departed, passed, stopsByScreen } from './stops.ts';

export const unspokenState = {
  id: 'unspoken-state',
  area: 'accessibility',
  needs: ['capture', 'stop', 'text-contrast'],
  *run(facts) {
    const inks = new Map<string, { x: number; y: number; ink: string }[]>();
    for (const fact of [...facts.of('text-contrast'), ...facts.of('icon-contrast')])
      if (!fact.unseen) {
        const { x, y } = fact.element.boundsPx;
        inks.set(fact.evidence, [...(inks.get(fact.evidence) ?? []), { x, y, ink: fact.foreground }]);
      }
    for (const stops of stopsByScreen(facts)) {
      yield* stops.filter(({ roles }) => roles.some((role) => STATEFUL.has(role))).map(judgeStop);
      for (const group of alikeGroups(stops)) yield* judgeGroup(group, inks.get(group[0]!.evidence) ?? []);
    }
  },
} satisfies Check;

const STATEFUL = new Set(['switch', 'checkbox', 'radio']);

const judgeStop = (stop: StopFact): Assertion =>
  stop.hasState
    ? passed(stop)
    : departed(stop, {
        basis: 'measured',
        severity: 2,
        digest: `no state, ${stop.roles.join(' ')}`,
        data: { role: stop.roles[0]! },
      });

/** Three and more beside one another, of one class and one size: a bar of tabs, a choice. */
function alikeGroups(stops: readonly StopFact[]): StopFact[][] {
  const groups = new Map<string, StopFact[]>();
  for (const stop of stops) {
    if (!stop.actionable || !stop.enabled || stop.isField) continue;
    const { boundsPx, className } = stop.element;
    const key = [className, boundsPx.y, boundsPx.height, Math.round(boundsPx.width / 8)].join('|');
    groups.set(key, [...(groups.get(key) ?? []), stop]);
  }
  return [...groups.values()].filter((group) => group.length >= 3);
}

/** One of them drawn in another colour than all the rest, and none that says that it is the one. */
function* judgeGroup(
  group: readonly StopFact[],
  inks: readonly { x: number; y: number; ink: string }[],
): Iterable<Assertion> {
  const colours = group.map(({ element: { boundsPx: b } }) =>
    inks
      .filter(({ x, y }) => x >= b.x && x < b.x + b.width && y >= b.y && y < b.y + b.height)
      .map(({ ink }) => ink)
      .sort()
      .join(' '),
  );
  const odd = group.filter((_, i) => colours.filter((other) => other === colours[i]).length === 1);
  const isOneOfMany = odd.length === 1 && new Set(colours).size === 2;
  if (!isOneOfMany) return;
  const one = odd[0]!;
  const tells = group.some(({ states }) => states.length > 0);
  if (tells) yield passed(one);
  else
    yield departed(one, {
      basis: 'estimated',
      severity: 1,
      digest: `looks alone among ${group.length}`,
      aspect: 'looks',
      data: { role: one.roles[0] ?? '', count: group.length },
    });
}
