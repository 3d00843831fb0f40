/**
 * The store's question for a rating. It tells the app that it is done, and never whether it showed anything. What decides is the way
 * by which the build came: nothing over a cable, always by the private share link, by a quota elsewhere. The real quota is told
 * nobody; this one lets one through in thirty days.
 */
import type { RatingChannel } from '../../../core/model/rating.ts';
import type { AppSide, ServedApp } from './app-side.ts';

export interface RatingPrompt {
  canSubmit: boolean;
}

/** What the rest of the phone does for it. */
interface RatingSide<App extends ServedApp> extends AppSide<App> {
  channelOf(appId: string): RatingChannel;
  now(): number;
  showPrompt(app: App, prompt: RatingPrompt): void;
}

const QUOTA_MS = 30 * 86_400_000;

export class PhoneRatings<App extends ServedApp> {
  readonly #on: RatingSide<App>;
  readonly #shownAt = new Map<string, number>();

  constructor(phone: RatingSide<App>) {
    this.#on = phone;
  }

  ask(appId: string): void {
    const app = this.#on.runnable(appId);
    if (!app) return;
    if (!this.#on.isOnline()) this.#tell(app, true);
    else if (this.#mayShow(appId)) {
      this.#shownAt.set(appId, this.#on.now());
      this.#on.showPrompt(app, { canSubmit: this.#on.channelOf(appId) !== 'private-share' });
    } else this.#tell(app, false);
  }

  closed(app: App): void {
    this.#on.closeCover();
    this.#tell(app, false);
  }

  #mayShow(appId: string): boolean {
    const channel = this.#on.channelOf(appId);
    if (channel === 'local') return false;
    return channel === 'private-share' || this.#on.now() - (this.#shownAt.get(appId) ?? 0) > QUOTA_MS;
  }

  #tell(app: App, failed: boolean): void {
    this.#on.onScreen(app, 'onComplete', (host) => app.model.ratingFinished?.(host, failed));
  }
}
