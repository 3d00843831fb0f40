/** WCAG 2.2, 3.3.2: a field has a label that stays; its placeholder goes when something is typed. */

import { z } from 'zod';
import type { StopFact } from '../../../model/fact.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { departed, passed, reachedStops, withoutLabels } from '../stops.ts';

const dataSchema = z.strictObject({
  from: z.enum(['text', 'gathered', 'hint']),
  name: z.string(),
  platform: z.enum(['android', 'ios']),
});

export const fieldLabel = defineCheck({
  id: 'field-label',
  area: 'accessibility',
  priority: 'harder',
  standard: 'WCAG 2.2, 3.3.2 Labels or Instructions',
  basis: 'measured',
  needs: 'capture',
  reads: ['stop'],
  data: dataSchema,
  words: ({ from, name, platform }, { identity }) => ({
    what: `The field ${identity.subject} has no label that stays`,
    measured: from === 'hint' ? `only the placeholder ${quote(name)}` : 'only what was typed into it',
    required: 'a label (WCAG 2.2, 3.3.2)',
    why: 'As soon as something is typed, nothing tells what the field is for.',
    remedy: `Put a text beside it and tie both together: ${platform === 'ios' ? 'accessibilityLabel' : 'android:labelFor'}.`,
  }),

  *run(facts) {
    const unknown: StopFact[] = [];
    for (const stop of reachedStops(facts)) {
      // without any name it is found as a control without one
      if (!stop.isField || stop.nameFrom === 'none') continue;
      if (stop.nameFrom === 'label' || stop.nameFrom === 'label-for') yield passed(stop);
      else if (!stop.knowsLabels) unknown.push(stop);
      else
        yield departed(stop, {
          basis: 'measured',
          severity: 1,
          digest: stop.nameFrom,
          data: { from: stop.nameFrom, name: stop.name, platform: stop.platform },
        });
    }
    yield* withoutLabels(unknown);
  },

  doc: {
    looksAt: 'Input fields',
    against:
      'WCAG 2.2, 3.3.2: a label that stays. Needs captures that carry label-for, unless the field has a label of its own',
    matters:
      'As soon as something is typed, a placeholder is gone. People who are interrupted, and everybody who listens, no longer know what the field is for.',
    measured:
      "Where the field's name comes from, its own label, a text that is tied to it, its hint, or only what was typed.",
    errs: 'The dump of the operating system does not say which text labels a field; there the check stays undecided and says so.',
    fixes: [
      {
        where: 'Android, layout',
        language: 'xml',
        code: `<TextView android:id="@+id/name_label" android:labelFor="@id/name" android:text="@string/name" />
<EditText android:id="@+id/name" android:hint="@string/name_example" />`,
      },
      {
        where: 'iOS, UIKit',
        language: 'swift',
        code: 'nameField.accessibilityLabel = NSLocalizedString("name", comment: "")',
      },
    ],
  },
});
