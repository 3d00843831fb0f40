/** The package says whether it encrypts beyond what is exempt, so that no upload waits for an answer (Apple, *Complying with encryption export regulations*). */

import { z } from 'zod';
import { type Assertion, defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({ key: z.string(), found: z.string() });
type Data = z.infer<typeof dataSchema>;

const KEY = 'ITSAppUsesNonExemptEncryption';

export const exportKey = defineCheck({
  id: 'export-key',
  area: 'quality',
  priority: 'harder',
  standard: 'Apple, Complying with Encryption Export Regulations',
  basis: 'measured',
  needs: 'package',
  reads: ['export-key'],
  data: dataSchema,
  words: ({ found, key }) => ({
    what: `Info.plist does not say whether the app encrypts: ${key}`,
    measured: found,
    required: 'true or false',
    why: 'Each upload waits in the store until a person has answered it there, also the one that fixes a crash.',
    remedy: `Add ${key}: false where the app only uses TLS and what the system brings.`,
  }),

  *run(facts): Iterable<Assertion<Data>> {
    for (const { evidence, value } of facts.of('export-key')) {
      if (typeof value === 'boolean') {
        yield { outcome: 'passed' };
        continue;
      }
      const found = value === undefined ? 'no such key' : `“${value}”, which is neither true nor false`;
      yield {
        outcome: 'failed',
        draft: {
          identity: { subject: KEY },
          basis: 'measured',
          severity: 1,
          digest: found,
          occurrence: { evidence, shown: KEY, data: { key: KEY, found } },
        },
      };
    }
  },

  doc: {
    looksAt: '`ITSAppUsesNonExemptEncryption` of Info.plist',
    against: 'true or false',
    matters: 'Without it each upload waits for a person.',
    measured: 'The property list of the app itself.',
    errs: 'Whether the answer is right nobody can tell from the package.',
    fixes: [
      { where: 'Info.plist', language: 'xml', code: '<key>ITSAppUsesNonExemptEncryption</key><false/>' },
    ],
  },
});
