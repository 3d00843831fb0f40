/** WCAG 2.2, 2.4.6 and 1.3.1: readers jump by headings, so a long screen has some. */

import { z } from 'zod';
import { defineCheck } from '../../check.ts';
import { stopsByScreen, untested } from '../stops.ts';

const dataSchema = z.strictObject({ stops: z.number(), from: z.number() });

export const noHeading = defineCheck({
  id: 'no-heading',
  area: 'accessibility',
  priority: 'harder',
  standard: 'WCAG 2.2, 2.4.6 Headings and Labels, and 1.3.1 Info and Relationships',
  basis: 'measured',
  needs: 'capture',
  reads: ['stop'],
  limits: ['longScreenStops'],
  data: dataSchema,
  words: ({ from, stops }) => ({
    what: 'A long screen without a heading',
    measured: `${stops} stops, no heading among them`,
    required: `a heading on screens of ${from} stops and more (WCAG 2.2, 2.4.6)`,
    why: 'Readers jump from heading to heading; here they must walk through everything.',
    remedy: 'Mark the titles of its parts as headings. The limit is limits.longScreenStops.',
  }),

  *run(facts, intent) {
    for (const stops of stopsByScreen(facts)) {
      const first = stops[0]!;
      const { cell, evidence } = first;
      if (stops.length < intent.limits.longScreenStops) yield { outcome: 'inapplicable', cell };
      else if (first.heading === undefined) yield untested(first, 'headings');
      else if (stops.some(({ heading }) => heading)) yield { outcome: 'passed', cell };
      else
        yield {
          outcome: 'failed',
          cell,
          draft: {
            identity: { screen: cell.screen, subject: 'screen' },
            basis: 'measured',
            severity: stops.length,
            digest: 'no heading',
            occurrence: {
              evidence,
              cell,
              shown: '',
              data: { stops: stops.length, from: intent.limits.longScreenStops },
            },
          },
        };
    }
  },

  doc: {
    looksAt: 'Screens of 15 stops and more (`limits.longScreenStops`)',
    against: 'WCAG 2.2, 2.4.6: a heading. Needs captures that carry headings',
    matters:
      'Screen reader users jump from heading to heading. Without any they walk through every element of a long screen.',
    measured: 'The number of stops of a screen, and whether one of them is a heading.',
    errs: 'Only captures that carry headings can show it.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'Text(title, Modifier.semantics { heading() })',
      },
      { where: 'iOS, SwiftUI', language: 'swift', code: 'Text(title).accessibilityAddTraits(.isHeader)' },
    ],
  },
});
