/** YAML catalogues: texts, plurals, roots; and what stays when a language is made up. */
import fc from 'fast-check';
import { parse } from 'yaml';
import { readCatalogue } from '../../../../src/core/formats/catalogues/read-catalogue.ts';
import { writeCatalogue } from '../../../../src/core/formats/catalogues/write-catalogue.ts';
import { isYamlTextTree } from '../../../../src/core/formats/catalogues/yaml-texts.ts';
import type { Catalogue } from '../../../../src/core/model/catalogue.ts';
import { unwrap } from '../../../../src/core/model/problem.ts';
import { pseudoLocalize } from '../../../../src/core/platform/text/pseudo-locale.ts';

const YAML = `# kept
en:
  home:
    title: "Hello %{name}"   # and this
    404: Not found
  boats:
    one: 1 boat
    other: '%{count} boats'
  long: |
    Two lines
    of text
  list: [first, second]
  seats: 12
`;
const read = async (path: string, text = YAML): Promise<Catalogue> =>
  unwrap(await readCatalogue(path, new TextEncoder().encode(text)));

test('texts, plurals and lists, in the language of the root', async () => {
  const { entries, syntax } = await read('config/locales/main.yml');
  expect(syntax).toBe('braces');
  expect(
    entries.map(({ forms, key, locale }) => [key, locale, ...forms.map(({ form, text }) => form + text)]),
  ).toEqual([
    ['home.title', 'en', 'Hello %{name}'],
    ['home.404', 'en', 'Not found'],
    ['boats', 'en', 'one1 boat', 'other%{count} boats'],
    ['long', 'en', 'Two lines\nof text\n'],
    ['list.0', 'en', 'first'],
    ['list.1', 'en', 'second'],
  ]);
  expect((await read('i18n/de.yaml', 'a: A\nb: B\n')).entries.map(({ locale }) => locale)).toEqual([
    'de',
    'de',
  ]);
});

test('a made-up language: other texts, another root, and nothing else', async () => {
  const catalogue = await read('config/locales/en.yml');
  const made = pseudoLocalize(catalogue.entries, catalogue.syntax, 'accented');
  const { path, text } = writeCatalogue(catalogue, 'config/locales/en.yml', made, 'en-XA');
  expect(path).toBe('en-XA.yml');
  expect(text).toContain('# kept\nen-XA:\n');
  expect(text).toContain('# and this');
  const shape = (value: unknown): unknown =>
    typeof value === 'object' && value !== null
      ? Object.fromEntries(Object.entries(value).map(([key, of]) => [key.replace('en-XA', 'en'), shape(of)]))
      : typeof value;
  expect(shape(parse(text))).toEqual(shape(parse(YAML)));
  expect(parse(text)['en-XA'].home.title).toMatch(/^\[Ĥéļļö %\{name\} /);
  expect(writeCatalogue(catalogue, 'config/locales/en.yml', catalogue.entries, 'en').text).toBe(YAML);
});

test('whatever a text holds is written so that it is read again', async () => {
  await fc.assert(
    fc.asyncProperty(fc.string({ unit: 'grapheme', maxLength: 40 }), async (text) => {
      const catalogue = await read('i18n/en.yml', 'en:\n  a: plain # note\n  b: |-\n    block\n  c: end\n');
      const entries = catalogue.entries.map((entry) => ({
        ...entry,
        forms: entry.forms.map((form) => ({ ...form, text: `x${text}` })),
      }));
      const written = writeCatalogue(catalogue, 'i18n/en.yml', entries, 'de').text;
      expect(parse(written)).toEqual({ de: { a: `x${text}`, b: `x${text}`, c: `x${text}` } });
    }),
    { numRuns: 200 },
  );
});

test.each([
  ['texts', 'de:\n  a: A\n', true],
  ['settings', 'port: 80\nhost: x\n', false],
  ['broken', 'a: [1\n', false],
])('what a tree of texts is: %s', (_, yaml, expected) => {
  expect(isYamlTextTree(yaml)).toBe(expected);
});

test('a file that breaks is told with its line', async () => {
  const { entries, problems } = await read('de.yml', 'a: "x\nb: y\n');
  expect(entries).toEqual([]);
  expect(problems[0]!.place).toMatch(/^de\.yml, line \d/);
});
