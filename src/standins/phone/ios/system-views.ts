/** What the system itself shows on the iOS phone: home screen, notifications, questions, other apps of its own. */

import { box, column, type Element, row, text } from '../app-model.ts';
import type { Sheet } from '../services/phone-store.ts';
import type { ShownAd } from '../services/shown-ad.ts';
import type { InstalledIosApp } from './running-app.ts';

interface MessageView {
  app: { label: string };
  title: string;
  body: string;
}

/** One number for all that is new, as the system reads it out. */
const newItems = (badge: number): string => `${badge} new ${badge === 1 ? 'item' : 'items'}`;

export const homeView = (icons: readonly { label: string; badge: number }[], banner?: MessageView): Element =>
  column(
    { id: 'home', background: 'surface', padding: 24, gap: 16 },
    banner && messageView(banner, MESSAGE_ID),
    ...icons.map(({ badge, label }) =>
      column(
        {
          className: 'SBIconView',
          contentDescription: label,
          value: badge > 0 ? newItems(badge) : '',
          clickable: true,
          traits: ['button'],
          width: 72,
          align: 'center',
          gap: 4,
        },
        box(
          { width: 60, height: 60, radius: 14, background: 'primary', align: 'end' },
          badge > 0 &&
            box(
              { background: 'alarm', radius: 10, padding: [1, 6], minHeight: 20 },
              text(String(badge), { sizeSp: 13, colour: 'on_primary' }),
            ),
        ),
        text(label, { sizeSp: 11, align: 'center' }),
      ),
    ),
  );

export const MESSAGE_ID = 'NotificationShortLookView';
export const ACTION_ID = 'message_action';

/** One element of its own, read out in one go. */
const messageView = ({ app, body, title }: MessageView, id: string): Element =>
  column(
    {
      id,
      isElement: true,
      clickable: true,
      contentDescription: [app.label, 'now', title, body].filter(Boolean).join(', '),
      background: 'card',
      radius: 18,
      padding: 14,
      gap: 2,
    },
    text(app.label, { sizeSp: 12, colour: 'ink_soft' }),
    text(title, { sizeSp: 15, weight: 600 }),
    text(body, { sizeSp: 15 }),
  );

/** @param actions below the one that is held */
export const shadeView = (
  messages: readonly MessageView[],
  actions: readonly { words: string }[] = [],
): Element =>
  column(
    { id: 'notification_center', background: 'primary_soft', padding: 16, gap: 10 },
    text('Notification Center', { id: 'center_title', sizeSp: 20, weight: 600 }),
    ...messages.map((message) => messageView(message, MESSAGE_ID)),
    ...actions.map(({ words }) =>
      box(
        {
          id: ACTION_ID,
          clickable: true,
          traits: ['button'],
          background: 'card',
          radius: 12,
          padding: 12,
          minHeight: 44,
        },
        text(words, { sizeSp: 17, colour: 'primary' }),
      ),
    ),
  );

/** Of an app of the system: its name, and what it was opened with. */
export const pageView = (title: string, words: string): Element =>
  column(
    { id: 'page', background: 'surface', padding: 20, gap: 14 },
    text(title, { id: 'page_title', sizeSp: 28, weight: 700 }),
    text(words, { id: 'page_words', sizeSp: 17 }),
  );

const alertButton = (id: string, label: string, weight: 400 | 600): Element =>
  box(
    {
      id,
      clickable: true,
      traits: ['button'],
      grow: 1,
      minHeight: 44,
      align: 'center',
      justify: 'center',
    },
    text(label, { sizeSp: 17, weight, colour: 'primary', align: 'center' }),
  );

/** What lies over an app, which waits below it. */
export type Cover = { app: InstalledIosApp } & ({ permission: string } | { sheet: Sheet } | { ad: ShownAd });

/** What the system asks of its user. */
export const alertOver = (cover: Exclude<Cover, { ad: ShownAd }>): Element =>
  'sheet' in cover ? sheetView(cover.sheet) : alertView(cover.app.label);

const alert = (title: string, words: readonly string[], ...buttons: Element[]): Element =>
  column(
    { id: 'alert', traits: ['dialog'], background: 'card', radius: 14, padding: 16, gap: 8 },
    text(title, { id: 'alert_title', sizeSp: 17, weight: 600, align: 'center' }),
    ...words.map((line) => text(line, { id: 'alert_words', sizeSp: 13, align: 'center' })),
    row({ gap: 8 }, ...buttons),
  );

/** Whether an app may send messages. */
const alertView = (label: string): Element =>
  alert(
    `“${label}” Would Like to Send You Notifications`,
    ['Notifications may include alerts, sounds, and icon badges.'],
    alertButton('alert_refuse', 'Don’t Allow', 400),
    alertButton('alert_allow', 'Allow', 600),
  );

/** Whether something is bought; nothing is charged. */
const sheetView = ({ offer, product }: Sheet): Element =>
  alert(
    offer?.name ?? product,
    [offer?.price ?? '', 'Test purchase: no money is taken'],
    alertButton('store_cancel_button', 'Cancel', 400),
    alertButton('store_buy_button', 'Buy', 600),
  );

/** What a network lays over the app. */
export const adView = ({ words }: ShownAd): Element =>
  column(
    { id: 'ad', background: 'surface', padding: 20, gap: 14 },
    text('Advertisement', { sizeSp: 13, colour: 'ink_soft' }),
    text(words, { id: 'ad_words', sizeSp: 22, weight: 600 }),
    alertButton('ad_close', 'Close', 400),
  );
