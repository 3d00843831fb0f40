/**
 * Plurals have the forms that their language needs for whole numbers (CLDR), and none says "1" where it stands for other
 * numbers too: in French `one` is 0 and 1, in Russian 1, 21, 31 …
 */
import { type PluralCategory, pluralCategories } from '../../../model/catalogue.ts';
import type { CatalogueTextFact } from '../../../model/fact.ts';
import { isLocaleTag } from '../../../model/locale.ts';
import { type PluralNeeds, pluralNeeds } from '../../../platform/text/plural-categories.ts';
import type { Assertion, Check } from '../../check.ts';
import { catalogueViews, languageOf, targetLocales } from './catalogue.ts';
import { isNumber } from './placeholder-mismatch.ts';
import { departure, textDraft } from './text-draft.ts';

export const pluralForms = {
  id: 'plural-forms',
  area: 'localization',
  needs: ['package', 'catalogue-text'],
  *run(facts, intent) {
    const known = new Map<string, PluralNeeds>();
    const needsOf = (locale: string) => {
      const found = known.get(locale) ?? pluralNeeds(locale);
      known.set(locale, found);
      return found;
    };
    for (const view of facts.once(catalogueViews, intent)) {
      const wanted = [intent.sourceLocale, ...targetLocales(view, intent)];
      for (const { byLocale } of view.rows)
        for (const texts of byLocale.values()) {
          const [first] = texts;
          if (first?.entry !== 'plural') continue;
          const language = languageOf(first, intent);
          if (
            !isLocaleTag(language) ||
            !wanted.some((of) => of === language || of.startsWith(`${language}-`))
          )
            continue;
          yield* judgePlural(texts, language, needsOf(language));
        }
    }
  },
} satisfies Check;

const CATEGORY = new Set<string>(pluralCategories);

/** A format with several numbers has the forms of each, `boats/one`. */
function* judgePlural(
  texts: readonly CatalogueTextFact[],
  locale: string,
  needs: PluralNeeds,
): Generator<Assertion> {
  const groups = new Map<string, Map<string, CatalogueTextFact>>();
  for (const text of texts) {
    const slash = text.form!.lastIndexOf('/');
    const group = groups.get(text.form!.slice(0, slash + 1)) ?? new Map<string, CatalogueTextFact>();
    groups.set(text.form!.slice(0, slash + 1), group);
    group.set(text.form!.slice(slash + 1), text);
  }
  for (const forms of groups.values()) {
    yield judgeMissing(forms, locale, needs);
    yield* judgeHardCoded(forms, locale, needs);
  }
}

function judgeMissing(
  forms: ReadonlyMap<string, CatalogueTextFact>,
  locale: string,
  needs: PluralNeeds,
): Assertion {
  const [any] = forms.values();
  const isCovered = (category: PluralCategory) =>
    forms.has(category) ||
    ((needs.examples.get(category) ?? []).every((n) => forms.has(`=${n}`)) &&
      needs.examples.get(category)!.length < 4);
  const asked = any?.neededForms;
  const missing = asked
    ? asked.filter((form) => !forms.has(form))
    : needs.whole.filter((category) => !isCovered(category));
  // what every platform falls back to; without it, it crashes or shows nothing
  const lacksOther = !asked && !forms.has('other');
  if (missing.length === 0 && !lacksOther) return { outcome: 'passed' };
  const examples = missing.flatMap((category) => {
    const numbers = needs.examples.get(category as PluralCategory);
    return numbers ? [`${category}: ${numbers.join(', ')} …`] : [];
  });
  return departure(
    textDraft(
      { ...any!, form: undefined, text: (forms.get('other') ?? any)!.text },
      {
        locale,
        severity: lacksOther ? 100 : missing.length,
        digest: `missing ${missing.join(' ')}${lacksOther ? ' other' : ''}`,
        data: {
          fault: 'missing',
          missing: lacksOther && !missing.includes('other') ? [...missing, 'other'] : missing,
          examples,
          has: [...forms.keys()],
          lacksOther,
        },
      },
    ),
  );
}

/** A form that leaves the number out, or writes it as 1, though it stands for several. */
function* judgeHardCoded(
  forms: ReadonlyMap<string, CatalogueTextFact>,
  locale: string,
  needs: PluralNeeds,
): Generator<Assertion> {
  const other = forms.get('other');
  const number = other?.placeholders.find((placeholder) => isNumber(placeholder, other));
  if (number === undefined) return;
  for (const [category, text] of forms) {
    const numbers =
      text.numbers ?? (CATEGORY.has(category) ? (needs.examples.get(category as PluralCategory) ?? []) : []);
    if (category === 'other' || numbers.length < 2 || text.placeholders.includes(number)) continue;
    yield departure(
      textDraft(text, {
        locale,
        // where it stands for 0 and 1 alone, the app may well never say 0
        ...(numbers.every((number) => number <= 1) && { basis: 'estimated' }),
        severity: 1,
        digest: `hard-coded ${text.text}`,
        data: { fault: 'hard-coded', category, numbers: numbers.map(String) },
      }),
    );
  }
}
