/** Roles that contradict one another, and values on what has none to give (WCAG 2.2, 4.1.2). */

import { z } from 'zod';
import type { StopFact } from '../../../model/fact.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { conflictOf } from '../roles.ts';
import { departed, passed, reachedStops, untested } from '../stops.ts';

const conflictSchema = z.strictObject({
  roles: z.array(z.string()),
  keep: z.string(),
  why: z.enum(['link-leaves', 'switch-is-enough', 'field-is-enough', 'text-does-nothing']),
});
const valueSchema = z.strictObject({ roles: z.array(z.string()), value: z.string() });
const dataSchema = z.union([conflictSchema, valueSchema]);
type Data = z.infer<typeof dataSchema>;

export const roleConflict = defineCheck({
  id: 'role-conflict',
  area: 'accessibility',
  priority: 'harder',
  standard: 'WCAG 2.2, 4.1.2 Name, Role, Value',
  basis: 'measured',
  needs: 'capture',
  reads: ['stop'],
  data: dataSchema,
  words: (data) =>
    'keep' in data
      ? {
          what: `It is ${data.roles.join(' and ')} at once`,
          measured: data.roles.join(', '),
          required: 'one role that says what it does (WCAG 2.2, 4.1.2)',
          why: CONFLICT_WHY[data.why],
          remedy: `Keep ${data.keep}, take the other away.`,
        }
      : {
          what: 'A plain text has a value',
          measured: `the value ${quote(data.value)} on ${data.roles.join(', ') || 'no role'}`,
          required: 'values on controls that have one (WCAG 2.2, 4.1.2)',
          why: 'A value on a text means nothing: some readers say it, some do not.',
          remedy: 'Put it into the label, or give the element the role that its value belongs to.',
        },

  *run(facts) {
    for (const stop of reachedStops(facts)) yield judgeStop(stop);
  },

  doc: {
    looksAt: 'Traits, and values on plain text',
    against: 'One role each. Needs captures that carry traits',
    matters: '“Button, link” tells nobody what will happen on a tap.',
    measured: 'The traits of each element against pairs that exclude one another, and values on plain text.',
    errs: 'Only captures that carry traits can show it.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'Modifier.toggleable(value = isOn, role = Role.Switch, onValueChange = onChange)',
      },
      {
        where: 'iOS, SwiftUI',
        language: 'swift',
        code: 'Text(label).accessibilityRemoveTraits(.isButton).accessibilityAddTraits(.isLink)',
      },
    ],
  },
});

function judgeStop(stop: StopFact): Assertion<Data> {
  const { traits, value } = stop;
  if (!traits) return untested(stop, 'traits');
  const conflict = conflictOf(traits);
  if (conflict)
    return departed<Data>(stop, {
      basis: 'measured',
      severity: 2,
      digest: traits.join(' '),
      data: { roles: [...conflict.roles], keep: conflict.keep, why: conflict.why },
    });
  if (value && !stop.actionable && traits.every((trait) => trait === 'text' || trait === 'heading'))
    return departed<Data>(stop, {
      basis: 'measured',
      severity: 1,
      digest: `value on ${traits.join(' ') || 'nothing'}`,
      aspect: 'value',
      data: { value, roles: traits },
    });
  return passed(stop);
}

const CONFLICT_WHY: Record<z.infer<typeof conflictSchema>['why'], string> = {
  'link-leaves': 'A link tells that the app is left for a page; “button” adds nothing to that and hides it.',
  'switch-is-enough':
    'The more precise role says how it is used and what state it has; “button” adds nothing.',
  'field-is-enough': 'A field says that something can be typed; “button” says that it cannot.',
  'text-does-nothing': 'A plain text does nothing, so the role that does something is the true one.',
};
