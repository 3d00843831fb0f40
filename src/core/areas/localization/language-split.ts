/**
 * Of a bundle, a device gets the languages of its settings alone. Where the app offers a language of its own choice, the others
 * must be fetched or delivered at once (Android developers, *Configure the base module*, "Language resources"). Whether code
 * fetches them, the package does not say.
 */
import type { Assertion, Check } from '../check.ts';

export const languageSplit = {
  id: 'language-split',
  area: 'localization',
  needs: ['package', 'manifest'],
  *run(facts, intent): Iterable<Assertion> {
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
} satisfies Check;
