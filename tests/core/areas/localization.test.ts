import { missingTranslation } from '../../../src/core/areas/localization/checks/missing-translation.ts';
import { placeholderMismatch } from '../../../src/core/areas/localization/checks/placeholder-mismatch.ts';
import type { CatalogueText } from '../../../src/core/model/app-package.ts';
import { measureText } from '../../../src/core/platform/text/measure-text.ts';
import { anIntent, departures, observeApp, run } from '../../support/facts.ts';

test.each([
  ['no placeholder', []],
  ['%s of %d', ['1:s', '2:d']],
  ['%2$d of %1$s', ['1:s', '2:d']],
  ['%1$s and %1$s again', ['1:s']],
  ['100 %% and %%s', []],
  ['5 % of', []],
  ['%1$.2f km, %2$,d m', ['1:f', '2:d']],
  ['%-10s|%05d%n', ['1:s', '2:d']],
  ['ends with %', []],
])('placeholders of "%s"', (text, expected) => {
  expect(measureText(text, 'printf-java').placeholders).toEqual(expected);
});

test.each([
  ['%@ of %d', ['1:@', '2:d']],
  ['%2$@ before %1$lld', ['1:d', '2:@']],
  ['%#@seats@', ['1:@']],
  ['100 %%, %.1f', ['1:f']],
])('placeholders of iOS: "%s"', (text, expected) => {
  expect(measureText(text, 'printf-apple').placeholders).toEqual(expected);
});

/** `{ key: { default: 'Hello', de: 'Hallo' } }`, with plural forms as an object. */
function catalogue(keys: Record<string, Record<string, string | Record<string, string>>>): CatalogueText[] {
  return Object.entries(keys).flatMap(([key, locales]) =>
    Object.entries(locales).flatMap(([locale, value]) =>
      typeof value === 'string'
        ? [{ key, locale, text: value }]
        : Object.entries(value).map(([form, text]) => ({ key, locale, form, text })),
    ),
  );
}
const intent = anIntent({ locales: ['en', 'de', 'pl'], untranslated: ['brand'] });

test.each<[string, Parameters<typeof catalogue>[0], string[]]>([
  ['all there', { hello: { default: 'Hello', de: 'Hallo', pl: 'Cześć' } }, []],
  [
    'one language lacks one',
    { hello: { default: 'Hello', de: 'Hallo' }, bye: { default: 'Bye', de: 'Tschüss', pl: 'Pa' } },
    ['failed hello pl'],
  ],
  [
    'no language has it',
    { hello: { default: 'Hello', de: 'Hallo', pl: 'Cześć' }, url: { default: 'Company Ltd' } },
    ['cantTell url every language'],
  ],
  [
    'named as untranslated',
    { brand: { default: 'Kelpline' }, hello: { default: 'Hello', de: 'Hallo', pl: 'Cześć' } },
    [],
  ],
  [
    'no letters to translate',
    { dash: { default: '– %1$d %2$s –' }, hello: { default: 'Hello', de: 'Hallo', pl: 'Cześć' } },
    [],
  ],
  ['a regional parent is enough', { hello: { default: 'Hello', de: 'Hallo', pl: 'Cześć' } }, []],
  [
    'a whole language is missing, said once',
    { hello: { default: 'Hello', de: 'Hallo' }, bye: { default: 'Bye', de: 'Tschüss' } },
    ['failed locale pl pl'],
  ],
])('missing translation: %s', (_, keys, expected) => {
  expect(departures(run(missingTranslation, observeApp({ texts: catalogue(keys) }), intent))).toEqual(
    expected,
  );
});

test('without an intent file the shipped languages are held against the source, and a parent covers its regions', () => {
  const texts = catalogue({
    hello: { default: 'Hello', de: 'Hallo' },
    bye: { default: 'Bye', de: 'Tschüss', 'de-AT': 'Servus', fr: 'Salut' },
  });
  expect(departures(run(missingTranslation, observeApp({ texts })))).toEqual(['failed hello fr']);
});

test('a region of the source language reads the source, and a language with few texts was hardly meant', () => {
  const texts = catalogue({
    hello: { default: 'Hello', de: 'Hallo', fi: 'Hei' },
    bye: { default: 'Bye', de: 'Tschüss' },
    colour: { default: 'color', 'en-GB': 'colour' },
    more: { default: 'More', de: 'Mehr' },
    less: { default: 'Less', de: 'Weniger' },
  });
  expect(departures(run(missingTranslation, observeApp({ texts })))).toEqual([
    'cantTell colour every language',
  ]);
});

test.each<[string, Parameters<typeof catalogue>[0], string[], Record<string, string[]>?]>([
  ['the same, in another order', { at: { default: '%1$s at %2$d', de: 'um %2$d: %1$s' } }, []],
  ['one is lost', { at: { default: '%1$s at %2$d', de: 'um %1$s' } }, ['failed at de'], { lost: ['2:d'] }],
  ['one is added', { at: { default: 'at %1$s', de: 'um %1$s %2$s' } }, ['failed at de'], { added: ['2:s'] }],
  ['one is retyped', { at: { default: 'at %1$d', de: 'um %1$s' } }, ['failed at de'], { retyped: ['1:s'] }],
  ['numbered in one language only', { at: { default: '%s %s', de: '%1$s %2$s' } }, []],
  [
    'a plural may say "one" without the number',
    {
      n: {
        default: { one: '%1$d seat', other: '%1$d seats' },
        de: { one: 'ein Platz', other: '%1$d Plätze' },
      },
    },
    [],
  ],
  [
    'but not "other"',
    { n: { default: { one: '%1$d seat', other: '%1$d seats' }, de: { one: 'ein Platz', other: 'Plätze' } } },
    ['failed n (other) de'],
  ],
  [
    'a form that the source lacks is held against its "other"',
    {
      n: {
        default: { one: '%1$d seat', other: '%1$d seats' },
        pl: { one: '%1$d', few: '%1$s', many: '%1$d', other: '%1$d' },
      },
    },
    ['failed n (few) pl'],
  ],
])('placeholders: %s', (_, keys, expected, data = {}) => {
  const assertions = run(placeholderMismatch, observeApp({ texts: catalogue(keys) }), intent);
  expect(departures(assertions)).toEqual(expected);
  const [draft] = assertions.flatMap((assertion) => ('draft' in assertion ? [assertion.draft] : []));
  if (draft) expect(draft.occurrence.data).toMatchObject(data);
});
