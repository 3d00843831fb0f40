/** Every check of texts: what it finds, and what it lets be. */
import type { TextSyntax } from '../../../src/core/model/catalogue.ts';
import { anIntent } from '../../support/facts.ts';
import { entriesOf, findingsIn, formatFindings, textFacts } from '../../support/texts.ts';

const intent = anIntent({ locales: ['en', 'de', 'ar', 'ru', 'ja', 'fr'], untranslated: ['brand'] });
type Keys = Parameters<typeof entriesOf>[0];

const cases: [check: string, name: string, keys: Keys, expected: string[], syntax?: TextSyntax][] = [
  [
    'extra-translation',
    'a key that only a translation has',
    { a: { en: 'A' }, b: { de: 'B', ru: 'В' } },
    ['b no source'],
  ],
  ['empty-translation', 'blanks alone', { a: { en: 'A', de: ' ' } }, ['a de']],
  ['empty-translation', 'where the source is empty too', { a: { en: '', de: '' } }, []],
  [
    'same-as-source',
    'a sentence',
    { a: { en: 'Life jackets are here', de: 'Life jackets are here' } },
    ['a de'],
  ],
  [
    'same-as-source',
    'a word that is the same in both, a name, a unit, an address',
    {
      a: { en: 'Ticket', de: 'Ticket' },
      b: { en: 'Aldwick Quay', de: 'Aldwick Quay' },
      c: { en: '%1$d km/h', de: '%1$d km/h' },
      d: { en: 'see https://a.example/now', de: 'see https://a.example/now' },
    },
    [],
  ],
  [
    'same-as-source',
    'a word where the language writes other letters',
    { a: { en: 'Tickets', ar: 'Tickets', ru: 'Билеты', de: 'Fahrkarten' } },
    ['a ar'],
  ],
  [
    'same-as-source',
    'what most languages leave, and what is listed',
    {
      a: { en: 'Harbour pass one', de: 'Harbour pass one', fr: 'Harbour pass one', ru: 'Harbour pass one' },
      brand: { en: 'Kelp of the line', de: 'Kelp of the line' },
    },
    [],
  ],
  ['placeholder-mismatch', 'swapped without numbers', { a: { en: '%s at %d', de: 'um %d: %s' } }, ['a de']],
  [
    'placeholder-mismatch',
    'an argument of ICU by its name',
    { a: { en: '{who} at {time, date}', de: 'um {time, date}: {wer}' } },
    ['a de'],
    'icu',
  ],
  [
    'placeholder-mismatch',
    'a number of ICU by which one language chooses and the other does not; a date that is one no more',
    {
      a: { en: '{n, plural, one {# entry} other {# entries}}', ja: '{n} 件' },
      b: { en: '{n} entries', ru: '{n, plural, one {# запись} other {# записей}}' },
      c: { en: 'at {t, date}', de: 'um {t}' },
    },
    ['c de'],
    'icu',
  ],
  [
    'message-syntax',
    'what the source has as well, and what it has not',
    { a: { en: 'use %y here', de: 'hier %y' }, b: { en: 'use it', de: 'hier %y' } },
    ['a en', 'b de'],
    'printf-c',
  ],
  [
    'mixed-script',
    'a Greek letter for a Greek word; choices of letters, and parts that the source has at the same edge',
    {
      a: { en: 'Limit', ru: 'Oграничение' },
      b: { en: '^[yY]', ru: '^[yYдД]' },
      c: { en: 'PREFIXaa and IUsed', ru: 'ПРЕФИКСaa, IИспользовано' },
      d: { en: 'g1 to gN', ru: 'от г1 до грN' },
    },
    ['a ru'],
  ],
  [
    'swallowed-escape',
    'a backslash that is spoken of, and letters that no escape has',
    { a: { en: 'Ends with a backslash', de: "Endet mit '\\'" }, b: { en: 'bytes', de: '\\NNN' } },
    [],
  ],
  [
    'text-growth',
    'of a choice the longest, and not all of it',
    {
      a: {
        en: '{n, plural, one {# user} other {# users}}',
        ru: '{n, plural, one {# пользователь} few {# пользователя} many {# пользователей} other {# пользователя}}',
      },
    },
    [],
    'icu',
  ],
  ['markup-mismatch', 'a break with an end of its own', { a: { en: 'a<br/>b', de: 'a<br></br>b' } }, []],
  [
    'placeholder-mismatch',
    'a number that one form of the source gives',
    {
      n: {
        en: { one: 'a seat', other: '%1$d seats' },
        ru: { one: '%1$d место', few: '%1$d места', many: '%1$d мест', other: '%1$d места' },
      },
    },
    [],
  ],
  [
    'message-syntax',
    'a bare percent sign, an unknown letter, half a placeholder',
    { a: { en: '50% of %1$d' }, b: { en: '%1$y %2$s' }, c: { en: 'at %1$' } },
    ['a en', 'b en', 'c en'],
  ],
  [
    'message-syntax',
    'a percent sign in a text that takes nothing, and a format of times',
    { a: { en: 'up to 50% off' }, b: { en: '%-d.%m.%Y, %H:%M' } },
    [],
  ],
  [
    'message-syntax',
    'ICU: unclosed, no other, quoted',
    {
      a: { en: 'Hi {name' },
      b: { en: '{n, plural, one {x}}' },
      c: { en: "It's '{name}'" },
      d: { en: '} x' },
    },
    ['a en', 'b en', 'c en', 'd en'],
    'icu',
  ],
  [
    'message-syntax',
    'ICU as it should be',
    {
      a: { en: "{n, plural, =0 {none} one {{who}''s # day} other {# days}} it's" },
      b: { en: '{p, number, ¤#,##0.00}' },
    },
    [],
    'icu',
  ],
  [
    'plural-forms',
    'a category that whole numbers need',
    { n: { en: { one: '%d', other: '%d' }, ru: { one: '%d', other: '%d' } } },
    ['n ru'],
  ],
  [
    'plural-forms',
    'a category for millions alone',
    { n: { en: { one: '%d', other: '%d' }, fr: { one: '%d', other: '%d' } } },
    [],
  ],
  [
    'plural-forms',
    'one form is enough in Japanese, and other is needed everywhere',
    { n: { en: { one: 'x' }, ja: { other: '%d' } } },
    ['n en'],
  ],
  [
    'plural-forms',
    'a number left out of a form for several',
    {
      n: {
        en: { one: 'one day', other: '%1$d days' },
        ru: { one: 'один день', few: '%1$d дня', many: '%1$d дней', other: '%1$d дня' },
      },
    },
    ['n (one) ru'],
  ],
  [
    'plural-forms',
    'exact forms of ICU',
    { n: { en: { '=0': 'none', '=1': 'one', other: '{n}' } } },
    [],
    'icu',
  ],
  [
    'markup-mismatch',
    'lost, added, unclosed',
    {
      a: { en: '<b>A</b> b', de: 'A b' },
      b: { en: 'x', de: '<i>x</i>' },
      c: { en: '<b>x</b>', de: '<b>x<b>' },
    },
    ['a de', 'b de', 'c de'],
  ],
  [
    'markup-mismatch',
    'words in angle brackets',
    { a: { en: '<untitled>', de: '<ohne Titel>' }, b: { en: 'a < b > c', de: 'a < b > c' } },
    [],
  ],
  [
    'swallowed-escape',
    'an escape left over',
    { a: { en: 'Food & drink', de: 'Essen &amp; Trinken' }, b: { en: 'It is', de: String.raw`Es\'s` } },
    ['a de', 'b de'],
  ],
  ['swallowed-escape', 'HTML in the source too', { a: { en: 'A &amp; B', de: 'A &amp; B' } }, []],
  [
    'stray-space',
    'at the edges and in the middle',
    {
      a: { en: 'A', de: ' A' },
      b: { en: 'A', de: 'A\u00a0' },
      c: { en: 'A b', de: 'A  b' },
      d: { en: 'A: ', de: 'A:' },
    },
    ['a de', 'b de', 'c de', 'd de'],
  ],
  ['stray-space', 'none needed in Japanese', { a: { en: 'A: ', ja: '港:' } }, []],
  [
    'mixed-script',
    'a Cyrillic letter in a Latin word, and the other way round',
    { a: { en: 'A', de: 'Hafеn' }, b: { en: 'A', ru: 'Гавaнь' } },
    ['a de', 'b ru'],
  ],
  ['mixed-script', 'two words of two scripts', { a: { en: 'A', ru: 'USB-кабель, WLAN' } }, []],
  [
    'invisible-character',
    'a zero width space, an open control, what could not be decoded',
    { a: { en: 'A', de: 'A\u200b' }, b: { en: 'B', de: '\u202eB' }, c: { en: 'C', de: 'C\ufffd' } },
    ['a de', 'b de', 'c de'],
  ],
  [
    'invisible-character',
    'what a language needs',
    {
      a: { en: 'A', ar: '\u200fا' },
      b: { en: 'B %1$s', ar: '\u2068%1$s\u2069' },
      c: { en: 'C\u200e', de: 'C\u200e' },
    },
    ['c en'],
  ],
  [
    'text-growth',
    'by width and not by characters',
    {
      a: { en: 'Gate', de: 'Nummer des Stegs, an dem abgelegt wird' },
      b: { en: 'WWMWWMWWMW', de: 'iiiiiliiiiilliiiiiiliiiiiliiil' },
    },
    ['a de'],
  ],
  [
    'list-length',
    'shorter and longer',
    { l: { en: ['a', 'b'], de: ['a'], fr: ['a', 'b', 'c'], ru: ['а', 'б'] } },
    ['l de', 'l fr'],
  ],
];

test.each(
  cases.map(
    ([check, name, keys, expected, syntax = 'printf-java']) => [check, name, keys, expected, syntax] as const,
  ),
)('%s: %s', (check, _, keys, expected, syntax) => {
  const found = findingsIn(textFacts(entriesOf(keys), syntax), [check], intent);
  expect(formatFindings(found)).toEqual(expected.map((of) => `${check} ${of}`).sort());
  for (const { words } of found)
    for (const part of Object.values(words))
      expect(part).toMatch(/^(?=.*[\p{L}])(?!.*(undefined|NaN|\[object)).*$/su);
});

test('a key that stands twice in one file, and not one that stands in two', () => {
  const twice = entriesOf({ a: { de: 'eins' } });
  const facts = textFacts([
    ...entriesOf({ a: { en: 'one' } }),
    ...twice,
    ...entriesOf({ a: { de: 'zwei' } }),
  ]);
  const [finding] = findingsIn(facts, ['duplicate-key'], intent);
  expect(finding?.words.measured).toBe('“eins” and “zwei” (texts)');
  const apart = [...textFacts(twice), ...textFacts(twice).map((fact) => ({ ...fact, file: 'other' }))];
  expect(findingsIn(apart, ['duplicate-key'], intent)).toEqual([]);
});
