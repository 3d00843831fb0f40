/** A screen of the dark theme with a light panel on it: what was forgotten blinds, at night of all times. */

import { z } from 'zod';
import { type Assertion, defineCheck, elementDraft } from '../../check.ts';
import { roundColour } from '../round-colour.ts';

const dataSchema = z.strictObject({
  colour: z.string(),
  luminance: z.number(),
  sharePercent: z.number(),
});
type Data = z.infer<typeof dataSchema>;

export const lightRemnant = defineCheck({
  id: 'light-remnant',
  area: 'contrast',
  priority: 'harder',
  standard: 'Android developers, Implement dark theme; Human Interface Guidelines, Dark Mode',
  basis: 'estimated',
  needs: 'capture',
  reads: ['light-area'],
  data: dataSchema,
  words: ({ colour, luminance, sharePercent }, { identity }) => ({
    what: `${identity.subject} stays light in the dark theme`,
    measured: `${colour} over ${Math.round(sharePercent)} % of the screen, luminance ${luminance.toFixed(2)}`,
    required: 'no light panel on a dark screen',
    why: 'It blinds at night, and what stands on it was made for the other theme.',
    remedy:
      'Take its colour from the theme, or give it one under values-night or a dark appearance. If it is meant to be light, mark this as a false alarm.',
  }),

  *run(facts): Iterable<Assertion<Data>> {
    const areas = facts.of('light-area');
    const lit = new Set(areas.map(({ evidence }) => evidence));
    for (const { cell, evidence } of facts.of('capture'))
      if (cell.theme === 'dark' && !lit.has(evidence)) yield { outcome: 'passed', cell };
    if (!facts.of('capture').some(({ cell }) => cell.theme === 'dark'))
      yield { outcome: 'untested', because: 'no screen was captured in the dark theme' };
    for (const area of areas)
      yield {
        outcome: 'cantTell',
        cell: area.cell,
        draft: elementDraft<Data>(area, {
          basis: 'estimated',
          severity: area.share,
          digest: roundColour(area.colour),
          data: { colour: area.colour, luminance: area.luminance, sharePercent: area.share * 100 },
        }),
      };
  },

  doc: {
    looksAt: 'Captures of the dark theme: areas of one colour, of 3 % of the screen or more',
    against: 'Relative luminance below 0.4 (WCAG 2.2)',
    matters: 'One light panel undoes a dark theme for eyes that need it.',
    measured:
      'The colour of most points of each element, without what it holds. Pictures, what is inside of them, and buttons of up to 96 dp in height are left out.',
    errs: 'Some panels are meant to be light: paper, a code to be scanned. A person rules on it.',
    fixes: [
      {
        where: 'values-night/colors.xml',
        language: 'xml',
        code: '<color name="card">#1B2733</color>',
      },
      {
        where: 'iOS, SwiftUI',
        language: 'swift',
        code: 'panel.background(Color(.secondarySystemBackground))',
      },
    ],
  },
});
