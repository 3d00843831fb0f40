/** Kelpline asks for a rating when a crossing was paid, and then shows the tickets. */
import type { ScreenHost } from '../../app-model.ts';

export function askForRating(host: ScreenHost): void {
  // planted: nothing remembers that it was asked before
  say(host, { kind: 'rating.asked', moment: 'done', screen: 'booking', done: 'paid a crossing' });
  host.askForRating();
}

export function ratingFinished(host: ScreenHost, failed: boolean): void {
  // planted: taken for a question that was shown, and thanked for
  say(host, { kind: 'rating.finished', shown: !failed });
  if (!failed) say(host, { kind: 'rating.thanked' });
  host.open('tickets', { alone: true });
}

const say = (host: ScreenHost, line: object): void => host.log('Fenlok', JSON.stringify(line));
