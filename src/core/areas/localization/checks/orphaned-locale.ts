/**
 * Locales that a library brought along: the package holds a few texts in them, so the system takes the app to speak
 * the language (Android developers, *Per-app language preferences*), and the user reads a mixture.
 */

import { z } from 'zod';
import type { PackageFact } from '../../../model/fact.ts';
import type { Assertion, IntentWith } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { catalogueViews, isMeantToShip, translatedCount } from '../texts/catalogue.ts';
import { someOf } from '../words.ts';

const dataSchema = z.strictObject({
  locales: z.array(z.string()),
  fewest: z.number(),
  sourceCount: z.number(),
  measured: z.boolean(),
});
type Data = z.infer<typeof dataSchema>;

export const orphanedLocale = defineCheck({
  id: 'orphaned-locale',
  area: 'localization',
  priority: 'harder',
  standard: 'Android developers, Per-app language preferences',
  basis: 'either',
  needs: 'package',
  reads: ['catalogue-text'],
  data: dataSchema,
  words: ({ fewest, locales, measured, sourceCount }) => {
    const names = locales;
    return {
      what: `The package speaks ${names.length === 1 ? 'a language' : `${names.length} languages`} that nobody meant: ${someOf(names)}`,
      measured: `${names.length > 1 ? 'as few as ' : ''}${fewest} of ${sourceCount} texts`,
      required: measured
        ? "only the intent file's locales"
        : 'most of the texts, in every language that ships',
      why: 'A library brought them along. The system takes the app to speak them, so people are shown a mixture of two languages.',
      remedy: `Keep only the languages that ship: resConfigs or localeFilters in the build${measured ? ', or add the language to "locales" in fenlok.yaml' : ''}.`,
    };
  },

  *run(facts, intent): Iterable<Assertion<Data>> {
    const [app] = facts.of('package');
    if (!app) return;
    const view = facts.once(catalogueViews, intent).find(({ name }) => name === '');
    const counts: ReadonlyMap<string, number> = view?.counts ?? new Map();
    const translated = translatedCount(view?.rows ?? []);
    const meant = [intent.sourceLocale, ...intent.locales];
    const isOrphan = (locale: string) =>
      intent.locales.length === 0
        ? !isMeantToShip(locale, counts, translated)
        : !meant.some(
            (tag) => locale === tag || locale.startsWith(`${tag}-`) || tag.startsWith(`${locale}-`),
          );
    const sourceCount = counts.get('default') ?? 0;
    const orphans = app.locales
      .filter(isOrphan)
      .map((locale) => ({ locale, count: counts.get(locale) ?? 0 }))
      .sort((a, b) => a.count - b.count || (a.locale < b.locale ? -1 : 1));
    yield orphans.length === 0 ? { outcome: 'passed' } : judgeOrphans(app, orphans, sourceCount, intent);
  },

  doc: {
    looksAt: 'The languages of the package',
    against: '`locales` of the intent file; without one, estimated by the share of texts',
    matters:
      'A library brings a few texts in a language, so the system takes the app to speak it, and people read a mixture.',
    measured:
      'The languages of the package against those of the intent file; without one, the share of texts that a language has.',
    errs: 'Without intended languages it is estimated.',
    fixes: [
      {
        where: 'build.gradle.kts',
        language: 'kotlin',
        code: 'android { androidResources { localeFilters += listOf("en", "de", "nb", "pl", "ar") } }',
      },
      {
        where: 'Info.plist',
        language: 'xml',
        code: '<key>CFBundleLocalizations</key><array><string>en</string><string>de</string></array>',
      },
    ],
  },
});

function judgeOrphans(
  { evidence }: PackageFact,
  orphans: { locale: string; count: number }[],
  sourceCount: number,
  intent: IntentWith,
): Assertion<Data> {
  const measured = intent.locales.length > 0;
  const locales = orphans.map(({ locale }) => locale);
  return {
    outcome: measured ? 'failed' : 'cantTell',
    draft: {
      identity: { subject: 'locales' },
      basis: measured ? 'measured' : 'estimated',
      severity: locales.length,
      digest: locales.join(' '),
      occurrence: {
        evidence,
        shown: locales.join(', '),
        data: { locales, fewest: orphans[0]!.count, sourceCount, measured },
      },
    },
  };
}
