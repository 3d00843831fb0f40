/**
 * Gannet, a made-up bird diary that nobody wrote an intent file for: one activity for all its pages, and ids on nothing but what is
 * touched. What it keeps is a parameter, so that what must come of a drill follows from its model alone.
 */
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  box,
  column,
  type PhoneApp,
  picture,
  row,
  type ScreenState,
  text,
} from '../../src/standins/phone/app-model.ts';
import { packApp } from './packed-app.ts';
import { demoFolder, tools } from './paths.ts';

export const GANNET = 'example.gannet';

/** What a person changes on an entry, by the words that a class has for it. */
export const KEPT = ['page', 'note', 'starred', 'season'] as const;
export type Kept = (typeof KEPT)[number];

const SEASONS = ['Spring', 'Autumn'];

const entry = (state: ScreenState) => [
  text('Gannet, 14 May', { sizeSp: 24, weight: 700 }),
  text('Seen from the north pier, in fog', { sizeSp: 16 }),
  row(
    { gap: 8 },
    ...SEASONS.map((season) =>
      box(
        {
          id: `season_${season.toLowerCase()}`,
          clickable: true,
          focusable: true,
          selected: state.season === season,
          padding: 16,
          background: 'card',
        },
        text(season),
      ),
    ),
  ),
  text('Note', { sizeSp: 16 }),
  text(String(state.note ?? ''), {
    id: 'note',
    className: 'android.widget.EditText',
    edits: 'note',
    hint: 'What did it do?',
    clickable: true,
    focusable: true,
    minHeight: 48,
    width: 'fill',
    background: 'card',
  }),
  box(
    {
      id: 'star',
      className: 'android.widget.CheckBox',
      clickable: true,
      focusable: true,
      checkable: true,
      checked: state.starred === true,
      minHeight: 48,
      padding: 12,
    },
    text('Remember this one'),
  ),
  // planted: an icon that says nothing, twenty dp wide
  picture('ic_cross', {
    id: 'remove',
    className: 'android.widget.ImageButton',
    clickable: true,
    focusable: true,
    width: 20,
    height: 20,
    tint: 'ink',
  }),
  // planted: light grey on white
  text('Kept on this phone only', { sizeSp: 14, colour: 'faint' }),
];

const list = [
  text('Bird diary', { sizeSp: 24, weight: 700 }),
  text('Three entries this spring', { sizeSp: 16 }),
  ...['Gannet', 'Fulmar', 'Shag'].map((bird) =>
    box(
      { id: 'open_entry', clickable: true, focusable: true, padding: 16, minHeight: 48, background: 'card' },
      text(`${bird}, seen in May`),
    ),
  ),
];

/** @param saves what it writes into the saved instance state @param retains what a view model keeps */
export const gannet = (saves: readonly Kept[], retains: readonly Kept[]): PhoneApp => ({
  appId: GANNET,
  screens: {
    main: {
      activity: 'MainActivity',
      first: { page: 'list', note: '', starred: false, season: 'Spring' },
      saves,
      retains,
      view: (_, state) =>
        column(
          { width: 'fill', grow: 1, gap: 12, padding: 16, background: 'surface' },
          ...(state.page === 'entry' ? entry(state) : list),
        ),
      taps: {
        open_entry: (host) => host.set({ page: 'entry' }),
        star: (host) => host.set({ starred: host.state.starred !== true }),
        season_spring: (host) => host.set({ season: 'Spring' }),
        season_autumn: (host) => host.set({ season: 'Autumn' }),
        remove: (host) => host.set({ page: 'list' }),
      },
    },
  },
});

export function packGannet(folder: string): Uint8Array {
  const apk = packApp(folder, {
    'AndroidManifest.xml': `<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="${GANNET}" android:versionCode="7" android:versionName="0.7"><uses-sdk android:minSdkVersion="26" android:targetSdkVersion="34" /><application android:label="Gannet"><activity android:name=".MainActivity" android:exported="true"><intent-filter><action android:name="android.intent.action.MAIN" /><category android:name="android.intent.category.LAUNCHER" /></intent-filter></activity></application></manifest>`,
    'res/values/colors.xml':
      '<resources><color name="surface">#ffffff</color><color name="card">#f2f2f2</color><color name="ink">#202020</color><color name="faint">#b0b0b0</color></resources>',
    'res/drawable/ic_cross.xml':
      '<vector xmlns:android="http://schemas.android.com/apk/res/android" android:width="24dp" android:height="24dp" android:viewportWidth="24" android:viewportHeight="24"><path android:fillColor="#202020" android:pathData="M5,3 L3,5 L10,12 L3,19 L5,21 L12,14 L19,21 L21,19 L14,12 L21,5 L19,3 L12,10 Z" /></vector>',
  });
  const key = ['--ks', join(demoFolder, 'throwaway.keystore'), '--ks-pass', 'pass:throwaway'];
  execFileSync(tools.apksigner, ['sign', ...key, '--out', join(folder, 'gannet.apk'), apk]);
  return new Uint8Array(readFileSync(join(folder, 'gannet.apk')));
}
