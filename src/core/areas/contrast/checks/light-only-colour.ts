/**
 * Colours of an app with a dark theme that are the same by day and by night. Some are meant to be; the others are what remains
 * of the light theme (Android developers, *Implement dark theme*; Apple, *Human Interface Guidelines*, Dark Mode).
 */

import { z } from 'zod';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({
  colours: z.array(z.string()),
  of: z.number(),
  platform: z.enum(['android', 'ios']),
});
type Data = z.infer<typeof dataSchema>;

export const lightOnlyColour = defineCheck({
  id: 'light-only-colour',
  area: 'contrast',
  priority: 'harder',
  standard: 'Android developers, Implement dark theme; Human Interface Guidelines, Dark Mode',
  basis: 'estimated',
  needs: 'package',
  reads: ['named-colour'],
  data: dataSchema,
  words: ({ colours, of, platform }) => {
    const same = colours;
    return {
      what: `${same.length} of ${of} colours ${platform === 'ios' ? 'with a name' : 'of the themes'} are the same in the dark theme`,
      measured: same.slice(0, 6).join(', ') + (same.length > 6 ? ` and ${same.length - 6} more` : ''),
      required: 'a dark value for each colour that was chosen for a light theme',
      why: 'Those that were made for light backgrounds remain light, or vanish, in the dark.',
      remedy:
        platform === 'ios'
          ? 'Give them a dark appearance in the asset catalogue; mark it as a false alarm where they fit both.'
          : 'Give them a value under res/values-night; mark it as a false alarm where they fit both.',
    };
  },

  *run(facts): Iterable<Assertion<Data>> {
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

  doc: {
    looksAt: 'Colours that themes use by day and by night, on iOS those of asset catalogues',
    against: 'A dark value, where others have one. Always estimated',
    matters: 'Colours that were made for a light theme stay light in the dark, or vanish there.',
    measured:
      'The colours that themes use by day and by night; on iOS the named colours of asset catalogues.',
    errs: 'A colour may fit both themes; always estimated.',
    fixes: [
      {
        where: 'res/values-night/colors.xml',
        language: 'xml',
        code: '<color name="surface">#10171C</color>',
      },
      {
        where: 'iOS, asset catalogue',
        language: 'text',
        code: 'Attributes inspector: Appearances: Any, Dark',
      },
    ],
  },
});
