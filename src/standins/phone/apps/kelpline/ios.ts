/** Kelpline for iOS: the same app, with what its own code does otherwise there. */
import type { PhoneApp } from '../../app-model.ts';
import { kelpline } from './kelpline.ts';

/** As its scene delegate reads them. */
const LINKS: readonly [pattern: RegExp, screen: string][] = [
  [/^(?:kelpline:\/\/|https?:\/\/[^/]+\/)timetable/, 'timetable'],
  [/^(?:kelpline:\/\/|https?:\/\/[^/]+\/)sailings\//, 'sailing'],
  [/^kelpline:\/\/tickets/, 'tickets'],
  [/^https?:\/\/[^/]+\/pass\/?(?:[?#]|$)/, 'pass'],
  [/^https?:\/\/[^/]+\/alerts\/?(?:[?#]|$)/, 'alerts'],
];

export const kelplineIos: PhoneApp = {
  ...kelpline,
  // as docs/ios.md has it
  began: ({ log }, process) => log('Fenlok', JSON.stringify({ kind: 'app.began', ...process })),
  // planted: what it does not know it drops, and says nothing
  screenOfLink: (url) => LINKS.find(([pattern]) => pattern.test(url))?.[1],
};
