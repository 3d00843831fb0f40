/** A message that a gateway refuses, or reads otherwise than it was meant. Sources stand with the rules in platform/push. */

import { z } from 'zod';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { cut } from '../../words.ts';
import { payloadsOf } from '../payloads-of.ts';

const dataSchema = z.strictObject({
  name: z.string(),
  at: z.string(),
  code: z.string(),
  found: z.string(),
  expected: z.string(),
  level: z.enum(['error', 'warning']),
});
type Data = z.infer<typeof dataSchema>;

export const payloadRules = defineCheck({
  id: 'payload-rules',
  area: 'push',
  priority: 'wrong',
  standard: 'Apple, Generating a remote notification; Firebase, FCM HTTP v1 API',
  basis: 'either',
  needs: 'package',
  reads: ['payload', 'push-setup'],
  data: dataSchema,
  words: ({ at, code, expected, found, level, name }) => ({
    what: `${name}: ${at || 'the message'} is ${level === 'error' ? 'refused' : 'read otherwise than it was meant'}`,
    measured: cut(found),
    required: expected,
    why: `${RULES[code] ?? 'The rules of the platform say otherwise.'}`,
    remedy: `Correct ${at || 'it'}; try it out with fenlok try payload ${name}.`,
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
    for (const one of payloadsOf(facts, intent)) {
      if ('missingEvidence' in one) {
        yield { outcome: 'untested', missingEvidence: one.missingEvidence };
        continue;
      }
      const { evidence, name, payload } = one;
      if (payload.problems.length === 0) yield { outcome: 'passed' };
      for (const { at, code, expected, found, level } of payload.problems)
        yield {
          outcome: level === 'error' ? 'failed' : 'cantTell',
          draft: {
            identity: { subject: name, aspect: `${code} ${at}`.trim() },
            target: { kind: 'payload', id: name },
            basis: level === 'error' ? 'measured' : 'estimated',
            severity: level === 'error' ? 2 : 1,
            digest: found,
            occurrence: { evidence, shown: at, data: { name, at, code, found, expected, level } },
          },
        };
    }
  },

  doc: {
    looksAt: "The team's messages: size, types, keys, headers",
    against: 'The rules of each platform. What is let through and read otherwise is estimated',
    matters: 'The gateway refuses the message, or leaves out what it does not know without a word.',
    measured: "Size, types, keys and headers of the team's messages.",
    errs: 'What is let through and read otherwise than it was meant is estimated.',
    fixes: [
      {
        where: 'A message for iOS',
        language: 'json',
        code: '{ "aps": { "alert": { "loc-key": "sailing_late", "loc-args": ["NO-17"] }, "sound": "default" } }',
      },
      {
        where: 'A message for Android',
        language: 'json',
        code: '{ "message": { "token": "…", "android": { "notification": { "body_loc_key": "sailing_late", "body_loc_args": ["NO-17"] } } } }',
      },
    ],
  },
});

const RULES: Record<string, string> = {
  'too-large': 'The gateway refuses what is larger, whatever is in it.',
  'wrong-type': 'A field of another type is refused, or left out without a word.',
  'unknown-key': 'A key that nobody knows is left out without a word.',
  'args-without-key': 'Arguments without a key are shown nowhere.',
  'reserved-key': 'The name is kept for the service itself.',
  'nothing-to-do': 'Neither is anything shown nor the app woken.',
  target: 'The service must know whom it is for.',
};
