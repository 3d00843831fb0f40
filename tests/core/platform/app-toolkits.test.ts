/** What an app is made with, from its package's files, types and libraries; and what then cannot be said from the package. */
import { indexFacts } from '../../../src/core/areas/check.ts';
import { checks } from '../../../src/core/areas/checks.ts';
import { collectFindings } from '../../../src/core/checklist/collect-findings.ts';
import { draftIntent } from '../../../src/core/drafts/intent-draft.ts';
import type { AppPackage } from '../../../src/core/model/app-package.ts';
import { recogniseToolkits } from '../../../src/core/platform/app-toolkits.ts';
import { anIntent, appEvidence, observeApp } from '../../support/facts.ts';
import { entriesOf, textFacts } from '../../support/texts.ts';

test.each<[toolkits: string, files: string[], types?: string[], links?: string[]]>([
  ['', ['lib/arm64-v8a/libtides.so', 'assets/fonts/a.ttf', 'res/layout/main.xml'], ['Lexample/Main;']],
  ['Flutter', ['lib/arm64-v8a/libflutter.so', 'assets/flutter_assets/AssetManifest.json']],
  ['Flutter', ['base/lib/x86_64/libflutter.so']],
  ['Flutter', ['Payload/A.app/Frameworks/Flutter.framework/Flutter']],
  ['React Native', ['assets/index.android.bundle']],
  ['React Native', ['lib/armeabi-v7a/libhermes.so']],
  ['React Native', ['Payload/A.app/main.jsbundle']],
  ['Unity', ['lib/arm64-v8a/libunity.so', 'assets/bin/Data/globalgamemanagers']],
  ['Godot', ['lib/arm64-v8a/libgodot_android.so']],
  ['.NET', ['lib/arm64-v8a/libmonodroid.so']],
  ['a web view shell', ['assets/capacitor.config.json', 'assets/public/index.html']],
  ['Compose', [], ['Landroidx/compose/ui/Modifier;']],
  ['Compose', ['META-INF/androidx.compose.ui_ui.version']],
  ['SwiftUI', [], [], ['/System/Library/Frameworks/SwiftUI.framework/SwiftUI']],
  // one within the other
  ['React Native, Compose', ['assets/index.android.bundle'], ['Landroidx/compose/ui/Modifier;']],
  // names that only look like it
  [
    '',
    ['lib/arm64-v8a/libflutterwave.so', 'assets/www/index.html', 'assets/my.index.android.bundle'],
    ['Lexample/androidx/compose/ui/X;'],
  ],
])('%s', (expected, files, types = [], links = []) => {
  expect(
    recogniseToolkits(files, types, links)
      .map(({ toolkit }) => toolkit)
      .join(', '),
  ).toBe(expected);
});

const flutter: Partial<AppPackage> = {
  madeWith: [{ toolkit: 'Flutter', mark: 'lib/arm64-v8a/libflutter.so' }],
  texts: [{ key: 'app_name', locale: 'default', text: 'Ferries' }],
};
const unseenOf = (check: string, facts: ReturnType<typeof observeApp>) =>
  collectFindings(
    checks.filter(({ id }) => id === check),
    indexFacts(facts),
    anIntent({ locales: ['en', 'de'] }),
  )[0]!.unseen;

test('texts in compiled code are not passed by what the resources hold, until the catalogues are added', () => {
  const facts = observeApp(flutter);
  for (const check of ['missing-translation', 'placeholder-mismatch', 'plural-forms'])
    expect(unseenOf(check, facts).join()).toMatch(
      /a Flutter app stand in its compiled Dart code: add the ARB/,
    );
  expect(unseenOf('missing-default', facts)).toEqual([]);
  const added = textFacts(entriesOf({ title: { en: 'Ferries', de: 'Fähren' } }));
  expect(unseenOf('missing-translation', [...facts, ...added])).toEqual([]);
  expect(unseenOf('missing-translation', observeApp({}))).toEqual([]);
});

test('a first intent file asks where the texts are', () => {
  expect(draftIntent(appEvidence(flutter).app).questions.join()).toMatch(
    /Those of Flutter stand in its compiled Dart code/,
  );
});
