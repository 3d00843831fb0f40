/**
 * Locales that a library brought along: the package holds a few texts in them, so the system takes the app to speak
 * the language (Android developers, *Per-app language preferences*), and the user reads a mixture.
 */
import type { PackageFact } from '../../model/fact.ts';
import type { Intent } from '../../model/intent.ts';
import type { Assertion, Check } from '../check.ts';
import { catalogueViews, isMeantToShip, translatedCount } from './texts/catalogue.ts';

export const orphanedLocale = {
  id: 'orphaned-locale',
  area: 'localization',
  needs: ['package', 'catalogue-text'],
  *run(facts, intent): Iterable<Assertion> {
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
} satisfies Check;

function judgeOrphans(
  { evidence }: PackageFact,
  orphans: { locale: string; count: number }[],
  sourceCount: number,
  intent: Intent,
): Assertion {
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
