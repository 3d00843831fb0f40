import type { CatalogueTextFact } from '../../model/fact.ts';
import type { Intent } from '../../model/intent.ts';

/** Texts of one key: by locale, then by form (`''` where there is only one). */
export type KeyTexts = Map<string, Map<string, CatalogueTextFact>>;

export function textsByKey(facts: readonly CatalogueTextFact[]): Map<string, KeyTexts> {
  const keys = new Map<string, KeyTexts>();
  for (const fact of facts) {
    const locales = keys.get(fact.key) ?? new Map<string, Map<string, CatalogueTextFact>>();
    keys.set(fact.key, locales);
    const forms = locales.get(fact.locale) ?? new Map<string, CatalogueTextFact>();
    locales.set(fact.locale, forms);
    forms.set(fact.form ?? '', fact);
  }
  return keys;
}

/** Locales that the texts are held against the source in: the intended ones, or what is shipped where none are named. */
export function targetLocales(keys: Map<string, KeyTexts>, intent: Intent): string[] {
  const intended = intent.locales.filter((locale) => locale !== intent.sourceLocale);
  if (intent.locales.length > 0) return intended;
  const counts = new Map<string, number>();
  for (const texts of keys.values())
    for (const locale of texts.keys()) counts.set(locale, (counts.get(locale) ?? 0) + 1);
  return [...counts.keys()]
    .filter((locale) => locale !== 'default' && locale !== intent.sourceLocale)
    .filter((locale) => isMeantToShip(locale, counts))
    .sort();
}

// Without an intent file: a locale with less than this share of the source's texts was hardly meant to ship.
const MEANT_SHARE = 0.5;

/** A region of a language needs no texts but those that differ. */
export const isMeantToShip = (locale: string, counts: ReadonlyMap<string, number>): boolean =>
  locale.includes('-') || (counts.get(locale) ?? 0) >= (counts.get('default') ?? 0) * MEANT_SHARE;

/** The texts that a device in this locale gets from this locale or its parents: de-AT, then de. */
export function textsFor(texts: KeyTexts, locale: string): Map<string, CatalogueTextFact> | undefined {
  for (let tag = locale; tag; tag = tag.slice(0, Math.max(0, tag.lastIndexOf('-')))) {
    const found = texts.get(tag);
    if (found) return found;
  }
  return undefined;
}

/** The source texts of a key: the unqualified values, or those of the source locale itself. */
export const sourceTexts = (texts: KeyTexts, intent: Intent): Map<string, CatalogueTextFact> | undefined =>
  texts.get(intent.sourceLocale) ?? texts.get('default');
