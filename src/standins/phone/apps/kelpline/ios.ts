/** Kelpline for iOS: the same app, with what its own code does otherwise there. */
import type { AppMessages, PhoneApp } from '../../app-model.ts';
import { kelpline } from './kelpline.ts';

/** As its scene delegate reads them. */
const LINKS: readonly [pattern: RegExp, screen: string][] = [
  [/^(?:kelpline:\/\/|https?:\/\/[^/]+\/)timetable/, 'timetable'],
  [/^(?:kelpline:\/\/|https?:\/\/[^/]+\/)sailings\//, 'sailing'],
  [/^kelpline:\/\/tickets/, 'tickets'],
  [/^https?:\/\/[^/]+\/pass\/?(?:[?#]|$)/, 'pass'],
  [/^https?:\/\/[^/]+\/alerts\/?(?:[?#]|$)/, 'alerts'],
];

const messages: AppMessages = {
  categories: {
    delay: [
      { id: 'BOOK', label: 'book_this', opens: true },
      { id: 'SETTINGS', label: 'set_push', opens: true },
    ],
  },
  registered: ({ log }, token) => log('Fenlok', JSON.stringify({ kind: 'push.registered', token })),
  // planted: offers are dropped while the app is in front
  showsInFront: (_, payload) => payload.kind !== 'offer',
  woken: ({ log }, payload) =>
    log('Fenlok', JSON.stringify({ kind: 'push.received', message: String(payload.kind ?? '') })),
  // planted: the badge stays
  opened: (host, { action, isCold, payload }) => {
    if (action === 'BOOK') host.open('booking');
    else if (action === 'SETTINGS') host.open('settings');
    else if (payload.kind === 'offer') host.open('pass');
    // planted: with nothing loaded yet, a tapped message stays where it is
    else if (!isCold) host.open('sailing', { extras: { departs: String(payload.departs ?? '') } });
  },
};

export const kelplineIos: PhoneApp = {
  ...kelpline,
  // as docs/ios.md has it
  began: ({ log }, process, advertisingId) => {
    log('Fenlok', JSON.stringify({ kind: 'app.began', ...process }));
    log('Fenlok', JSON.stringify({ kind: 'app.advertising-id', id: advertisingId }));
  },
  drawn: ({ log }, afterMs) => log('Fenlok', JSON.stringify({ kind: 'app.drawn', afterMs })),
  messages,
  // planted: what it does not know it drops, and says nothing
  screenOfLink: (url) => LINKS.find(([pattern]) => pattern.test(url))?.[1],
};
