/**
 * Plurals have the forms that their language needs for whole numbers (CLDR), and none says "1" where it stands for other
 * numbers too: in French `one` is 0 and 1, in Russian 1, 21, 31 …
 */

import { z } from 'zod';
import { type PluralCategory, pluralCategories } from '../../../model/catalogue.ts';
import type { CatalogueTextFact } from '../../../model/fact.ts';
import { isLocaleTag } from '../../../model/locale.ts';
import { type PluralNeeds, pluralNeeds } from '../../../platform/text/plural-categories.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { catalogueViews, languageOf, targetLocales } from '../texts/catalogue.ts';
import { textDraft, textPlaceShape, toAssertion } from '../texts/text-draft.ts';
import { foundAt } from '../words.ts';
import { isNumber } from './placeholder-mismatch.ts';

const dataSchema = z.union([
  z.strictObject({
    ...textPlaceShape,
    fault: z.literal('missing'),
    missing: z.array(z.string()),
    examples: z.array(z.string()),
    has: z.array(z.string()),
    lacksOther: z.boolean(),
  }),
  z.strictObject({
    ...textPlaceShape,
    fault: z.literal('hard-coded'),
    category: z.string(),
    numbers: z.array(z.string()),
  }),
]);
type Data = z.infer<typeof dataSchema>;

export const pluralForms = defineCheck({
  id: 'plural-forms',
  area: 'localization',
  priority: 'harder',
  standard: 'CLDR, Unicode Technical Standard 35, part 3, Language Plural Rules',
  basis: 'either',
  needs: 'package',
  reads: ['catalogue-text'],
  data: dataSchema,
  words: (data) =>
    data.fault === 'missing'
      ? {
          what: `${data.key} in ${data.locale} lacks the plural ${data.missing.length === 1 ? 'form' : 'forms'} ${data.missing.join(', ')}`,
          measured: `only ${data.has.join(', ')}${foundAt(data)}`,
          required: `${data.examples.join('; ') || 'other, for all numbers that no other form is for'} (CLDR)`,
          why: data.lacksOther
            ? 'Without "other" there is nothing to fall back to: Android throws, iOS shows the key.'
            : 'For these numbers the app falls back to "other", which is wrong grammar in this language.',
          remedy: `Add a text for ${data.missing.join(' and ')} to ${data.key} in ${data.locale}.`,
        }
      : {
          what: `${data.key} in ${data.locale} leaves the number out of "${data.category}", which is not one number`,
          measured: `no placeholder for the number in ${quote(data.text)}${foundAt(data)}`,
          required: `the number in it: "${data.category}" is said for ${data.numbers.join(', ')} … (CLDR)`,
          why: `At ${data.numbers.at(-1)} the user reads ${quote(data.text)}.`,
          remedy: 'Put the placeholder of the number back in.',
        },

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

  doc: {
    looksAt: 'The plural forms of every language, and forms that leave the number out',
    against: "CLDR's categories for whole numbers below a million",
    matters: '“5 билет” is as wrong as “5 ticket”. Without the form “other” Android throws.',
    measured:
      'The forms of each plural against the categories that the language has for whole numbers below a million; and forms for several numbers that leave the number out.',
    errs: 'Categories for fractions and for numbers from a million on are not asked for.',
    fixes: [
      {
        where: 'res/values-pl/strings.xml',
        language: 'xml',
        code: `<plurals name="tickets">
  <item quantity="one">%d bilet</item><item quantity="few">%d bilety</item>
  <item quantity="many">%d biletów</item><item quantity="other">%d biletu</item>
</plurals>`,
      },
      { where: 'Localizable.stringsdict', language: 'xml', code: '<key>few</key><string>%d bilety</string>' },
    ],
  },
});

const CATEGORY = new Set<string>(pluralCategories);

/** A format with several numbers has the forms of each, `boats/one`. */
function* judgePlural(
  texts: readonly CatalogueTextFact[],
  locale: string,
  needs: PluralNeeds,
): Generator<Assertion<Data>> {
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
): Assertion<Data> {
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
  return toAssertion(
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
): Generator<Assertion<Data>> {
  const other = forms.get('other');
  const number = other?.placeholders.find((placeholder) => isNumber(placeholder, other));
  if (number === undefined) return;
  for (const [category, text] of forms) {
    const numbers =
      text.numbers ?? (CATEGORY.has(category) ? (needs.examples.get(category as PluralCategory) ?? []) : []);
    if (category === 'other' || numbers.length < 2 || text.placeholders.includes(number)) continue;
    yield toAssertion(
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
