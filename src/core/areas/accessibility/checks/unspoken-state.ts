/**
 * State that is shown by looks alone (WCAG 2.2, 4.1.2 and 1.3.1): something that is on or off, or one of several, and does
 * not say which.
 */

import { z } from 'zod';
import type { StopFact } from '../../../model/fact.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { departed, passed, stopsByScreen } from '../stops.ts';

/** `count`: of how many alike it is one. */
const dataSchema = z.union([z.strictObject({ role: z.string() }), z.strictObject({ count: z.number() })]);
type Data = z.infer<typeof dataSchema>;

export const unspokenState = defineCheck({
  id: 'unspoken-state',
  area: 'accessibility',
  priority: 'harder',
  standard: 'WCAG 2.2, 4.1.2 Name, Role, Value, and 1.3.1 Info and Relationships',
  basis: 'either',
  needs: 'capture',
  reads: ['stop', 'text-contrast', 'icon-contrast'],
  data: dataSchema,
  words: (data, { identity, occurrences }) => ({
    ...('role' in data
      ? {
          what: `The ${data.role} ${identity.subject} does not say whether it is on`,
          measured: 'neither checked nor a value',
          remedy: 'Set the state that the platform offers: checked on Android, accessibilityValue on iOS.',
        }
      : {
          what: `${quote(occurrences[0]!.shown || identity.subject)} perhaps shows by its colour alone that it is the chosen one`,
          measured: `drawn otherwise than the other ${data.count - 1}, and none of them says “selected”`,
          remedy:
            'Mark the chosen one as selected. If the colour means something else, mark it as a false alarm.',
        }),
    required: 'a state that is told, not only shown (WCAG 2.2, 4.1.2)',
    why: 'By ear all of them are the same.',
  }),

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

  doc: {
    looksAt: 'Switches, checkboxes, choices; and one of several alike that is drawn otherwise',
    against: 'WCAG 2.2, 4.1.2: a state that is told. Estimated where it is only drawn otherwise',
    matters: 'By ear all of them are the same, and nobody can tell which one is on.',
    measured:
      'The state that switches, checkboxes and choices tell; and, of several alike, one that is drawn in other colours.',
    errs: 'Where it is only drawn otherwise, the colour may mean something else, so that it is estimated.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'Modifier.selectable(selected = isChosen, role = Role.RadioButton, onClick = onChoose)',
      },
      {
        where: 'iOS, SwiftUI',
        language: 'swift',
        code: 'row.accessibilityAddTraits(isChosen ? .isSelected : [])',
      },
    ],
  },
});

const STATEFUL = new Set(['switch', 'checkbox', 'radio']);

const judgeStop = (stop: StopFact): Assertion<Data> =>
  stop.hasState
    ? passed(stop)
    : departed<Data>(stop, {
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
): Iterable<Assertion<Data>> {
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
    yield departed<Data>(one, {
      basis: 'estimated',
      severity: 1,
      digest: `looks alone among ${group.length}`,
      aspect: 'looks',
      data: { count: group.length },
    });
}
