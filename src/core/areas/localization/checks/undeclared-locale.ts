/**
 * The languages that the package says it has (Android developers, *Per-app language preferences*: the locale
 * configuration; Apple: CFBundleLocalizations), those that it holds texts of, and those that are intended.
 */

import { z } from 'zod';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({
  locale: z.string(),
  fault: z.enum(['hidden', 'promised']),
  declared: z.array(z.string()),
  platform: z.enum(['android', 'ios']),
});
type Data = z.infer<typeof dataSchema>;

export const undeclaredLocale = defineCheck({
  id: 'undeclared-locale',
  area: 'localization',
  priority: 'harder',
  standard: 'Android developers, Per-app language preferences; Apple, CFBundleLocalizations',
  basis: 'measured',
  needs: 'package',
  data: dataSchema,
  words: ({ declared, fault, locale, platform }) => {
    const list = platform === 'ios' ? 'CFBundleLocalizations' : 'the locale configuration';
    return fault === 'promised'
      ? {
          what: `The package says that it speaks ${locale}, and holds no text in it`,
          measured: `${list}: ${declared.join(', ')}`,
          required: 'only languages that the package has texts in',
          why: 'Users can choose the language in the system settings, and then read the source language.',
          remedy: `Take ${locale} out of ${list}, or add its texts.`,
        }
      : {
          what: `The package holds texts in ${locale} and does not say so`,
          measured: `${list}: ${declared.join(', ')}`,
          required: 'every intended language',
          why: 'It is missing from the list of languages in the system settings of the app.',
          remedy: `Add ${locale} to ${list}.`,
        };
  },

  *run(facts, intent): Iterable<Assertion<Data>> {
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
      const assert = (locale: string, fault: 'promised' | 'hidden'): Assertion<Data> => ({
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

  doc: {
    looksAt: 'The locale configuration, or `CFBundleLocalizations`',
    against: 'The languages that the package holds and the intent file names',
    matters:
      'The language is missing from the system settings of the app, or is offered there and has no texts.',
    measured:
      'The locale configuration, or CFBundleLocalizations, against the languages that the package holds and the intent file names.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'res/xml/locales_config.xml',
        language: 'xml',
        code: '<locale-config><locale android:name="en" /><locale android:name="de" /></locale-config>',
      },
      {
        where: 'Info.plist',
        language: 'xml',
        code: '<key>CFBundleLocalizations</key><array><string>en</string><string>de</string></array>',
      },
    ],
  },
});

const languageOf = (tag: string): string => tag.split('-')[0]!;
