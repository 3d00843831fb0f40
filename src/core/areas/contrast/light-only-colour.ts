/**
 * Colours of an app with a dark theme that are the same by day and by night. Some are meant to be; the others are what remains
 * of the light theme (Android developers, *Implement dark theme*; Apple, *Human Interface Guidelines*, Dark Mode).
 */
import type { Assertion, Check } from '../check.ts';

export const lightOnlyColour = {
  id: 'light-only-colour',
  area: 'contrast',
  needs: ['package', 'named-colour'],
  *run(facts): Iterable<Assertion> {
    const colours = facts.of('named-colour');
    const same = colours.filter(({ dark }) => dark === undefined);
    const [first] = same;
    // nothing has a value of its own by night: there is no dark theme to look at
    if (same.length === colours.length) yield { outcome: 'inapplicable' };
    else if (!first) yield { outcome: 'passed', count: colours.length };
    else
      yield {
        outcome: 'cantTell',
        draft: {
          identity: { subject: 'dark theme' },
          basis: 'estimated',
          severity: same.length,
          digest: same.map(({ light, name }) => `${name} ${light}`).join(' '),
          occurrence: {
            evidence: first.evidence,
            shown: first.name,
            data: {
              colours: same.map(({ light, name }) => `${name} ${light}`),
              of: colours.length,
              platform: first.platform,
            },
          },
        },
      };
  },
} satisfies Check;
