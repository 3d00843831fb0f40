/** WCAG 2.2, 1.4.11 Non-text Contrast: what shows where an empty field is stands out at 3 to 1. */

import { z } from 'zod';
import { type Assertion, defineCheck, elementDraft } from '../../check.ts';
import { quote } from '../../words.ts';
import { roundColour } from '../round-colour.ts';
import { ratio } from '../words.ts';

const dataSchema = z.strictObject({
  ratio: z.number(),
  required: z.number(),
  shownBy: z.enum(['fill', 'line']),
  colour: z.string(),
  around: z.string(),
  theme: z.enum(['light', 'dark']),
});
type Data = z.infer<typeof dataSchema>;

export const fieldBorder = defineCheck({
  id: 'field-border',
  area: 'contrast',
  priority: 'harder',
  standard: 'WCAG 2.2, 1.4.11 Non-text Contrast',
  basis: 'estimated',
  needs: 'capture',
  reads: ['field-edge'],
  limits: ['iconContrast'],
  data: dataSchema,
  words: ({ around, colour, ratio: seen, required, shownBy, theme }, { identity, occurrences }) => ({
    what: `Where the field ${quote(occurrences[0]!.shown || identity.subject)} is can hardly be seen in the ${theme} theme`,
    measured: `${ratio(seen)} : 1, its ${shownBy} ${colour} on ${around}`,
    required: `${required} : 1 (WCAG 2.2, 1.4.11)`,
    why: 'Nothing is written in it, so that only its fill or its line shows that there is something to fill in.',
    remedy: 'Give its line a stronger colour, or write a hint in it.',
  }),

  *run(facts, { limits: { iconContrast: required } }): Iterable<Assertion<Data>> {
    for (const field of facts.of('field-edge')) {
      const { around, cell, colour, cutBy, enabled, isWritten, ratio: seen, shownBy } = field;
      if (!enabled || cutBy) yield { outcome: 'inapplicable', cell };
      else if (seen >= required) yield { outcome: 'passed', cell };
      else if (isWritten) yield { outcome: 'inapplicable', cell };
      else
        yield {
          outcome: 'cantTell',
          cell,
          draft: elementDraft<Data>(field, {
            basis: 'estimated',
            severity: required - seen,
            digest: `${roundColour(colour)} on ${roundColour(around)}`,
            aspect: cell.theme,
            data: { ratio: seen, required, shownBy, colour, around, theme: cell.theme },
          }),
        };
    }
  },

  doc: {
    looksAt: 'Fields in which nothing is written, no hint either: their fill, and lines along their sides',
    against: '3 to 1 (`limits.iconContrast`) with what surrounds them',
    matters: 'Who does not make out the field does not know that something is to be filled in.',
    measured:
      'The colour of most points around the field, of most points in it, and of rows that run along four fifths of its width; the one that stands out most counts.',
    errs: 'Something beside the field, such as an icon, may show it as well: a person rules on it. On photos and gradients nothing is said.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'OutlinedTextField(value, onChange, colors = OutlinedTextFieldDefaults.colors(unfocusedBorderColor = Color(0xFF5B6770)))',
      },
      {
        where: 'iOS, SwiftUI',
        language: 'swift',
        code: 'TextField("", text: $note).overlay(RoundedRectangle(cornerRadius: 8).stroke(.secondary))',
      },
    ],
  },
});
