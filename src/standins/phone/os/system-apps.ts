/** What the system itself shows: home screen, recent apps, its settings page, the shade, the lock, words over an app. */

import { column, type Element, type PhoneApp, row, text } from '../app-model.ts';
import type { RatingPrompt } from '../services/phone-ratings.ts';
import type { Sheet } from '../services/phone-store.ts';
import type { ShownAd } from '../services/shown-ad.ts';
import type { PostedNotification } from './notifications.ts';

export interface SystemView {
  /** Installed apps that can be started, in the order of their installation. */
  apps(): { appId: string; label: string }[];
  launch(appId: string): void;
  discards(): boolean;
  setDiscards(on: boolean): void;
}

const page = (title: string, ...content: (Element | undefined)[]): Element =>
  column(
    { id: 'page', background: 'surface', padding: 20, gap: 14 },
    text(title, { id: 'page_title', sizeSp: 24, weight: 600 }),
    ...content,
  );

const entry = (id: string, label: string): Element =>
  row(
    { id, clickable: true, background: 'card', radius: 16, padding: [14, 16], minHeight: 56 },
    text(label, { id: `${id}_label`, sizeSp: 16, grow: 1 }),
  );

export const homeApp = (system: SystemView): PhoneApp => ({
  appId: 'com.android.launcher',
  screens: {
    home: {
      activity: 'HomeActivity',
      first: {},
      view: () => page('9:41', ...system.apps().map(({ label }) => entry('icon', label))),
      taps: { icon: (_, index) => system.launch(system.apps()[index]!.appId) },
    },
  },
});

/** Developer options, as far as drills need a person to go there. */
export const settingsApp = (system: SystemView): PhoneApp => ({
  appId: 'com.android.settings',
  screens: {
    home: {
      activity: 'Settings',
      first: {},
      view: () => page('Settings', entry('developer', 'Developer options')),
      taps: { developer: (host) => host.open('developer') },
    },
    developer: {
      activity: 'DevelopmentSettings',
      first: {},
      view: () =>
        page(
          'Developer options',
          row(
            {
              id: 'discard_switch',
              className: 'android.widget.Switch',
              clickable: true,
              checkable: true,
              checked: system.discards(),
              background: 'card',
              radius: 16,
              padding: [14, 16],
              minHeight: 56,
            },
            text('Drop screens when they are left', { sizeSp: 16, grow: 1 }),
          ),
        ),
      taps: { discard_switch: () => system.setDiscards(!system.discards()) },
    },
  },
});

/** What a link opens that no app may have. */
export const browserApp: PhoneApp = {
  appId: 'com.android.browser',
  screens: {
    page: {
      activity: 'BrowserActivity',
      first: {},
      view: (_, { data }) => page('Browser', text(String(data ?? ''), { id: 'url' })),
    },
  },
};

/** For calls. */
export const dialerApp: PhoneApp = {
  appId: 'com.android.dialer',
  screens: {
    dial: {
      activity: 'DialActivity',
      first: {},
      view: () => page('Phone', ...['1 2 3', '4 5 6', '7 8 9', '* 0 #'].map((keys) => entry('keys', keys))),
    },
  },
};

/** Asks which of several activities is meant. */
export const chooserApp: PhoneApp = {
  appId: 'com.android.intentresolver',
  screens: {
    chooser: {
      activity: 'ResolverActivity',
      first: {},
      view: (_, { data }) => page('Open with', text(String(data ?? ''), { id: 'url' })),
    },
  },
};

export const recentsView = (labels: readonly string[]): Element =>
  page('Recent apps', ...labels.map((label) => entry('recent_app', label)));

export const shadeView = (posted: readonly PostedNotification[]): Element =>
  page('Notifications', ...posted.map(notificationView));

const notificationView = ({ actions, text: body, title }: PostedNotification): Element =>
  column(
    { id: 'notification', clickable: true, background: 'card', radius: 16, padding: [14, 16], gap: 6 },
    text(title, { id: 'title', sizeSp: 16, weight: 600 }),
    text(body, { id: 'text', sizeSp: 14 }),
    actions.length > 0 &&
      row(
        { gap: 16 },
        ...actions.map(({ label }) =>
          row(
            { id: 'action0', className: 'android.widget.Button', clickable: true, minHeight: 48 },
            text(label, { sizeSp: 14, weight: 600, colour: 'primary' }),
          ),
        ),
      ),
  );

/** The system's own question, above the app. */
export const permissionView = (label: string): Element =>
  column(
    { id: 'grant_dialog', background: 'card', radius: 24, padding: 24, gap: 14 },
    text(`Allow ${label} to send you notifications?`, { id: 'permission_message', sizeSp: 18 }),
    entry('permission_allow_button', 'Allow'),
    entry('permission_deny_button', "Don't allow"),
  );

/** The store's own question, above the app; it says that nothing is charged. */
export const sheetView = ({ offer, product }: Sheet): Element =>
  column(
    { id: 'store_sheet', background: 'card', radius: 24, padding: 24, gap: 14 },
    text(offer?.name ?? product, { id: 'store_product', sizeSp: 18, weight: 600 }),
    text(offer?.price ?? '', { id: 'store_price', sizeSp: 18 }),
    text('Test purchase: no money is taken', { id: 'store_test', sizeSp: 14 }),
    entry('store_buy_button', 'Buy'),
    entry('store_cancel_button', 'Cancel'),
  );

/** What the store asks of the app in front. */
export const ratingView = (label: string, { canSubmit }: RatingPrompt): Element =>
  column(
    { id: 'rating_sheet', background: 'card', radius: 24, padding: 24, gap: 14 },
    text(`Rate ${label}`, { id: 'rating_title', sizeSp: 18, weight: 600 }),
    text('☆ ☆ ☆ ☆ ☆', { id: 'rating_stars', sizeSp: 28 }),
    canSubmit
      ? entry('rating_submit', 'Submit')
      : text('Submit is switched off in shared builds', { id: 'rating_off' }),
    entry('rating_later', 'Not now'),
  );

/** What a network lays over the app. */
export const adView = ({ words }: ShownAd): Element =>
  page('Advertisement', text(words, { id: 'ad_words', sizeSp: 22, weight: 600 }), entry('ad_close', 'Close'));

export const lockView = (): Element => page('Locked', text('Swipe up to unlock', { id: 'unlock_hint' }));

export const blankView = (): Element => column({ id: 'starting', background: 'surface' });

/** Over an app that crashed again, or does not answer. */
export const troubleView = (label: string, kind: 'crash' | 'not responding'): Element =>
  column(
    { id: 'parentPanel', background: 'card', radius: 24, padding: 24, gap: 14 },
    text(kind === 'crash' ? `${label} keeps stopping` : `${label} isn't responding`, {
      id: 'alertTitle',
      sizeSp: 20,
      weight: 600,
    }),
    entry('aerr_close', 'Close app'),
  );
