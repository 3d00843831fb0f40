/** What layouts, themes and the manifest say, read from what the platform's own packer compiled. */
import { execFileSync } from 'node:child_process';
import fc from 'fast-check';
import { findLayoutViews } from '../../../src/core/formats/android/layout-views.ts';
import { findThemeColours } from '../../../src/core/formats/android/theme-colours.ts';
import type { LayoutView } from '../../../src/core/model/app-package.ts';
import { impliedFeatures } from '../../../src/core/platform/android/implied-features.ts';
import { withPackage } from '../../../src/node/read-package.ts';
import { packApp } from '../../support/packed-app.ts';
import { demoApk, demoBundle, describeWith, scratchFolder, tools } from '../../support/paths.ts';

const NS = 'xmlns:android="http://schemas.android.com/apk/res/android"';
const SIZE = 'android:layout_width="match_parent"';
const view = (name: string, id: string, attributes = '', height = 'wrap_content') =>
  `<${name} ${SIZE} android:layout_height="${height}" android:id="@+id/${id}" ${attributes}/>`;
const layout = (...views: string[]) =>
  `<LinearLayout ${NS} ${SIZE} android:layout_height="match_parent">${views.join('')}</LinearLayout>`;

const FILES = {
  'res/values/all.xml': `<resources>
    <string name="said">Said</string><dimen name="row">40dp</dimen><item type="id" name="target"/>
    <color name="same">#102030</color><color name="both">#ffffff</color><color name="swapped">#010101</color>
    <color name="alias">@color/same</color><color name="unasked">#444444</color>
    <style name="Base" parent="@android:style/Theme.Material"><item name="android:colorPrimary">@color/same</item>
      <item name="android:colorAccent">@color/both</item><item name="android:textColorPrimary">@color/swapped</item>
      <item name="android:colorEdgeEffect">@color/alias</item></style>
    <style name="Small" parent=""><item name="android:textSize">10pt</item><item name="android:contentDescription">@string/said</item></style>
  </resources>`,
  'res/values-night/all.xml': `<resources><color name="both">#000000</color><color name="dark">#020202</color>
    <style name="Base" parent="@android:style/Theme.Material"><item name="android:colorPrimary">@color/same</item>
      <item name="android:colorAccent">@color/both</item><item name="android:textColorPrimary">@color/unasked</item>
      <item name="android:colorEdgeEffect">@color/alias</item></style></resources>`,
  'res/xml/keys.xml': `<shortcuts ${NS}><shortcut android:shortcutId="a" android:shortcutShortLabel="@string/said">
      <intent android:action="x" android:targetPackage="a.b" android:targetClass="a.b.One"/>
      <intent android:action="x" android:targetPackage="a.c" android:targetClass="a.b.Two"/></shortcut>
    <shortcut android:shortcutId="off" android:enabled="false" android:shortcutShortLabel="@string/said"/></shortcuts>`,
  'res/layout/names.xml': layout(
    view('EditText', 'bare'),
    view('EditText', 'hinted', 'android:hint="@string/said"'),
    view('EditText', 'labelled'),
    view('TextView', 'label', 'android:labelFor="@id/labelled" android:text="@string/said"'),
    `<com.x.TextInputLayout ${SIZE} android:layout_height="wrap_content">${view('com.x.TextInputEditText', 'held')}</com.x.TextInputLayout>`,
    view('ImageView', 'shown'),
    view('ImageView', 'tapped', 'android:onClick="go"'),
    view('ImageView', 'nothing', 'android:contentDescription="@null"'),
    view('ImageView', 'decoration', 'android:importantForAccessibility="no"'),
    view('ImageButton', 'mute'),
    view('ImageButton', 'styled', 'style="@style/Small"'),
    view('Button', 'texted', 'android:text="@string/said"'),
  ),
  'res/layout/texts.xml': layout(
    view('TextView', 'own', 'android:text="Left luggage"'),
    view('EditText', 'own_hint', 'android:hint="Your name"'),
    view('ImageButton', 'own_name', 'android:contentDescription="Open"'),
  ),
  'res/layout/sizes.xml': layout(
    view('TextView', 'by_style', 'style="@style/Small"'),
    view('TextView', 'in_dp', 'android:textSize="14dp"'),
    view('TextView', 'low', 'android:textSize="20sp"', '@dimen/row'),
    view('TextView', 'auto', 'android:textSize="20sp" android:autoSizeTextType="uniform"', '20dp'),
  ),
  'res/layout/sides.xml': layout(
    view('TextView', 'left', 'android:paddingLeft="8dp"'),
    view('TextView', 'even', 'android:paddingLeft="8dp" android:paddingRight="8dp"'),
    view('TextView', 'uneven', 'android:layout_marginLeft="8dp" android:layout_marginRight="4dp"'),
    view('TextView', 'followed', 'android:paddingLeft="8dp" android:paddingStart="8dp"'),
    view('TextView', 'towards', 'android:gravity="right" android:drawableLeft="@android:drawable/ic_delete"'),
    view('TextView', 'start', 'android:gravity="start" android:layout_gravity="center_horizontal"'),
  ),
  'res/layout/abc_screen.xml': layout(view('ImageButton', 'of_library')),
  'AndroidManifest.xml': `<manifest ${NS} package="a.b" android:versionCode="1" android:versionName="1">
    <uses-sdk android:minSdkVersion="26" android:targetSdkVersion="35"/>
    <supports-screens android:smallScreens="false" android:requiresSmallestWidthDp="600"/>
    <queries><package android:name="c.d"/><intent><action android:name="send"/></intent>
      <provider android:authorities="e;f"/></queries>
    <application android:theme="@style/Base" android:supportsRtl="true" android:icon="@android:drawable/ic_delete">
      <uses-library android:name="lib.a" android:required="false"/><uses-native-library android:name="lib.b"/>
      <activity android:name=".One" android:exported="true" android:launchMode="singleTask" android:taskAffinity="a.other">
        <meta-data android:name="android.app.shortcuts" android:resource="@xml/keys"/>
        <intent-filter><action android:name="v"/><data android:scheme="https" android:host="h" android:path="/p"/><data android:scheme="app" android:host="k"/></intent-filter>
        <intent-filter><action android:name="v"/><data android:scheme="https"/><data android:host="h"/></intent-filter>
      </activity>
      <activity android:name=".Two" android:launchMode="singleInstance"/>
    </application></manifest>`,
};

const say = (found: LayoutView): string =>
  [
    found.view,
    found.role,
    found.isNamed ? '' : 'unnamed',
    found.isActionable ? 'acts' : '',
    ...found.fixedTexts.map(({ part, text }) => `${part}=${text}`),
    found.textSize ? `${Math.round(found.textSize.value * 10) / 10}${found.textSize.unit}` : '',
    found.heightDp === undefined ? '' : `${found.heightDp}dp high`,
    ...found.sideAttributes,
  ]
    .filter(Boolean)
    .join(' ');

const EXPECTED = [
  'bare field unnamed acts',
  'hinted field acts',
  'labelled field acts',
  'label text',
  'held field acts',
  'shown picture unnamed',
  'tapped picture unnamed acts',
  'nothing picture',
  'decoration picture',
  'mute button unnamed acts',
  'styled button acts 10pt',
  'texted button acts',
  'own text text=Left luggage',
  'own_hint field acts hint=Your name',
  'own_name button acts description=Open',
  'by_style text 10pt',
  'in_dp text 14dp',
  'low text 20sp 40dp high',
  'auto text 20sp',
  'left text paddingLeft',
  'even text',
  'uneven text layout_marginLeft layout_marginRight',
  'followed text',
  'towards text drawableLeft gravity',
  'start text',
];

test('the bundle of the demo gives the views and colours of its APK', async () => {
  const look = (file: string) =>
    withPackage(file, async ({ android }) => ({
      views: (await findLayoutViews(android!)).map(say).sort(),
      colours: findThemeColours(android!),
    }));
  const found = await look(demoApk);
  expect(found.views.length).toBeGreaterThan(5);
  expect(await look(demoBundle)).toEqual(found);
});

describeWith('aapt2', 'framework')('as the packer compiles them', () => {
  const folder = scratchFolder();
  let app: string;
  beforeAll(() => {
    app = packApp(folder, FILES);
  });

  test('names, texts, sizes and sides of the views of layouts', async () => {
    const views = await withPackage(app, ({ android }) => findLayoutViews(android!));
    // the theme of the platform gives fields and buttons their sizes
    const own = views.map(say).map((line) => line.replace(/ (18|14)sp$/, ''));
    expect(own.sort()).toEqual([...EXPECTED].sort());
  });

  test('colours of themes that are the same by day and by night, and those that are not', async () => {
    const colours = await withPackage(app, async ({ android }) => findThemeColours(android!));
    expect(colours).toEqual([
      { name: 'color/same', light: 0xff102030 },
      { name: 'color/both', light: 0xffffffff, dark: 0xff000000 },
      { name: 'color/alias', light: 0xff102030 },
    ]);
  });

  test('what the manifest says of screens, libraries, other apps, modes, shortcuts and data', async () => {
    const { manifest, shortcuts } = await withPackage(app, async ({ app: read }) => read.android!);
    expect(manifest.screens).toEqual({ refused: ['small'], leastWidthDp: 600 });
    expect(manifest.queries).toEqual({ packages: ['c.d'], actions: ['send'], authorities: ['e', 'f'] });
    expect(manifest.libraries).toEqual([
      { name: 'lib.a', required: false, isNative: false },
      { name: 'lib.b', required: true, isNative: true },
    ]);
    expect(manifest.application.supportsRtl).toBe(true);
    const [one, two] = manifest.components;
    expect([one!.launchMode, one!.taskAffinity, two!.launchMode]).toEqual([
      'singleTask',
      'a.other',
      'singleInstance',
    ]);
    expect(one!.filters.map(({ elements }) => elements)).toEqual([
      [
        { scheme: 'https', host: 'h', paths: ['path=/p'] },
        { scheme: 'app', host: 'k' },
      ],
      undefined,
    ]);
    const intents = [
      { targetPackage: 'a.b', targetClass: 'a.b.One' },
      { targetPackage: 'a.c', targetClass: 'a.b.Two' },
    ];
    expect(shortcuts).toEqual([
      { id: 'a', enabled: true, label: 'Said', intents },
      { id: 'off', enabled: false, label: 'Said', intents: [] },
    ]);
  });

  // those that a permission implies; the packer reports others that every app gets
  const permission = fc.constantFrom(
    ...[
      'ACCESS_COARSE_LOCATION',
      'ACCESS_FINE_LOCATION',
      'ACCESS_WIFI_STATE',
      'BLUETOOTH',
      'BLUETOOTH_ADMIN',
    ],
    ...['CALL_PHONE', 'CAMERA', 'CHANGE_WIFI_STATE', 'INTERNET', 'PROCESS_OUTGOING_CALLS', 'READ_SMS'],
    ...['RECEIVE_MMS', 'RECORD_AUDIO', 'SEND_SMS', 'VIBRATE', 'WRITE_APN_SETTINGS'],
  );
  const feature = fc.constantFrom('bluetooth', 'camera', 'location', 'microphone', 'telephony', 'wifi');
  test('features that permissions ask for, as aapt2 prints them, of 60 random manifests', () => {
    const own = (names: readonly string[]) =>
      names.filter((name) => !/faketouch|screen|autofocus/.test(name));
    fc.assert(
      fc.property(
        fc.uniqueArray(permission, { maxLength: 6 }),
        fc.uniqueArray(feature, { maxLength: 3 }),
        fc.constantFrom(19, 20, 21, 35),
        (permissions, written, target) => {
          const features = written.map((name) => `android.hardware.${name}`);
          const manifest = `<manifest ${NS} package="a.b" android:versionCode="1"><uses-sdk android:minSdkVersion="14" android:targetSdkVersion="${target}"/>
            ${permissions.map((name) => `<uses-permission android:name="android.permission.${name}"/>`).join('')}
            ${features.map((name) => `<uses-feature android:name="${name}" android:required="false"/>`).join('')}
            <application/></manifest>`;
          const packed = packApp(scratch, { 'AndroidManifest.xml': manifest });
          const printed = execFileSync(tools.aapt2, ['dump', 'badging', packed], {
            encoding: 'utf8',
            stdio: ['ignore', 'pipe', 'ignore'],
          });
          const implied = [...printed.matchAll(/uses-implied-feature: name='([^']*)'/g)].map(
            ([, name]) => name!,
          );
          const found = impliedFeatures(
            permissions.map((name) => `android.permission.${name}`),
            features,
            target,
          ).map((of) => of.feature);
          expect(own(found).sort()).toEqual(own(implied).sort());
        },
      ),
      { numRuns: 60 },
    );
  });
  const scratch = scratchFolder();
});
