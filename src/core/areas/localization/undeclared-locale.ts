/**
 * The languages that the package says it has (Android developers, *Per-app language preferences*: the locale
 * configuration; Apple: CFBundleLocalizations), those that it holds texts of, and those that are intended.
 */
import type { Assertion, Check } from '../check.ts';

export const undeclaredLocale = {
  id: 'undeclared-locale',
  area: 'localization',
  needs: ['package'],
  *run(facts, intent): Iterable<Assertion> {
    for (const { declaredLocales: declared, evidence, locales: shipped, platform } of facts.of('package')) {
      if (!declared) {
        yield { outcome: 'inapplicable' };
        continue;
      }
      const isSource = (locale: string) => languageOf(locale) === languageOf(intent.sourceLocale);
      const covers = (list: readonly string[], locale: string) =>
        list.some(
          (other) => locale === other || locale.startsWith(`${other}-`) || other.startsWith(`${locale}-`),
        );
      const promised = declared.filter((locale) => !isSource(locale) && !covers(shipped, locale));
      // what nobody intends is another check's
      const hidden = intent.locales.filter((locale) => covers(shipped, locale) && !covers(declared, locale));
      const assert = (locale: string, fault: 'promised' | 'hidden'): Assertion => ({
        outcome: 'failed',
        draft: {
          identity: { subject: `locale ${locale}`, aspect: fault },
          basis: 'measured',
          severity: fault === 'promised' ? 2 : 1,
          digest: fault,
          occurrence: { evidence, shown: locale, data: { locale, fault, declared, platform } },
        },
      });
      for (const locale of promised) yield assert(locale, 'promised');
      for (const locale of hidden) yield assert(locale, 'hidden');
      if (promised.length + hidden.length === 0) yield { outcome: 'passed', count: declared.length };
    }
  },
} satisfies Check;

const languageOf = (tag: string): string => tag.split('-')[0]!;
