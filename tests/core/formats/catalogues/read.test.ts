/** Catalogues as people and tools write them, and what is said of broken ones. */
import { readCatalogue } from '../../../../src/core/formats/catalogues/read-catalogue.ts';
import { formatProblem, unwrap } from '../../../../src/core/model/problem.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
async function read(path: string, content: string | Uint8Array) {
  const result = await readCatalogue(path, typeof content === 'string' ? bytes(content) : content);
  if (!result.ok) return { said: [formatProblem(result.problem)], texts: [] };
  const { entries, problems } = result.value;
  const texts = entries.flatMap(({ forms, key, line, locale }) =>
    forms.map(({ form, swallowed, text }) => [
      `${locale} ${key}${form && ` ${form}`}`,
      text,
      ...(swallowed ?? []),
      ...(line ? [line] : []),
    ]),
  );
  return { said: problems.map(formatProblem), texts };
}

const xml = (body: string) =>
  `<?xml version="1.0" encoding="utf-8"?>\n<resources xmlns:xliff="urn:x">\n${body}\n</resources>`;

test.each<[string, string, (string | number)[]]>([
  ['blanks count once', '<string name="k">\n   a\n  b </string>', ['a b']],
  ['quotes keep them', '<string name="k">" a  b "</string>', [' a  b ']],
  ['escapes', String.raw`<string name="k">It\'s \"5\"\n\u00e9 \@ \\</string>`, ['It\'s "5"\né @ \\']],
  ['CDATA and entities', '<string name="k"><![CDATA[<b>a</b>]]> &amp; &lt;i></string>', ['<b>a</b> & <i>']],
  [
    'styled text',
    '<string name="k">a <b>big</b> <font color="red">b</font></string>',
    ['a <b>big</b> <font color="red">b</font>'],
  ],
  ['protected placeholders', '<string name="k">to <xliff:g id="x">%1$s</xliff:g>!</string>', ['to %1$s!']],
  ['a bare apostrophe', `<string name="k">don't</string>`, ['dont', "'"]],
  ['an unknown escape', String.raw`<string name="k">a\d</string>`, ['ad', String.raw`\d`]],
])('Android: %s', async (_, element, [text, ...swallowed]) => {
  const { said, texts } = await read('res/values-de/strings.xml', xml(element));
  expect([said, texts]).toEqual([[], [['de k', text, ...swallowed, 3]]]);
});

test('Android: plurals, lists, and the languages of folders', async () => {
  const body =
    '<plurals name="p"><item quantity="one">1</item><item quantity="other">n</item></plurals><string-array name="l"><item>a</item><item>b</item></string-array>';
  const { texts } = await read('res/values-b+sr+Latn/x.xml', xml(body));
  expect(texts).toEqual([
    ['sr-Latn p one', '1', 3],
    ['sr-Latn p other', 'n', 3],
    ['sr-Latn l 0', 'a', 3],
    ['sr-Latn l 1', 'b', 3],
  ]);
  for (const [folder, locale] of [
    ['values', 'default'],
    ['values-iw', 'he'],
    ['values-pt-rBR', 'pt-BR'],
    ['values-night', 'default'],
  ])
    expect((await read(`res/${folder}/s.xml`, xml('<string name="k">x</string>'))).texts).toEqual([
      [`${locale} k`, 'x', 3],
    ]);
});

test('string catalogues: plurals, substitutions, devices, and keys that are not to be translated', async () => {
  const unit = (value: string) => ({ stringUnit: { state: 'translated', value } });
  const strings = {
    plain: { shouldTranslate: false, localizations: { en: unit('Plain') } },
    count: {
      localizations: {
        de: { variations: { plural: { one: unit('%lld Boot'), other: unit('%lld Boote') } } },
      },
    },
    boats: {
      localizations: {
        de: {
          ...unit('%#@n@ da'),
          substitutions: { n: { argNum: 1, variations: { plural: { other: unit('%arg Boote') } } } },
        },
      },
    },
    tap: { localizations: { en: { variations: { device: { mac: unit('Click'), other: unit('Tap') } } } } },
  };
  const { said, texts } = await read(
    'L.xcstrings',
    JSON.stringify({ sourceLanguage: 'en', strings, version: '1.0' }),
  );
  expect([said, texts]).toEqual([
    [],
    [
      ['en plain', 'Plain', 1],
      ['de count one', '%lld Boot', 1],
      ['de count other', '%lld Boote', 1],
      ['de boats n/other', '%arg Boote', 1],
      ['en tap', 'Tap', 1],
    ],
  ]);
});

test('XLIFF of either version, with inline elements of every sort', async () => {
  const old = `<xliff version="1.2"><file original="Localizable.strings" source-language="en" target-language="de"><body>
    <trans-unit id="a"><source>Hi <x id="1" equiv-text="%@"/></source><alt-trans><target>no</target></alt-trans><target>Hallo <ph id="1">%@</ph></target></trans-unit>
    <trans-unit id="n|==|plural.one"><source>%d boat</source><target><bpt id="1">&lt;b&gt;</bpt>%d Boot<ept id="1">&lt;/b&gt;</ept></target></trans-unit>
    </body></file></xliff>`;
  expect((await read('x.xliff', old)).texts).toEqual([
    ['en a', 'Hi %@', 2],
    ['en n one', '%d boat', 3],
    ['de a', 'Hallo %@', 2],
    ['de n one', '<b>%d Boot</b>', 3],
  ]);
  const young = `<xliff version="2.0" srcLang="en" trgLang="de"><file id="f"><unit id="u" name="a">
    <originalData><data id="d1">%1$s</data><data id="d2">&lt;i&gt;</data><data id="d3">&lt;/i&gt;</data></originalData>
    <segment><source>Hi <ph id="1" dataRef="d1"/></source><target><pc id="2" dataRefStart="d2" dataRefEnd="d3">Hallo</pc> <ph id="1" dataRef="d1"/></target></segment></unit></file></xliff>`;
  expect((await read('x.xlf', young)).texts).toEqual([
    ['en a', 'Hi %1$s', 1],
    ['de a', '<i>Hallo</i> %1$s', 1],
  ]);
});

test('PO: numbered forms become categories, fuzzy and obsolete ones are left out', async () => {
  const po = String.raw`msgid ""
msgstr "Language: pl\nPlural-Forms: nplurals=3; plural=n==1 ? 0 : n%10>=2 && n%10<=4 && (n%100<10 || n%100>=20) ? 1 : 2;\n"

#: src/a.c:3
#, c-format
msgid "%d seat"
msgid_plural "%d seats"
msgstr[0] "%d miejsce"
msgstr[1] "%d miejsca"
msgstr[2] ""
"%d miejsc"

#, fuzzy
msgid "Hello"
msgstr "Pa"

#~ msgid "gone"
#~ msgstr "dawno"
`;
  expect(await read('po/pl.po', po)).toEqual({
    said: [],
    texts: [
      ['default %d seat one', '%d seat', 6],
      ['default %d seat other', '%d seats', 6],
      ['pl %d seat one', '%d miejsce', 6],
      ['pl %d seat few', '%d miejsca', 6],
      ['pl %d seat many', '%d miejsc', 6],
      ['default Hello', 'Hello', 14],
    ],
  });
});

test.each<[string, string, string | Uint8Array, RegExp, number]>([
  [
    'half an XML file',
    'res/values/s.xml',
    xml('<string name="a">A</string>\n<string name="b">B').slice(0, -13),
    /s\.xml, line \d: XML that cannot be read: unclosed tag/i,
    1,
  ],
  [
    'a wrong encoding',
    'de.lproj/L.strings',
    Uint8Array.of(...bytes('"a" = "x";\n"b" = "gr'), 0xfc, 0xdf, ...bytes('e";\n')),
    /L\.strings, line 2: bytes that are not UTF-8/,
    2,
  ],
  [
    'a string that never ends',
    'de.lproj/L.strings',
    '"a" = "x";\n"b" = "y',
    /L\.strings, line 2, b: .*the value|L\.strings, line 2, b/,
    1,
  ],
  [
    'half a JSON file',
    'app_de.arb',
    '{"a": "A", "b": "B",',
    /app_de\.arb, line 1: JSON that cannot be read/,
    2,
  ],
  ['a text in no quotes', 'de.po', 'msgid "a"\nmsgstr "A"\nmsgid b\n', /de\.po, line 3: "msgid b"/, 2],
  [
    'a plural expression that is none',
    'pl.po',
    'msgid ""\nmsgstr "Language: pl\\nPlural-Forms: nplurals=2; plural=many;\\n"\n\nmsgid "a"\nmsgid_plural "b"\nmsgstr[0] "x"\n',
    /Plural-Forms: "nplurals=2; plural=many;"; expected nplurals=NUMBER; plural=EXPRESSION;/,
    3,
  ],
  [
    'plural forms without a header',
    'pl.po',
    'msgid "a"\nmsgid_plural "b"\nmsgstr[0] "x"\n',
    /Plural-Forms: plural forms, and no header/,
    3,
  ],
  [
    'another number of forms than the header says',
    'pl.po',
    'msgid ""\nmsgstr "Language: pl\\nPlural-Forms: nplurals=2; plural=n != 1;\\n"\n\nmsgid "a"\nmsgid_plural "b"\nmsgstr[0] "x"\n',
    /pl\.po, line 4: 1 plural forms; expected 2, as the header says/,
    3,
  ],
  [
    'a character set that is none',
    'pl.po',
    'msgid ""\nmsgstr "Content-Type: text/plain; charset=latin-99\\n"\n',
    /the character set latin-99, which is not known/,
    0,
  ],
  [
    'a language that is none',
    'res/values-deutsch/s.xml',
    xml('<string name="a">A</string>'),
    /values-deutsch\/s\.xml: unknown language "deutsch"/,
    1,
  ],
  [
    'a quantity that is none',
    'res/values/s.xml',
    xml('<plurals name="p"><item quantity="lots">x</item><item quantity="other">y</item></plurals>'),
    /line 3, p: quantity "lots"; expected zero, one/,
    1,
  ],
  [
    'fifty megabytes',
    'res/values/s.xml',
    new Uint8Array(50 * 2 ** 20),
    /50 MiB of texts in one file; expected at most 32 MiB/,
    0,
  ],
  ['no catalogue', 'a.doc', '', /a file of no known kind \(a\.doc\)/, 0],
])('%s: the place is told, the rest is read', async (_, path, content, expected, count) => {
  const { said, texts } = await read(path, content);
  expect(said.join('\n')).toMatch(expected);
  expect(texts).toHaveLength(count);
});

const PO_HEADER = (language: string, plural: string, charset = 'UTF-8') =>
  `msgid ""\nmsgstr ""\n"Content-Type: text/plain; charset=${charset}\\n"\n"Language: ${language}\\n"\n"Plural-Forms: ${plural};\\n"\n\n`;

test('PO: contexts tell messages of one text apart; a table’s keys stand alone', async () => {
  const one = (context: string, id: string) => `msgctxt "${context}"\nmsgid "${id}"\nmsgstr "x"\n\n`;
  const keysOf = async (po: string) => (await read('de.po', po)).texts.map(([key]) => key);
  expect(await keysOf(one('menu', 'Open') + one('menu', 'Close') + one('door', 'Open'))).toEqual(
    ['menu|Open', 'menu|Close', 'door|Open'].flatMap((key) => [`default ${key}`, `de ${key}`]),
  );
  expect(await keysOf(one('menu_open', 'Open') + one('door_open', 'Open'))).toEqual(
    ['menu_open', 'door_open'].flatMap((key) => [`default ${key}`, `de ${key}`]),
  );
});

test.each<[language: string, plural: string, forms: string[], needed: string[]]>([
  ['tr', 'nplurals=1; plural=0', ['other'], ['other']],
  ['he', 'nplurals=2; plural=n != 1', ['one', 'other'], ['one', 'other']],
  [
    'lv',
    'nplurals=3; plural=n%10==1 && n%100!=11 ? 0 : n != 0 ? 1 : 2',
    ['one', 'other', 'zero'],
    ['one', 'other', 'zero'],
  ],
  ['pl', 'nplurals=2; plural=n != 1', ['one', 'many'], ['many', 'one', 'few']],
  [
    'pl',
    'nplurals=4; plural=n==1 ? 0 : n%10>=2 && n%10<=4 && (n%100<10 || n%100>=20) ? 1 : n%10<=1 || n%10>=5 ? 2 : 3',
    ['one', 'few', 'many', '[3]'],
    ['one', 'few', 'many', '[3]'],
  ],
])('PO: forms of %s by "%s"', async (language, plural, forms, needed) => {
  const texts = forms.map((_, i) => `msgstr[${i}] "f${i}"`).join('\n');
  const po = `${PO_HEADER(language, plural)}msgid "a"\nmsgid_plural "b"\n${texts}\n`;
  const { entries, problems } = unwrap(await readCatalogue(`${language}.po`, new TextEncoder().encode(po)));
  const entry = entries.find(({ locale }) => locale === language)!;
  expect(entry.forms.map(({ form }) => form)).toEqual(forms);
  expect([...entry.neededForms!].sort()).toEqual([...needed].sort());
  expect(problems).toEqual([]);
});

test('PO: the character set and the script that a file names', async () => {
  const po = `${PO_HEADER('sr@latin', 'nplurals=1; plural=0', 'ISO-8859-2')}msgid "a"\nmsgstr "`;
  const encoded = Uint8Array.of(
    ...new TextEncoder().encode(po),
    0xe8,
    0xe6,
    ...new TextEncoder().encode('"\n'),
  );
  expect((await read('x.po', encoded)).texts).toContainEqual(['sr-Latn a', 'čć', 7]);
});

test('PO: each message in the syntax that it is flagged with', async () => {
  const one = (flags: string, id: string) => `${flags}msgid "${id}"\nmsgstr "x"\n\n`;
  const po =
    PO_HEADER('de', 'nplurals=1; plural=0') +
    one('#, c-format\n', 'a') +
    one('#, fuzzy, python-format\n', 'b') +
    one('#, no-c-format\n', 'c') +
    one('#, python-brace-format\n', 'd') +
    one('#, objc-format\n', 'e') +
    one('#, kde-format\n', 'f') +
    one('', 'g');
  const { entries } = unwrap(await readCatalogue('de.po', new TextEncoder().encode(po)));
  expect(entries.filter(({ locale }) => locale === 'default').map(({ syntax }) => syntax)).toEqual([
    'printf-c',
    'percent-python',
    'plain',
    'braces',
    'printf-apple',
    'plain',
    'plain',
  ]);
});
