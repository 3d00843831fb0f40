/** WCAG 2.2, 2.4.6 and 1.3.1: readers jump by headings, so a long screen has some. */
import type { Check } from '../check.ts';
import { stopsByScreen, untested } from './stops.ts';

export const noHeading = {
  id: 'no-heading',
  area: 'accessibility',
  needs: ['capture', 'stop'],
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
} satisfies Check;
