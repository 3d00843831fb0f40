/** Stops of one screen that share a name and are not the same thing: neither ear nor voice can tell them apart. */

import { z } from 'zod';
import type { StopFact } from '../../../model/fact.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { spokenForm } from '../spoken-form.ts';
import { departed, passed, stopsByScreen } from '../stops.ts';

const dataSchema = z.strictObject({
  name: z.string(),
  count: z.number(),
  elements: z.array(z.string()),
  areRows: z.boolean(),
});
type Data = z.infer<typeof dataSchema>;

export const sameName = defineCheck({
  id: 'same-name',
  area: 'accessibility',
  priority: 'harder',
  standard: 'WCAG 2.2, 2.4.6 Headings and Labels',
  basis: 'estimated',
  needs: 'capture',
  reads: ['stop'],
  data: dataSchema,
  words: ({ areRows, count, elements, name }) => ({
    what: `${quote(name)} is the name of ${count} different controls`,
    measured: areRows ? `${count} rows with the same name` : elements.join(', '),
    required: 'a name of its own for each thing that does something else (WCAG 2.2, 2.4.6)',
    why: 'By ear they cannot be told apart, and voice control has to ask which one is meant.',
    remedy: areRows
      ? 'Add what the row is about: “Remove, morning crossing”. If they all do the same, mark it as a false alarm.'
      : 'Name each by what it does. If they do the same, mark it as a false alarm.',
  }),

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

  doc: {
    looksAt: 'The names of what can be acted on, screen by screen',
    against: 'One another. Always estimated, since what they do cannot be seen',
    matters:
      'By ear, five buttons called “Remove” are the same button. Voice control has to ask which one is meant.',
    measured: 'The names of all elements of a screen that can be acted on.',
    errs: 'Whether they do the same thing cannot be seen, so it is always estimated.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'Modifier.semantics { contentDescription = context.getString(R.string.remove_named, ticket.name) }',
      },
      {
        where: 'iOS, SwiftUI',
        language: 'swift',
        code: 'removeButton.accessibilityLabel("Remove, \\(ticket.name)")',
      },
    ],
  },
});

function judgeAlike(alike: readonly StopFact[]): Assertion<Data> {
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
