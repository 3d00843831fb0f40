/**
 * Of a bundle, a device gets the languages of its settings alone. Where the app offers a language of its own choice, the others
 * must be fetched or delivered at once (Android developers, *Configure the base module*, "Language resources"). Whether code
 * fetches them, the package does not say.
 */

import { z } from 'zod';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({ locales: z.array(z.string()) });
type Data = z.infer<typeof dataSchema>;

export const languageSplit = defineCheck({
  id: 'language-split',
  area: 'localization',
  priority: 'harder',
  standard:
    'Android developers, Configure the base module, “Re-enable or disable types of configuration APKs”',
  basis: 'estimated',
  needs: 'package',
  reads: ['manifest'],
  data: dataSchema,
  words: ({ locales }) => ({
    what: 'The store delivers the languages of the device alone, and the app offers others',
    measured: `the bundle is split by language, and the locale configuration offers ${locales.join(', ')}`,
    required: 'all languages at once, or code that fetches the one that is chosen',
    why: 'Who chooses a language inside the app may get the source language instead: its texts are not on the device.',
    remedy:
      'Set bundle { language { enableSplit = false } } in the build, or fetch the language with SplitInstallManager; if the app does so, mark this as a false alarm.',
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
    const [app] = facts.of('package');
    for (const { evidence, splitsByLanguage } of facts.of('manifest')) {
      const offersChoice = (app?.declaredLocales?.length ?? 0) > 1;
      if (splitsByLanguage === undefined || intent.locales.length < 2) yield { outcome: 'inapplicable' };
      else if (!splitsByLanguage || !offersChoice) yield { outcome: 'passed' };
      else
        yield {
          outcome: 'cantTell',
          draft: {
            identity: { subject: 'BundleConfig.pb' },
            basis: 'estimated',
            severity: 1,
            digest: 'split',
            occurrence: {
              evidence,
              shown: 'BundleConfig.pb',
              data: { locales: app?.declaredLocales ?? [] },
            },
          },
        };
    }
  },

  doc: {
    looksAt:
      'Of a bundle: whether the store cuts it up by language, where the app offers a choice of language',
    against: 'It does not. Always estimated',
    matters:
      'Who chooses a language inside the app gets the source language, because its texts are not on the device.',
    measured: 'Whether the bundle is split by language, and whether the app offers a choice of language.',
    errs: 'Code may fetch the language when it is chosen; always estimated.',
    fixes: [
      {
        where: 'build.gradle.kts',
        language: 'kotlin',
        code: 'android { bundle { language { enableSplit = false } } }',
      },
    ],
  },
});
