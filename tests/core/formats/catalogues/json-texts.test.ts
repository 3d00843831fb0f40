/** JSON catalogues beside i18next itself: what it finds, what it fills in, and what it lacks. */
import fc from 'fast-check';
import { createInstance } from 'i18next';
import { placeholderMismatch } from '../../../../src/core/areas/localization/checks/placeholder-mismatch.ts';
import { pluralForms } from '../../../../src/core/areas/localization/checks/plural-forms.ts';
import { observeCatalogueFile } from '../../../../src/core/areas/localization/observers/observe-catalogue-file.ts';
import { isTextTree, localeOfJson } from '../../../../src/core/formats/catalogues/json-texts.ts';
import { catalogueName, readCatalogue } from '../../../../src/core/formats/catalogues/read-catalogue.ts';
import { writeCatalogue } from '../../../../src/core/formats/catalogues/write-catalogue.ts';
import { type Catalogue, pluralCategories } from '../../../../src/core/model/catalogue.ts';
import { unwrap } from '../../../../src/core/model/problem.ts';
import { measureText } from '../../../../src/core/platform/text/measure-text.ts';
import { pseudoLocalize } from '../../../../src/core/platform/text/pseudo-locale.ts';
import { anIntent, observeApp, run } from '../../../support/facts.ts';

const read = async (path: string, json: string): Promise<Catalogue> =>
  unwrap(await readCatalogue(path, new TextEncoder().encode(json)));

async function translator(locale: string, texts: object) {
  const instance = createInstance();
  await instance.init({ lng: locale, fallbackLng: false, resources: { [locale]: { translation: texts } } });
  return instance.t as unknown as (key: string, values: object) => string;
}

const factsOf = (...catalogues: Catalogue[]) => [
  ...observeApp({}),
  ...catalogues.flatMap((catalogue) => [
    ...observeCatalogueFile.observe({
      digest: 'd',
      platform: 'android',
      name: 'x',
      file: 'x.json',
      catalogue,
    }),
  ]),
];

// rules go by the last two digits, and a few by thousands
const TRIED = [...Array.from({ length: 131 }, (_, n) => n), 200, 1000];

test('plurals: a form that is missed is one that the library does not find, for any number, and no other', async () => {
  const locale = fc.constantFrom(
    'en',
    'de',
    'fr',
    'pl',
    'ru',
    'ar',
    'he',
    'lv',
    'ro',
    'ja',
    'cs',
    'sl',
    'ga',
  );
  const forms = fc.subarray([...pluralCategories], { minLength: 2 });
  const counts = { whole: 0, missing: 0 };
  await fc.assert(
    fc.asyncProperty(locale, forms, fc.boolean(), async (tag, present, isOrdinal) => {
      const infix = isOrdinal ? '_ordinal' : '';
      const texts = Object.fromEntries(present.map((form) => [`boats${infix}_${form}`, `${form} {{count}}`]));
      const t = await translator(tag, texts);
      const found = (count: number) => t('boats', { count, ordinal: isOrdinal }) !== 'boats';
      const lacks = TRIED.some((n) => !found(n));
      const catalogue = await read(`locales/${tag}/x.json`, JSON.stringify(texts));
      const intent = anIntent({ sourceLocale: 'xx', locales: ['xx', tag] });
      const missing = run(pluralForms, factsOf(catalogue), intent).filter(
        (one) => 'draft' in one && one.draft.occurrence.data.fault === 'missing',
      );
      counts[lacks ? 'missing' : 'whole'] += 1;
      expect([tag, present, isOrdinal, missing.length > 0]).toEqual([tag, present, isOrdinal, lacks]);
    }),
    { numRuns: 300 },
  );
  expect(Math.min(counts.whole, counts.missing)).toBeGreaterThan(20);
});

test('placeholders: those that are named are those that the library fills in', async () => {
  const piece = fc.constantFrom(
    '{{name}}',
    '{{ name }}',
    '{{- raw}}',
    '{{user.name}}',
    '{{n, number}}',
    '{',
    '}',
    '{x}',
    ' a ',
    '$',
  );
  await fc.assert(
    fc.asyncProperty(fc.array(piece, { minLength: 1, maxLength: 6 }), async (pieces) => {
      const text = pieces.join('');
      const { faults, placeholders } = measureText(text, 'i18next');
      fc.pre(!faults);
      const t = await translator('en', { key: text });
      const values = { name: 'N#', raw: 'R#', user: { name: 'U#' }, n: 5, x: 'X#' };
      const said = t('key', { ...values, interpolation: { escapeValue: false } });
      const filled = {
        'name:text': 'N#',
        'raw:text': 'R#',
        'user.name:text': 'U#',
        'n:text': '5',
        'x:text': 'X#',
      };
      expect(placeholders).toEqual(
        Object.entries(filled)
          .filter(([, value]) => said.includes(value))
          .map(([name]) => name)
          .sort(),
      );
    }),
    { numRuns: 300 },
  );
});

test('nested and flat keys, contexts, nesting and lists; and what a translation lost', async () => {
  const en = `{
  "home": { "title": "Hello {{name}}", "404": "Not found" },
  "boats_one": "{{count}} boat", "boats_other": "{{count}} boats",
  "friend_male": "His boat", "friend_female": "Her boat",
  "all.seats": "$t(boats, {\\"count\\": {{n}} }) for all",
  "list": ["first", "second"], "version": 2
}`;
  const source = await read('locales/en/common.json', en);
  expect([source.format, source.syntax]).toEqual(['json', 'i18next']);
  expect(source.entries.map(({ forms, key, kind }) => [key, kind, ...forms.map(({ form }) => form)])).toEqual(
    [
      ['home.title', 'text', ''],
      ['home.404', 'text', ''],
      ['boats', 'plural', 'one', 'other'],
      ['friend_male', 'text', ''],
      ['friend_female', 'text', ''],
      ['all.seats', 'text', ''],
      ['list.0', 'text', ''],
      ['list.1', 'text', ''],
    ],
  );
  const target = await read('locales/de/common.json', en.replace('Hello {{name}}', 'Hallo {name}'));
  const found = run(placeholderMismatch, factsOf(source, target), anIntent({ locales: ['en', 'de'] }));
  expect(found.flatMap((one) => ('draft' in one ? [one.draft.occurrence.data.lost] : []))).toEqual([
    ['name:text'],
  ]);
});

test('a made-up language is the file with other texts, and the library still fills them in', async () => {
  const en = '{\n\t"b": {"x": "Say \\"hi\\", {{name}}"},\n\t"2": "Two",\n\n\t"1": "One", "n": 3\n}\n';
  const catalogue = await read('i18n/en.json', en);
  const { path, text } = writeCatalogue(
    catalogue,
    'i18n/en.json',
    pseudoLocalize(catalogue.entries, catalogue.syntax, 'accented'),
    'en-XA',
  );
  expect(path).toBe('en-XA.json');
  // nothing but the texts has changed
  const shape = (json: string) => json.replace(/: "(?:[^"\\]|\\.)*"/g, ': ""');
  expect(shape(text)).toBe(shape(en));
  const t = await translator('en', JSON.parse(text));
  expect(t('b.x', { name: 'Anna' })).toMatch(/^\[Šåý "ĥî", Anna .*\]$/);
  // and back again
  const again = writeCatalogue(await read('i18n/en.json', en), 'i18n/en.json', catalogue.entries, 'en');
  expect(again.text).toBe(en);
});

test.each<[path: string, locale: string | undefined, name: string]>([
  ['locales/de/common.json', 'de', 'common'],
  ['locales/pt_BR/nav.json', 'pt-BR', 'nav'],
  ['src/i18n/zh-Hant.json', 'zh-Hant', 'i18n'],
  ['i18n/common.de.json', 'de', 'common'],
  ['i18n/messages_fr-CA.json', 'fr-CA', 'messages'],
  ['captures/home.json', undefined, 'home'],
  ['config/package.json', undefined, 'package'],
])('%s is in %s, of %s', (path, locale, name) => {
  expect(localeOfJson(path)).toBe(locale);
  expect(catalogueName(path)).toBe(name);
});

test.each([
  ['texts', '{"a": "A", "b": {"c": "C"}}', true],
  ['a capture', '{"fenlok": "capture/1", "a": "A"}', false],
  ['numbers', '{"a": 1, "b": 2, "c": "x"}', false],
  ['half a file', '{"a": "A"', false],
  ['nothing', '{}', false],
])('what a tree of texts is: %s', (_, json, expected) => {
  expect(isTextTree(json)).toBe(expected);
});

test('ICU messages and plain texts are told by what they hold', async () => {
  const syntax = async (json: string) => (await read('de.json', json)).syntax;
  expect(await syntax('{"a": "{count, plural, one {# boat} other {# boats}}"}')).toBe('icu');
  expect(await syntax('{"a": "Hello {name}"}')).toBe('icu');
  expect(await syntax('{"a": "Hello", "b": "50 %"}')).toBe('plain');
  expect(await syntax('{"a_one": "boat", "a_other": "boats"}')).toBe('i18next');
});

test('what reports the file and not of the app is no text', async () => {
  const { entries } = await read(
    'de.json',
    '{"@metadata":{"authors":["Ada","Ken"]},"pad":{"open":"Öffnen"}}',
  );
  expect(entries.map(({ key }) => key)).toEqual(['pad.open']);
});
