/**
 * What is the app's and what came with libraries, and what follows from it: packages built by the packer from sources,
 * one of them with what appcompat brings along.
 */
import { execFileSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { missingDefault } from '../../../src/core/areas/resources/checks/missing-default.ts';
import { draftIntent } from '../../../src/core/drafts/intent-draft.ts';
import { libraryOf } from '../../../src/core/platform/android/library-resources.ts';
import { factsOfPackageFile } from '../../../src/node/observe.ts';
import { withPackage } from '../../../src/node/read-package.ts';
import { anIntent, departures, run } from '../../support/facts.ts';
import { describeWith, scratchFolder, tools } from '../../support/paths.ts';
import { findingsIn, formatFindings } from '../../support/texts.ts';

test.each<[name: string, text: string | undefined, library: string | undefined]>([
  ['abc_action_bar_up_description', 'Navigate up', 'androidx.appcompat'],
  ['string/abc_action_bar_up_description', undefined, 'androidx.appcompat'],
  ['drawable/$avd_hide_password__0', undefined, 'material'],
  ['drawable/notification_bg_normal', undefined, 'androidx.core'],
  ['close_drawer', 'Close navigation menu', 'androidx.compose'],
  // the app's own, under a name that a library has too
  ['close_drawer', 'Put the drawer away', undefined],
  ['search_menu_title', 'Find a ferry', undefined],
  ['notification_action_reply', 'Reply', undefined],
  ['notification_background', undefined, undefined],
  ['preference_sound', 'Sound', undefined],
  ['design_studio_title', 'Studio', undefined],
  ['abcde', 'Alphabet', undefined],
])('%s (%s) came with %s', (name, text, library) => {
  expect(libraryOf(name, text)).toBe(library);
});

const scratch = scratchFolder();

/** Packs sources, each with its path below `res` or `assets`, into a package without code. */
function pack(
  name: string,
  minSdk: number,
  files: Record<string, string>,
  assets: Record<string, string> = {},
): string {
  const folder = join(scratch, name);
  const all = { res: files, assets };
  for (const [root, of] of Object.entries(all))
    for (const [path, text] of Object.entries({ ...of, ...(root === 'assets' && { 'read.me': 'x' }) })) {
      mkdirSync(dirname(join(folder, root, path)), { recursive: true });
      writeFileSync(join(folder, root, path), text);
    }
  const manifest = join(folder, 'AndroidManifest.xml');
  writeFileSync(
    manifest,
    `<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="example.packed">
       <uses-sdk android:minSdkVersion="${minSdk}" android:targetSdkVersion="35"/>
       <application android:label="Packed" android:icon="@drawable/icon" android:theme="@style/Own"/>
     </manifest>`,
  );
  const aapt2 = (...args: string[]) => execFileSync(tools.aapt2, args, { stdio: 'pipe' });
  aapt2('compile', '--dir', join(folder, 'res'), '-o', join(folder, 'res.zip'));
  aapt2(
    'link',
    '--manifest',
    manifest,
    '-I',
    tools.framework,
    '-A',
    join(folder, 'assets'),
    '-o',
    join(folder, 'app.apk'),
    join(folder, 'res.zip'),
  );
  return join(folder, 'app.apk');
}

const strings = (texts: Record<string, string>): string =>
  `<resources>${Object.entries(texts)
    .map(([name, text]) => `<string name="${name}">${text}</string>`)
    .join('')}</resources>`;
const shape =
  '<shape xmlns:android="http://schemas.android.com/apk/res/android"><solid android:color="#fff"/></shape>';
const layoutWith = (background: string): string =>
  `<View xmlns:android="http://schemas.android.com/apk/res/android" android:layout_width="1dp" android:layout_height="1dp" android:background="${background}"/>`;
const common = {
  'drawable/icon.xml': shape,
  'values/styles.xml':
    '<resources><style name="Own" parent="android:Theme"><item name="android:windowBackground">@drawable/icon</item></style></resources>',
};

const own = Object.fromEntries(
  Array.from({ length: 10 }, (_, i) => [`own_${i}`, `A text of its own, number ${i}`]),
);

describeWith('aapt2', 'framework')('languages that are meant', () => {
  const of = (count: number, word: string) =>
    Object.fromEntries(
      Object.keys(own)
        .slice(0, count)
        .map((name, i) => [name, `${word} ${i}`]),
    );
  const library = { abc_action_bar_up_description: 'Navigate up', abc_capital_on: 'ON' };

  test('are those that hold the app’s own texts, not those of a library; regions go with their language', async () => {
    const apk = pack('languages', 26, {
      ...common,
      'values/strings.xml': strings({ ...own, ...library }),
      'values-de/strings.xml': strings({ ...of(9, 'Wort'), ...library }),
      'values-de-rAT/strings.xml': strings(of(1, 'Jause')),
      'values-pt-rBR/strings.xml': strings(of(8, 'Palavra')),
      'values-fr-rCA/strings.xml': strings(library),
      'values-ja/strings.xml': strings(library),
      'values-fi/strings.xml': strings(of(2, 'Sana')),
      'values-en-rXC/strings.xml': strings(library),
    });
    const draft = await withPackage(apk, ({ app }) => draftIntent(app));
    expect(draft.yaml).toContain('\nlocales: [en, de, de-AT, pt-BR]\n');
    const findings = findingsIn(
      await factsOfPackageFile(apk),
      ['missing-translation'],
      anIntent({ locales: ['en', 'de', 'de-AT', 'pt-BR'] }),
    );
    expect(formatFindings(findings)).toEqual([
      'missing-translation own_8 pt-BR',
      'missing-translation own_9 every language',
    ]);
  });

  test('a text that those who have it leave as it is may be a name', async () => {
    const apk = pack('names', 26, {
      ...common,
      'values/strings.xml': strings({ ...own, brand: 'Kelp & more'.replace('&', '&amp;') }),
      'values-de/strings.xml': strings({ ...of(10, 'Wort'), brand: 'Kelp &amp; more' }),
      'values-fi/strings.xml': strings(of(10, 'Sana')),
    });
    const findings = findingsIn(
      await factsOfPackageFile(apk),
      ['missing-translation'],
      anIntent({ locales: ['en', 'de', 'fi'] }),
    );
    expect(findings.map(({ basis, identity }) => `${basis} ${identity.subject}`)).toEqual([
      'estimated brand',
    ]);
  });
});

describeWith('aapt2', 'framework')('texts among the assets of a package', () => {
  const json = (texts: object) => JSON.stringify(texts);

  test('are read where there is more than one language, a file or a folder each; others are no catalogues', async () => {
    const apk = pack(
      'assets',
      26,
      { ...common, 'values/strings.xml': strings(own) },
      {
        'public/i18n/en.json': json({ pier: { title: 'Pier {{number}}', hint: 'Board early' } }),
        'public/i18n/de.json': json({ pier: { title: 'Steg {{nummer}}' } }),
        'flutter_assets/texts/en/home.yaml': 'greet: Good morning\n',
        'flutter_assets/texts/de/home.yaml': 'greet: Good morning\n',
        // a single one, and one that holds no texts
        'vendor/it.json': json({ a: 'ciao' }),
        'data/de.json': json({ a: 1, b: 2 }),
        'data/fr.json': json({ a: 1, b: 2 }),
      },
    );
    const findings = findingsIn(
      await factsOfPackageFile(apk),
      ['missing-translation', 'placeholder-mismatch', 'same-as-source', 'extra-translation'],
      anIntent({ locales: ['en', 'de'] }),
    ).filter(({ identity }) => !identity.subject.startsWith('own_'));
    expect(formatFindings(findings)).toEqual([
      'missing-translation locale de de',
      'missing-translation pier.hint every language',
      'placeholder-mismatch pier.title de',
      'same-as-source greet de',
    ]);
  });
});

describeWith('aapt2', 'framework')('a resource that not every device finds', () => {
  const check = async (name: string, files: Record<string, string>) =>
    departures(
      run(
        missingDefault,
        await factsOfPackageFile(pack(name, 21, { ...common, ...files })),
        anIntent({ locales: ['en'] }),
      ),
    );

  test('is missed where something asks for it on those devices', async () => {
    expect(
      await check('asked', {
        'values/styles.xml':
          '<resources><style name="Own" parent="android:Theme"><item name="android:windowBackground">@drawable/late</item></style></resources>',
        'drawable-v26/late.xml': shape,
      }),
    ).toEqual(['failed drawable/late']);
  });

  test('is not missed where only what newer devices pick asks for it', async () => {
    expect(
      await check('newer', {
        'values-v26/styles.xml':
          '<resources><style name="Own" parent="android:Theme"><item name="android:windowBackground">@drawable/late</item></style></resources>',
        'drawable-v26/late.xml': shape,
      }),
    ).toEqual([]);
  });

  test('nor one that a layout for wide screens alone asks for, and wide screens have', async () => {
    expect(
      await check('wide', {
        'values/styles.xml':
          '<resources><style name="Own" parent="android:Theme"><item name="android:windowBackground">@drawable/icon</item><item name="android:listPreferredItemHeight">1dp</item></style><item name="main_alias" type="layout">@layout/main</item></resources>',
        'values-v21/more.xml':
          '<resources><style name="Used"><item name="android:layout">@layout/main</item></style></resources>',
        'layout/main.xml': layoutWith('@drawable/icon'),
        'layout-sw600dp/main.xml': layoutWith('@drawable/wide'),
        'drawable-sw600dp/wide.xml': shape,
      }),
    ).toEqual([]);
  });
});
