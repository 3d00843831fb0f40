/** Which colours a package puts on one another, read from what the platform's own packer compiled. */
import { findColourPairs } from '../../../src/core/formats/android/colour-pairs.ts';
import type { ColourPair } from '../../../src/core/model/app-package.ts';
import { withPackage } from '../../../src/node/read-package.ts';
import { packApp } from '../../support/packed-app.ts';
import { demoApk, demoBundle, describeWith, scratchFolder } from '../../support/paths.ts';

const pairsIn = (file: string): Promise<ColourPair[]> =>
  withPackage(file, ({ android }) => findColourPairs(android!));

const hex = (argb: number): string => argb.toString(16).padStart(8, '0');
const say = ({ background, bold, from, night, part, text, textSizeSp, view }: ColourPair): string =>
  [
    `${night ? 'night' : 'day'} ${view} ${part}`,
    `${text.name} ${hex(text.argb)} on ${background.name} ${hex(background.argb)}`,
    `${from} ${textSizeSp ?? '?'}${bold ? ' bold' : ''}`,
  ].join(' | ');

test('the bundle of the demo gives the pairs of its APK', async () => {
  const pairs = await pairsIn(demoApk);
  expect(pairs.length).toBeGreaterThan(10);
  // a button of a picture has no text
  expect(pairs.map(({ view }) => view)).not.toContain('widget_refresh');
  const lineless = (pair: ColourPair) => say(pair).replace(/in line \d+/, '');
  expect((await pairsIn(demoBundle)).map(lineless).sort()).toEqual(pairs.map(lineless).sort());
});

const NS = 'xmlns:android="http://schemas.android.com/apk/res/android"';
const SIZE = 'android:layout_width="match_parent" android:layout_height="wrap_content"';
const layout = (inside: string, attributes = '') =>
  `<LinearLayout ${NS} ${SIZE} ${attributes}>${inside}</LinearLayout>`;
const text = (attributes: string) => `<TextView ${SIZE} android:text="x" ${attributes}/>`;

const FILES: Record<string, string> = {
  'res/values/all.xml': `<resources>
    <color name="ink">#102030</color><color name="paper">#ffffff</color><color name="veil">#80000000</color>
    <color name="alias">@color/ink</color>
    <style name="Base" parent="@android:style/Theme.Material.Light"><item name="android:windowBackground">@color/paper</item>
      <item name="android:textColorPrimary">@color/ink</item><item name="android:textViewStyle">@style/Plain</item></style>
    <style name="Base.Inverse"><item name="android:textColorPrimary">@color/paper</item></style>
    <style name="Plain" parent=""><item name="android:textSize">15sp</item></style>
    <style name="Big" parent=""><item name="android:textSize">24sp</item><item name="android:textStyle">bold</item></style>
    <style name="Loud" parent=""><item name="android:textAppearance">@style/Big</item><item name="android:textColor">#ff0000</item></style>
  </resources>`,
  'res/values-night/all.xml':
    '<resources><color name="paper">#000000</color><color name="ink">#e0e0e0</color></resources>',
  'res/color/states.xml': `<selector ${NS}><item android:state_pressed="true" android:color="#00ff00"/><item android:color="@color/ink" android:alpha="0.5"/></selector>`,
  'res/drawable/chip.xml': `<selector ${NS}><item android:state_pressed="true" android:drawable="@color/veil"/><item><shape><solid android:color="#abcdef"/></shape></item></selector>`,
  'res/drawable/boxed.xml': `<layer-list ${NS}><item android:drawable="@color/veil"/><item><inset android:inset="2dp" android:drawable="@color/paper"/></item></layer-list>`,
  'res/drawable/fade.xml': `<shape ${NS}><gradient android:startColor="#fff" android:endColor="#000"/></shape>`,
  'res/drawable/ripple.xml': `<ripple ${NS} android:color="#ff00ff"><item android:drawable="@color/paper"/><item android:id="@android:id/mask" android:drawable="@color/ink"/></ripple>`,
  'res/layout/plain.xml': layout(
    text('android:id="@+id/by_theme"') +
      text('android:id="@+id/alias" android:textColor="@color/alias" android:textSize="18sp"'),
  ),
  'res/layout/styles.xml': layout(
    text('android:id="@+id/loud" style="@style/Loud"') +
      text('android:id="@+id/own" style="@style/Loud" android:textColor="#0000ff" android:textSize="9dp"') +
      text('android:id="@+id/states" android:textColor="@color/states"'),
    'android:background="#eeeeee"',
  ),
  'res/layout/behind.xml': layout(
    text('android:id="@+id/chip" android:background="@drawable/chip"') +
      text('android:id="@+id/boxed" android:background="@drawable/boxed"') +
      text('android:id="@+id/ripple" android:background="@drawable/ripple"') +
      text('android:id="@+id/veiled" android:background="@color/veil"') +
      text('android:id="@+id/clear" android:background="#00ffffff"') +
      text('android:id="@+id/fade" android:background="@drawable/fade"') +
      text('android:id="@+id/tinted" android:background="@drawable/chip" android:backgroundTint="#123456"'),
    'android:background="#ffffff"',
  ),
  'res/layout/outer.xml': layout(
    `<include layout="@layout/inner"/>${text('android:id="@+id/off" android:enabled="false"')}<EditText ${SIZE} android:id="@+id/field" android:hint="h" android:textColorHint="#777777"/>`,
    'android:background="#333333" android:theme="@style/Base.Inverse"',
  ),
  'res/layout/inner.xml': `<merge ${NS}>${text('android:id="@+id/merged"')}</merge>`,
};

const manifest = (theme: string) =>
  `<manifest ${NS} package="a.b" android:versionCode="1" android:versionName="1"><application android:theme="${theme}"/></manifest>`;

const EXPECTED = [
  'day by_theme text | color/ink ff102030 on color/paper ffffffff | window 15',
  'day alias text | color/alias ff102030 on color/paper ffffffff | window 18',
  // a default style goes before a text appearance
  'day loud text | #ff0000 ffff0000 on #eeeeee ffeeeeee | layout 15 bold',
  'day own text | #0000ff ff0000ff on #eeeeee ffeeeeee | layout 9 bold',
  'day states text | color/states 80102030 on #eeeeee ffeeeeee | layout 15',
  'day chip text | color/ink ff102030 on drawable/chip ffabcdef | layout 15',
  'day boxed text | color/ink ff102030 on color/paper ffffffff | layout 15',
  'day ripple text | color/ink ff102030 on color/paper ffffffff | layout 15',
  'day veiled text | color/ink ff102030 on color/veil over #ffffff ff7f7f7f | layout 15',
  'day clear text | color/ink ff102030 on #ffffff ffffffff | layout 15',
  'day tinted text | color/ink ff102030 on #123456 ff123456 | layout 15',
  'day merged text | color/ink ff102030 on color/paper ffffffff | window 15',
  'day merged text | color/paper ffffffff on #333333 ff333333 | layout 15',
  'day field text | color/paper ffffffff on #333333 ff333333 | layout ?',
  'day field hint | #777777 ff777777 on #333333 ff333333 | layout ?',
  'night by_theme text | color/ink ffe0e0e0 on color/paper ff000000 | window 15',
  'night boxed text | color/ink ffe0e0e0 on color/paper ff000000 | layout 15',
];

describeWith('aapt2', 'framework')('layouts as the packer compiles them', () => {
  const folder = scratchFolder();
  const other = scratchFolder();
  test('styles, appearances, themes, states, drawables, includes and night are followed', async () => {
    const app = packApp(folder, { ...FILES, 'AndroidManifest.xml': manifest('@style/Base') });
    const said = (await pairsIn(app)).map(say);
    expect(said.filter((line) => line.startsWith('day')).sort()).toEqual(
      EXPECTED.filter((line) => line.startsWith('day')).sort(),
    );
    expect(said).toEqual(expect.arrayContaining(EXPECTED));
  });

  test('layouts that include one another, and styles that inherit one another, come to an end', async () => {
    const app = packApp(other, {
      'res/layout/a.xml': layout(
        `<include layout="@layout/b"/>${text('android:id="@+id/in_a"')}`,
        'android:background="#eeeeee"',
      ),
      'res/layout/b.xml': layout(`<include layout="@layout/a"/>${text('android:id="@+id/in_b"')}`),
      'res/values/all.xml':
        '<resources><style name="T" parent="@android:style/Theme.Material"><item name="android:textColorPrimary">?android:attr/textColorSecondary</item><item name="android:textColorSecondary">?android:attr/textColorPrimary</item></style><style name="U" parent="T"><item name="android:textColorPrimary">#123456</item></style></resources>',
      'AndroidManifest.xml': manifest('@style/U'),
    });
    const found = await pairsIn(app);
    expect(new Set(found.map(({ layout: file, view }) => `${file} ${view}`))).toEqual(
      new Set(['layout/a in_a', 'layout/a in_b', 'layout/b in_a', 'layout/b in_b']),
    );
  });
});
