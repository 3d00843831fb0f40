/** WCAG 2.2, 2.5.3 Label in Name: what is written on a control is part of its name, so that it can be said. */

import { z } from 'zod';
import type { StopFact } from '../../../model/fact.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { spokenForm } from '../spoken-form.ts';
import { departed, passed, reachedStops } from '../stops.ts';

const dataSchema = z.strictObject({
  name: z.string(),
  missing: z.array(z.string()),
  written: z.array(z.string()),
});
type Data = z.infer<typeof dataSchema>;

export const labelInName = defineCheck({
  id: 'label-in-name',
  area: 'accessibility',
  priority: 'harder',
  standard: 'WCAG 2.2, 2.5.3 Label in Name',
  basis: 'either',
  needs: 'capture',
  reads: ['stop'],
  data: dataSchema,
  words: ({ missing, name, written }, { basis }) => ({
    what: `What is written on ${quote(name)} is ${basis === 'measured' ? '' : 'in part '}not in its name`,
    measured: `written ${written.map(quote).join(', ')}; not in the name: ${missing.map(quote).join(', ')}`,
    required: 'the name contains what is written (WCAG 2.2, 2.5.3)',
    why: 'Who speaks to the phone says what is written there, and nothing happens.',
    remedy: 'Begin the name with the text as it is written, and add what a screen reader needs.',
  }),

  *run(facts) {
    for (const stop of reachedStops(facts))
      if (stop.actionable && stop.nameFrom === 'label' && stop.drawn.some(isSpeakable)) yield judgeStop(stop);
  },

  doc: {
    looksAt: 'Labels of controls that show text',
    against: 'WCAG 2.2, 2.5.3: the text is in the name. Estimated where a part of it is',
    matters: 'Who controls the phone by voice says what is written on the control, and nothing happens.',
    measured:
      'The words that are drawn inside the control are looked for in its name, without case and punctuation.',
    errs: 'Of several texts in one control, one is the label and the others tell more; where only a part is missing it is estimated.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: `// drawn: "Book"
Modifier.semantics { contentDescription = "Book, morning crossing" }`,
      },
      {
        where: 'iOS, SwiftUI',
        language: 'swift',
        code: 'Button("Book") { book() }.accessibilityLabel("Book, morning crossing")',
      },
    ],
  },
});

/** Symbols and single letters are no label that anyone would say. */
const isSpeakable = (text: string): boolean => spokenForm(text).length > 1;

function judgeStop(stop: StopFact): Assertion<Data> {
  // a value that is spoken as such is no label
  const said = [stop.name, ...stop.states].map((part) => ` ${spokenForm(part)} `);
  const drawn = stop.drawn.filter(isSpeakable);
  const missing = drawn.filter((text) => !said.some((part) => part.includes(` ${spokenForm(text)} `)));
  if (missing.length === 0) return passed(stop);
  // of several texts one is the label and the others tell more; which, is for a person to say
  const basis = missing.length === drawn.length ? 'measured' : 'estimated';
  return departed(stop, {
    basis,
    severity: missing.length / drawn.length,
    digest: `${stop.name} | ${missing.join(' | ')}`,
    cause: 'written otherwise',
    data: { name: stop.name, missing, written: drawn },
  });
}
