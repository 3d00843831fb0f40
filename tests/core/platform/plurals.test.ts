import { pluralCategories } from '../../../src/core/model/catalogue.ts';
import { pluralNeeds } from '../../../src/core/platform/text/plural-categories.ts';
import {
  categoriesOfForms,
  parsePluralExpression,
  pluralFormsOf,
} from '../../../src/core/platform/text/plural-forms.ts';

const letters = [...'abcdefghijklmnopqrstuvwxyz'];
const two = letters.flatMap((a) => letters.map((b) => a + b));
const tags = [
  ...two,
  ...two.flatMap((tag) => letters.map((c) => tag + c)),
  'pt-PT',
  'pt-BR',
  'sr-Latn',
  'zh-Hant',
];
const locales = Intl.PluralRules.supportedLocalesOf(tags);

test('plural needs are those of Intl.PluralRules for every locale that Node knows, whole numbers told apart', () => {
  expect(locales.length).toBeGreaterThan(150);
  for (const locale of locales) {
    const { examples, rest, whole } = pluralNeeds(locale);
    const rules = new Intl.PluralRules(locale);
    expect([locale, new Set([...whole, ...rest])]).toEqual([
      locale,
      new Set(rules.resolvedOptions().pluralCategories),
    ]);
    expect(whole.filter((category) => rest.includes(category))).toEqual([]);
    for (const category of whole)
      for (const n of examples.get(category)!) expect(rules.select(n)).toBe(category);
    // no number below a million needs one of the rest
    for (let n = 0; n < 1_000_000; n = n < 120 ? n + 1 : Math.ceil(n * 1.4))
      expect(whole).toContain(rules.select(n));
  }
});

test.each([
  ['de', ['one', 'other'], []],
  ['pl', ['one', 'few', 'many'], ['other']],
  ['cs', ['one', 'few', 'other'], ['many']],
  ['fr', ['one', 'other'], ['many']],
  ['ar', [...pluralCategories], []],
  ['ja', ['other'], []],
])('%s', (locale, whole, rest) => {
  expect(pluralNeeds(locale)).toMatchObject({
    whole: pluralCategories.filter((of) => whole.includes(of)),
    rest,
  });
});

test('the expression for a language tells its numbers apart as the language does', () => {
  for (const locale of [
    'en',
    'fr',
    'pl',
    'ru',
    'cs',
    'ar',
    'ja',
    'lt',
    'lv',
    'sl',
    'ro',
    'cy',
    'ga',
    'he',
    'is',
  ]) {
    const forms = pluralFormsOf(locale);
    expect([locale, forms?.categories]).toEqual([locale, expect.any(Array)]);
    expect(categoriesOfForms(parsePluralExpression(forms!.expression)!, locale)!.size).toBe(
      forms!.categories.length,
    );
  }
});

test.each(['', 'n +', 'n ? 1', '(n', 'alert(1)', 'n == 1 ? 0 : 1 2'])('%j is no expression', (source) => {
  expect(parsePluralExpression(source)).toBeUndefined();
});
