/** Catalogues written and read back in every format, and one catalogue in all of them. */
import fc from 'fast-check';
import { writeAndroidStrings } from '../../../../src/core/formats/catalogues/android-strings.ts';
import {
  writeAppleStrings,
  writeAppleStringsdict,
} from '../../../../src/core/formats/catalogues/apple-tables.ts';
import { writeArb } from '../../../../src/core/formats/catalogues/arb.ts';
import { writePo } from '../../../../src/core/formats/catalogues/po.ts';
import { readCatalogue } from '../../../../src/core/formats/catalogues/read-catalogue.ts';
import { writeXcstrings } from '../../../../src/core/formats/catalogues/xcstrings.ts';
import { writeXliff } from '../../../../src/core/formats/catalogues/xliff.ts';
import type { Catalogue, CatalogueEntry } from '../../../../src/core/model/catalogue.ts';
import { unwrap } from '../../../../src/core/model/problem.ts';
import { parseText } from '../../../../src/core/platform/text/parse-text.ts';
import { plainLiteral, writeText } from '../../../../src/core/platform/text/write-text.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const read = async (path: string, text: string): Promise<Catalogue> =>
  unwrap(await readCatalogue(path, bytes(text)));
const LANGUAGES = { source: 'en', target: 'de' };

/** Each format writes what it can hold: one language, or both at once. */
type Written = 'printf-java' | 'printf-apple' | 'icu';
const FORMATS: Record<
  string,
  { syntax: Written; files: (entries: CatalogueEntry[]) => [path: string, text: string][] }
> = {
  'Android strings.xml': {
    syntax: 'printf-java',
    files: (all) =>
      eachLocale(all, (entries, locale) => [
        [`res/values-${locale}/strings.xml`, writeAndroidStrings(entries)],
      ]),
  },
  'Apple .strings and .stringsdict': {
    syntax: 'printf-apple',
    files: (all) =>
      eachLocale(all, (entries, locale) => [
        [`${locale}.lproj/Localizable.strings`, writeAppleStrings(entries)],
        [`${locale}.lproj/Localizable.stringsdict`, writeAppleStringsdict(entries)],
      ]),
  },
  'Apple .xcstrings': {
    syntax: 'printf-apple',
    files: (all) => [['Localizable.xcstrings', writeXcstrings(all, 'en')]],
  },
  ARB: {
    syntax: 'icu',
    files: (all) => eachLocale(all, (entries, locale) => [[`app_${locale}.arb`, writeArb(entries, locale)]]),
  },
  'XLIFF 1.2': {
    syntax: 'printf-java',
    files: (all) => [['de.xlf', writeXliff(all, 'printf-java', '1.2', LANGUAGES)]],
  },
  'XLIFF 2.1': {
    syntax: 'printf-apple',
    files: (all) => [['de.xliff', writeXliff(all, 'printf-apple', '2.1', LANGUAGES)]],
  },
  'gettext PO': {
    syntax: 'printf-java',
    files: (all) => [['de.po', writePo(all, 'printf-java', LANGUAGES)]],
  },
};

const eachLocale = (
  all: CatalogueEntry[],
  write: (entries: CatalogueEntry[], locale: string) => [string, string][],
) =>
  ['en', 'de'].flatMap((locale) =>
    write(
      all.filter((entry) => entry.locale === locale),
      locale,
    ),
  );

async function throughFormat(name: string, entries: CatalogueEntry[]): Promise<Catalogue[]> {
  const format = FORMATS[name]!;
  return Promise.all(format.files(entries).map(([path, text]) => read(path, text)));
}

const bare = ({ forms, key, kind, locale }: CatalogueEntry) => ({
  key,
  locale,
  kind,
  forms: forms.map(({ form, text }) => ({ form, text })),
});
const inOrder = (entries: CatalogueEntry[]) =>
  entries.map(bare).sort((a, b) => (`${a.locale} ${a.key}` < `${b.locale} ${b.key}` ? -1 : 1));

// whatever XML can hold, without the blanks that XML's own line ends become
const words = fc
  .string({ unit: fc.constantFrom(...'aZéß 東ע\'"\\&<>%{}@?#\n\t.,:'), maxLength: 14 })
  .map((text) => text.replace(/[\ud800-\udfff]/g, ''));
const placeholder: Record<Written, fc.Arbitrary<string>> = {
  'printf-java': fc.constantFrom('%s', '%1$s', '%2$d', '%.2f', '<b>', '</b>'),
  'printf-apple': fc.constantFrom('%@', '%1$@', '%2$lld', '%.2f'),
  icu: fc.constantFrom('{name}', '{count, number}', "''"),
};
const literalFor = (syntax: Written) =>
  // an argument within a tag belongs to the tag, so that no tag is begun here
  words.map((text) => (syntax === 'icu' ? text.replace(/[{}'<]/g, '') : text.replace(/%/g, '')));
const textFor = (syntax: Written) =>
  fc
    .array(fc.oneof(literalFor(syntax), placeholder[syntax]), { minLength: 1, maxLength: 4 })
    .map((parts) => parts.join('') || 'x');
const key = fc.stringMatching(/^[a-z][a-z_]{2,9}$/);

const catalogueFor = (syntax: Written) =>
  fc
    .uniqueArray(
      fc.record({
        key,
        plural: fc.boolean(),
        texts: fc.array(textFor(syntax), { minLength: 4, maxLength: 4 }),
      }),
      {
        selector: ({ key: of }) => of,
        minLength: 1,
        maxLength: 5,
      },
    )
    .map((rows) =>
      rows.flatMap(({ key: of, plural, texts }) =>
        ['en', 'de'].map(
          (locale, i): CatalogueEntry => ({
            key: of,
            locale,
            kind: plural ? 'plural' : 'text',
            forms: plural
              ? [
                  { form: 'one', text: texts[i]! },
                  { form: 'other', text: texts[i + 2]! },
                ]
              : [{ form: '', text: texts[i]! }],
          }),
        ),
      ),
    );

test.each(Object.keys(FORMATS))('%s: what is written is read back', async (name) => {
  const { syntax } = FORMATS[name]!;
  await fc.assert(
    fc.asyncProperty(catalogueFor(syntax), async (entries) => {
      const catalogues = await throughFormat(name, entries);
      expect(catalogues.flatMap(({ problems }) => problems)).toEqual([]);
      expect(inOrder(catalogues.flatMap((catalogue) => catalogue.entries))).toEqual(
        inOrder(name.startsWith('ARB') ? entries.map(namedArgument) : entries),
      );
    }),
    { numRuns: 60 },
  );
});

/** In ICU the number has a name, which `#` stands for. */
const namedArgument = (entry: CatalogueEntry): CatalogueEntry => {
  if (entry.kind !== 'plural') return entry;
  const name = /\{(name|count)/.exec(entry.forms.map(({ text }) => text).join())?.[1] ?? 'count';
  return {
    ...entry,
    forms: entry.forms.map((form) => ({ ...form, text: form.text.replaceAll('#', `{${name}}`) })),
  };
};

const ONE: CatalogueEntry[] = [
  { key: 'greeting', locale: 'en', kind: 'text', forms: [{ form: '', text: "It's %1$s, 100%% {sure}" }] },
  {
    key: 'greeting',
    locale: 'de',
    kind: 'text',
    forms: [{ form: '', text: 'Das ist %1$s, 100%% {sicher}' }],
  },
  { key: 'distance', locale: 'en', kind: 'text', forms: [{ form: '', text: '%2$s: %1$f' }] },
  { key: 'distance', locale: 'de', kind: 'text', forms: [{ form: '', text: 'nach %2$s %1$f' }] },
  {
    key: 'seats',
    locale: 'en',
    kind: 'plural',
    forms: [
      { form: 'one', text: '%1$d seat “left”\nfor %2$s' },
      { form: 'other', text: '%1$d seats “left”\nfor %2$s' },
    ],
  },
  {
    key: 'seats',
    locale: 'de',
    kind: 'plural',
    forms: [
      { form: 'one', text: '%1$d Platz\nfür %2$s' },
      { form: 'other', text: '%1$d Plätze\nfür %2$s' },
    ],
  },
];

/** What is left where syntax is left out. */
function modelOf({ entries, syntax }: Catalogue) {
  return entries.map(({ forms, key: of, kind, locale }) => {
    const texts = forms.map(({ form, text }) => {
      const { parts } = parseText(text, syntax, ['arg1', 'arg2']);
      const isFormatted = parts.some((part) => part.kind === 'placeholder');
      return [
        form,
        parts.map((part) =>
          part.kind === 'placeholder'
            ? [part.position, part.type]
            : plainLiteral(part.written, syntax, isFormatted),
        ),
      ];
    });
    return { key: of, locale, kind, texts };
  });
}

test('one catalogue in seven formats gives one model', async () => {
  const expected = modelOf({ entries: ONE, syntax: 'printf-java', format: 'android-strings', problems: [] });
  const byKey = (a: { key: string; locale: string }, b: { key: string; locale: string }) =>
    `${a.locale} ${a.key}` < `${b.locale} ${b.key}` ? -1 : 1;
  for (const [name, { syntax }] of Object.entries(FORMATS)) {
    const translated = ONE.map((entry) => ({
      ...entry,
      forms: entry.forms.map((form) => ({
        ...form,
        text: writeText(parseText(form.text, 'printf-java').parts, 'printf-java', syntax),
      })),
    }));
    const catalogues = await throughFormat(name, translated);
    expect([name, catalogues.flatMap(modelOf).sort(byKey)]).toEqual([
      name,
      [...expected].sort(byKey).map((entry) => (syntax === 'icu' ? asIcu(entry) : entry)),
    ]);
  }
});

// ICU tells the kind of a number by a style only, and an argument without one is a text
const asIcu = (entry: ReturnType<typeof modelOf>[number]) => ({
  ...entry,
  texts: entry.texts.map(([form, parts]) => [
    form,
    (parts as (string | [number, string])[]).map((part) =>
      typeof part === 'string' ? part : [part[0], 'text'],
    ),
  ]),
});
