import { z } from 'zod';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';

const dataSchema = z.strictObject({ environment: z.string() });
type Data = z.infer<typeof dataSchema>;

/** A release that is signed for the development push environment gets tokens that the production gateway refuses. */
export const pushEnvironment = defineCheck({
  id: 'push-environment',
  area: 'push',
  priority: 'cannot-use',
  standard: 'Apple, APS Environment Entitlement',
  basis: 'measured',
  needs: 'package',
  reads: ['entitlement'],
  data: dataSchema,
  words: ({ environment }) => ({
    what: 'The app is signed for the development push environment',
    measured: `aps-environment ${quote(environment)}`,
    required: '“production”',
    why: 'Its tokens are good for the development gateway only: the production gateway refuses them, and nobody gets a message.',
    remedy: 'Export the archive for distribution, with a profile whose aps-environment is production.',
  }),

  *run(facts): Iterable<Assertion<Data>> {
    for (const { evidence, key, signed } of facts.of('entitlement')) {
      if (key !== 'aps-environment' || signed === undefined) continue;
      if (signed === 'production') yield { outcome: 'passed' };
      else
        yield {
          outcome: 'failed',
          draft: {
            identity: { subject: key },
            basis: 'measured',
            severity: 1,
            digest: String(signed),
            occurrence: { evidence, shown: key, data: { environment: String(signed) } },
          },
        };
    }
  },

  doc: {
    looksAt: 'The signed `aps-environment`',
    against: '`production`',
    matters: 'The production gateway refuses every token, and nobody gets a message.',
    measured: 'The aps-environment that the executable is signed for.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'Kelpline.entitlements',
        language: 'xml',
        code: '<key>aps-environment</key><string>production</string>',
      },
    ],
  },
});
