/** What a team says of its catalogues in the intent file goes before what the texts look like. */
import { namedSyntax } from '../../../../src/core/formats/catalogues/named-syntax.ts';
import { readCatalogue } from '../../../../src/core/formats/catalogues/read-catalogue.ts';
import type { TextSyntax } from '../../../../src/core/model/catalogue.ts';
import { unwrap } from '../../../../src/core/model/problem.ts';

test.each<[path: string, files: string, fits: boolean]>([
  ['locales/de.json', 'locales/*.json', true],
  ['assets/i18n/locales/de.json', 'locales/*.json', true],
  ['locales\\de.json', 'locales/*.json', true],
  ['de.json', 'locales/*.json', false],
  ['other/de.json', 'locales/*.json', false],
  ['locales/de.json', '*.json', true],
  ['locales/deXjson', '*.json', false],
  ['po/de.po', 'de.*', true],
  ['po/(a+)+.po', '(a+)+.po', true],
  ['locales/de.json5', '*.json', false],
])('%s and %s', (path, files, fits) => {
  expect(namedSyntax(path, [{ files, syntax: 'braces' }])).toBe(fits ? 'braces' : undefined);
});

test('the first row that fits counts', () => {
  const rows = [
    { files: 'de.json', syntax: 'icu' as const },
    { files: '*.json', syntax: 'plain' as const },
  ];
  expect(namedSyntax('x/de.json', rows)).toBe('icu');
  expect(namedSyntax('x/pl.json', rows)).toBe('plain');
});

const RESX = '<root><data name="boats"><value>{0} boats</value></data></root>';
const XLIFF = `<xliff version="1.2"><file source-language="en" original="a.xml"><body>
  <trans-unit id="boats"><source>{0} boats</source></trans-unit></body></file></xliff>`;
const FLAGGED = '#, c-format\nmsgid "%d piers"\nmsgstr ""\n\nmsgid "{0} boats"\nmsgstr ""\n';

test.each<[path: string, text: string, seen: TextSyntax, named: TextSyntax]>([
  ['i18n/en.json', '{"boats": "{0} boats"}', 'icu', 'braces'],
  ['i18n/en.json', '{"boats_one": "a boat", "boats_other": "boats"}', 'i18next', 'plain'],
  ['i18n/en.yml', 'boats: "{0} boats"', 'icu', 'braces'],
  ['App.resx', RESX, 'braces', 'plain'],
  ['en.po', 'msgid "{0} boats"\nmsgstr ""\n', 'icu', 'braces'],
  ['en.po', FLAGGED, 'plain', 'braces'],
  ['en.xliff', XLIFF, 'printf-java', 'icu'],
])('%s: %s', async (path, text, seen, named) => {
  const syntaxOf = async (syntax?: TextSyntax) => {
    const read = unwrap(await readCatalogue(path, new TextEncoder().encode(text), syntax));
    return read.entries.at(-1)!.syntax ?? read.syntax;
  };
  expect([await syntaxOf(), await syntaxOf(named)]).toEqual([seen, named]);
});

test('plural suffixes are keys of their own where the team says that nothing is filled in', async () => {
  const bytes = new TextEncoder().encode('{"boats_one": "a boat", "boats_other": "boats"}');
  const keys = async (syntax?: TextSyntax) =>
    unwrap(await readCatalogue('en.json', bytes, syntax)).entries.map(({ key }) => key);
  expect(await keys()).toEqual(['boats']);
  expect(await keys('icu')).toEqual(['boats_one', 'boats_other']);
});

test('a flag of the file stands before what is named', async () => {
  const { entries } = unwrap(await readCatalogue('en.po', new TextEncoder().encode(FLAGGED), 'braces'));
  expect(entries[0]!.syntax).toBe('printf-c');
});
