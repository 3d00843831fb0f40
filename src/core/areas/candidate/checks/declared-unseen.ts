/** What the team says the app has was seen in this candidate: a name that nobody met may be misspelt, or gone. */

import { z } from 'zod';
import { nearest } from '../../../platform/text/nearest.ts';
import { type Assertion, defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { declaredAndSeen, kindsOfEvidence, nothingLookedAt } from '../declared-and-seen.ts';

const dataSchema = z.strictObject({
  sort: z.string(),
  name: z.string(),
  field: z.string(),
  source: z.string(),
  seen: z.array(z.string()),
  /** What was seen and nobody declared, where its name is near. */
  near: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const declaredUnseen = defineCheck({
  id: 'declared-unseen',
  area: 'candidate',
  priority: 'harder',
  standard: 'Our own: the intent file against the evidence',
  basis: 'estimated',
  needs: 'package',
  reads: kindsOfEvidence,
  data: dataSchema,
  words: ({ field, name, near, seen, sort, source }) => ({
    what: `fenlok.yaml declares the ${sort} ${quote(name)}, and nothing shows it`,
    measured: `seen: ${seen.slice(0, 8).join(', ')}${seen.length > 8 ? ` and ${seen.length - 8} more` : ''}`,
    required: `everything of ${field} seen in this candidate`,
    why: 'It was not looked at, its name is misspelt, or the candidate no longer has it.',
    remedy: near
      ? `Did you mean ${quote(near)}? Write that under ${field}.`
      : `Look at it (${source}), or take it out of ${field}.`,
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
    for (const { declared, field, seen, sort, source } of declaredAndSeen(facts, intent)) {
      if (declared.length === 0) yield { outcome: 'inapplicable' };
      else if (seen.size === 0) yield { outcome: 'untested', because: nothingLookedAt(field, source) };
      else {
        const strangers = [...seen.keys()].filter((name) => !declared.includes(name));
        for (const name of declared)
          if (seen.has(name)) yield { outcome: 'passed' };
          else
            yield {
              outcome: 'cantTell',
              draft: {
                identity: { subject: `${sort} ${name}` },
                basis: 'estimated',
                severity: 1,
                digest: 'not seen',
                occurrence: {
                  evidence: [...seen.values()][0]!,
                  shown: name,
                  data: {
                    sort,
                    name,
                    field,
                    source,
                    seen: [...seen.keys()].sort(),
                    near: nearest(name, strangers) ?? '',
                  },
                },
              },
            };
      }
    }
  },

  doc: {
    looksAt:
      'Screens, languages, routes, ad placements and notification channels of `fenlok.yaml`, beside captures and the drills `links`, `ads` and `push`',
    against: 'Each is seen at least once',
    matters: 'What is declared and was never met is what everybody believes to be tried.',
    measured: 'The names in the evidence, against the names in the intent file.',
    errs: 'It may only not have been looked at this time; that is why a person decides. Of products `product-ids` tells.',
    fixes: [
      {
        where: 'fenlok.yaml',
        language: 'yaml',
        code: 'screens:\n  - { id: booking, activity: BookingActivity, reach: [{ tap: sailing_row }, { tap: book }] }',
      },
    ],
  },
});
