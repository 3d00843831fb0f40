import type { CatalogueTextFact } from '../../model/fact.ts';
import type { Intent } from '../../model/intent.ts';
import type { Assertion, Check, Draft } from '../check.ts';
import { type KeyTexts, sourceTexts, targetLocales, textsByKey, textsFor } from './catalogue.ts';

/** Every source text has one of its own in every language; otherwise the user reads the source language there. */
export const missingTranslation = {
  id: 'missing-translation',
  area: 'localization',
  needs: ['package', 'catalogue-text'],
  *run(facts, intent) {
    const keys = textsByKey(facts.of('catalogue-text'));
    const locales = targetLocales(keys, intent);
    const shipped = locales.filter((locale) => [...keys.values()].some((texts) => textsFor(texts, locale)));
    for (const locale of locales) if (!shipped.includes(locale)) yield* wholeLocale(locale, keys, intent);
    for (const [key, texts] of keys) yield* judgeKey(key, texts, shipped, intent);
  },
} satisfies Check;

function* wholeLocale(locale: string, keys: Map<string, KeyTexts>, intent: Intent): Generator<Assertion> {
  const anySource = [...keys.values()]
    .map((texts) => sourceTexts(texts, intent)?.values().next().value)
    .find(Boolean);
  if (anySource)
    yield {
      outcome: 'failed',
      draft: draftOf(anySource, locale, {
        subject: `locale ${locale}`,
        wholeLocale: true,
        measured: true,
        textCount: keys.size,
      }),
    };
}

function* judgeKey(key: string, texts: KeyTexts, locales: string[], intent: Intent): Generator<Assertion> {
  const source = sourceTexts(texts, intent)?.values().next().value;
  if (!source) return;
  if (intent.untranslated.includes(key) || !/\p{L}/u.test(source.text.replace(/%\d*\$?[a-z]/gi, ''))) {
    yield { outcome: 'inapplicable' };
    return;
  }
  // a region of the source's own language reads the source
  const targets = locales.filter((locale) => !locale.startsWith(`${intent.sourceLocale}-`));
  const lacking = targets.filter((locale) => !textsFor(texts, locale));
  // Packers drop `translatable="false"`: a text that no language has may be the same on purpose.
  const measured = lacking.length < targets.length || targets.length === 0;
  for (const locale of targets) {
    if (!lacking.includes(locale)) yield { outcome: 'passed' };
    else if (measured)
      yield { outcome: 'failed', draft: draftOf(source, locale, { subject: key, measured }) };
  }
  if (!measured)
    yield { outcome: 'cantTell', draft: draftOf(source, 'every language', { subject: key, measured }) };
}

interface Of {
  subject: string;
  measured: boolean;
  wholeLocale?: boolean;
  textCount?: number;
}

const draftOf = (
  source: CatalogueTextFact,
  locale: string,
  { subject, measured, wholeLocale = false, textCount = 1 }: Of,
): Draft => ({
  identity: { subject, aspect: locale },
  basis: measured ? 'measured' : 'estimated',
  severity: wholeLocale ? 1000 : measured ? 2 : 1,
  digest: `missing, source ${source.text}`,
  occurrence: {
    evidence: source.evidence,
    shown: source.text,
    data: { key: subject, locale, source: source.text, wholeLocale, textCount, measured },
  },
});
