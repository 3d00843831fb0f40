/** Sources of Android's texts beside the platform's own packer: what it refuses, and what is written for it. */
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { writeAndroidStrings } from '../../../../src/core/formats/catalogues/android-strings.ts';
import { readCatalogue } from '../../../../src/core/formats/catalogues/read-catalogue.ts';
import type { CatalogueText } from '../../../../src/core/model/app-package.ts';
import type { Catalogue, CatalogueEntry } from '../../../../src/core/model/catalogue.ts';
import { unwrap } from '../../../../src/core/model/problem.ts';
import { pseudoLocales, pseudoLocalize } from '../../../../src/core/platform/text/pseudo-locale.ts';
import { withPackage } from '../../../../src/node/read-package.ts';
import { packApp } from '../../../support/packed-app.ts';
import { describeWith, scratchFolder, tools } from '../../../support/paths.ts';

const scratch = scratchFolder();
const xml = (inside: string) => `<?xml version="1.0"?><resources>${inside}</resources>`;
const read = async (path: string, text: string): Promise<Catalogue> =>
  unwrap(await readCatalogue(path, new TextEncoder().encode(text)));

function entriesOf(texts: readonly CatalogueText[], locale: string): CatalogueEntry[] {
  const entries = new Map<string, CatalogueEntry>();
  for (const text of texts.filter((of) => of.locale === locale)) {
    const [, prefix, key = ''] = /^(plurals|array)?\/?(.*)$/.exec(text.key)!;
    const kind = prefix === 'plurals' ? 'plural' : prefix === 'array' ? 'list' : 'text';
    const entry = entries.get(text.key) ?? { key, locale, kind, forms: [] };
    entry.forms.push({ form: text.form ?? '', text: text.text });
    entries.set(text.key, entry);
  }
  return [...entries.values()];
}
const MANIFEST =
  '<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="a.b"><application/></manifest>';

describeWith('aapt2', 'framework')('made-up languages of the platform’s own texts', () => {
  test('what is written compiles, and comes back as it was meant', async () => {
    const { texts } = await withPackage(tools.framework, ({ app }) => app);
    let count = 0;
    for (const locale of ['default', 'de', 'ru', 'ar', 'ja'])
      for (const kind of pseudoLocales) {
        const made = pseudoLocalize(entriesOf(texts, locale), 'printf-java', kind);
        const folder = mkdtempSync(join(scratch, 'pseudo-'));
        const packed = packApp(folder, {
          'AndroidManifest.xml': MANIFEST,
          'res/values/strings.xml': writeAndroidStrings(made),
        });
        const back = await withPackage(packed, ({ app }) => app.texts);
        const found = new Map(back.map((text) => [`${text.key} ${text.form ?? ''}`, text.text]));
        const prefix = { text: '', plural: 'plurals/', list: 'array/' };
        for (const { forms, key, kind: of } of made)
          for (const { form, text } of forms) {
            expect([key, found.get(`${prefix[of]}${key} ${form}`)]).toEqual([key, text]);
            count += 1;
          }
      }
    expect(count).toBeGreaterThan(5000);
  });
});

describeWith('aapt2')('folders and elements', () => {
  const compile = (folder: string, text: string) => {
    const place = join(mkdtempSync(join(scratch, 'folder-')), folder);
    mkdirSync(place);
    writeFileSync(join(place, 'strings.xml'), text);
    return spawnSync(tools.aapt2, ['compile', join(place, 'strings.xml'), '-o', scratch]).status === 0;
  };

  test('orders of qualifiers that the packer refuses, at random', async () => {
    const one = fc.constantFrom(
      ...['mcc310', 'de', 'de-rAT', 'b+sr+Latn', 'ldrtl', 'sw600dp', 'w720dp', 'h480dp', 'large', 'long'],
      ...[
        'round',
        'land',
        'car',
        'night',
        'xhdpi',
        'notouch',
        'keysexposed',
        'qwerty',
        'navhidden',
        'dpad',
        'v26',
      ],
    );
    const counts = { refused: 0, taken: 0 };
    await fc.assert(
      fc.asyncProperty(fc.uniqueArray(one, { minLength: 2, maxLength: 4 }), async (qualifiers) => {
        // two languages are none
        fc.pre(qualifiers.filter((of) => /^(de|b\+)/.test(of)).length < 2);
        const folder = `values-${qualifiers.join('-')}`;
        const taken = compile(folder, xml('<string name="a">A</string>'));
        counts[taken ? 'taken' : 'refused'] += 1;
        const { problems } = await read(`res/${folder}/strings.xml`, xml('<string name="a">A</string>'));
        expect([folder, problems.some(({ code }) => code === 'catalogue.folder')]).toEqual([folder, !taken]);
      }),
      { numRuns: 250 },
    );
    expect(Math.min(counts.refused, counts.taken)).toBeGreaterThan(20);
  });

  test('texts of several products are different texts, and are written as they were', async () => {
    const source =
      '<string name="a" product="tablet">Tablet</string><string name="a" product="default">Phone</string>' +
      '<string name="b">%s of %s</string><string name="c">%1$s of %2$s, 50 %%</string>';
    const { entries, problems } = await read('res/values/s.xml', xml(source));
    expect(problems).toEqual([]);
    expect(entries.map(({ forms, key, product }) => [key, product, forms[0]!.text])).toEqual([
      ['a', 'tablet', 'Tablet'],
      ['a', undefined, 'Phone'],
      ['b', undefined, '%s of %s'],
      ['c', undefined, '%1$s of %2$s, 50 %%'],
    ]);
    const written = writeAndroidStrings(entries);
    expect(compile('values', written)).toBe(true);
    expect((await read('res/values/s.xml', written)).entries.map(({ product }) => product)).toEqual([
      ...['tablet', undefined, undefined, undefined],
    ]);
    expect([...written.matchAll(/formatted="false"/g)]).toHaveLength(1);
  });

  test('texts that refer to others are these, or stay references', async () => {
    const source =
      '<string name="a">Anchor</string><string name="b">@string/a</string><string name="c">@string/b</string>' +
      '<string name="d">@string/elsewhere</string><string name="e">\\@string/a</string><string name="f">@string/f</string>' +
      '<string-array name="l"><item>@string/a</item><item>plain @string/a</item></string-array>';
    const { entries } = await read('res/values/s.xml', xml(source));
    expect(
      entries.map(({ forms, key }) => [key, ...forms.map(({ reference, text }) => [text, reference])]),
    ).toEqual([
      ['a', ['Anchor', undefined]],
      ['b', ['Anchor', '@string/a']],
      ['c', ['Anchor', '@string/b']],
      ['d', ['@string/elsewhere', '@string/elsewhere']],
      ['e', ['@string/a', undefined]],
      ['f', ['@string/f', '@string/f']],
      ['l', ['Anchor', '@string/a'], ['plain @string/a', undefined]],
    ]);
    const back = await read('res/values/s.xml', writeAndroidStrings(entries));
    expect(back.entries.map(({ forms }) => forms.map(({ reference }) => reference))).toEqual(
      entries.map(({ forms }) => forms.map(({ reference }) => reference)),
    );
  });
});
