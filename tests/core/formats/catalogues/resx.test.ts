/** Resource files of .NET: what is a text, what is filled in, and what stays when a language is made up. */
import { readCatalogue } from '../../../../src/core/formats/catalogues/read-catalogue.ts';
import { writeCatalogue } from '../../../../src/core/formats/catalogues/write-catalogue.ts';
import type { Catalogue } from '../../../../src/core/model/catalogue.ts';
import { unwrap } from '../../../../src/core/model/problem.ts';
import { pseudoLocalize } from '../../../../src/core/platform/text/pseudo-locale.ts';

const RESX = `<?xml version="1.0" encoding="utf-8"?>
<root>
  <!-- kept -->
  <resheader name="version"><value>2.0</value></resheader>
  <data name="Greeting" xml:space="preserve">
    <value>Hello {0}, you &amp; I</value>
    <comment>On the first page</comment>
  </data>
  <data name="Logo" type="System.Resources.ResXFileRef"><value>logo.png</value></data>
  <data name="&gt;&gt;Button.Name"><value>button</value></data>
  <data name="Braces"><value>set of {a}</value></data>
  <data name="Empty"><value></value></data>
</root>
`;
const read = async (path: string, text = RESX): Promise<Catalogue> =>
  unwrap(await readCatalogue(path, new TextEncoder().encode(text)));

test('texts alone, each in its own syntax', async () => {
  const { entries, problems } = await read('Resources/AppResources.pt-BR.resx');
  expect(problems).toEqual([]);
  expect(
    entries.map(({ forms, key, line, locale, syntax }) => [key, locale, forms[0]!.text, line, syntax]),
  ).toEqual([
    ['Greeting', 'pt-BR', 'Hello {0}, you & I', 6, 'braces'],
    ['Braces', 'pt-BR', 'set of {a}', 11, undefined],
    ['Empty', 'pt-BR', '', 12, undefined],
  ]);
});

test('a made-up language is the file with other texts', async () => {
  const catalogue = await read('AppResources.resx');
  const same = writeCatalogue(catalogue, 'AppResources.resx', catalogue.entries, 'de');
  expect(same).toEqual({ path: 'AppResources.de.resx', text: RESX });
  const made = pseudoLocalize(catalogue.entries, catalogue.syntax, 'accented');
  const { text } = writeCatalogue(catalogue, 'AppResources.resx', made, 'en-XA');
  const values = (of: string) => of.replace(/<value>[^<]*<\/value>/g, '<value/>');
  expect(values(text)).toBe(values(RESX));
  expect((await read('x.resx', text)).entries.map(({ forms }) => forms[0]!.text)).toEqual([
    expect.stringMatching(/^\[Ĥéļļö \{0\}, ýöû & Î /),
    expect.stringMatching(/^\[šéţ öƒ \{å\} /),
    '',
  ]);
  expect(text).toContain('<value>logo.png</value>');
});

test('a file that breaks is read up to there', async () => {
  const { entries, problems } = await read('x.resx', RESX.slice(0, RESX.indexOf('Braces')));
  expect(entries.map(({ key }) => key)).toEqual(['Greeting']);
  expect(problems).toHaveLength(1);
});
