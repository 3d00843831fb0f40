/**
 * The store's question for a rating. It tells the app that it is done, and never whether it showed anything. What decides is the way
 * by which the build came: nothing over a cable, always by the private share link, by a quota elsewhere. The real quota is told
 * nobody; this one lets one through in thirty days.
 */
import type { RatingChannel } from '../../../core/model/rating.ts';
import type { ScreenHost } from '../app-model.ts';
import type { ActivityManager, RunnableApp } from './activity-manager.ts';

export interface RatingPrompt {
  canSubmit: boolean;
}

/** What the rest of the phone does for it. */
interface Surroundings {
  activities(): ActivityManager;
  isOnline(): boolean;
  runnable(appId: string): RunnableApp | undefined;
  channelOf(appId: string): RatingChannel;
  now(): number;
  showPrompt(app: RunnableApp, prompt: RatingPrompt): void;
  closeCover(): void;
}

const QUOTA_MS = 30 * 86_400_000;

export class PhoneRatings {
  readonly #on: Surroundings;
  readonly #shownAt = new Map<string, number>();

  constructor(surroundings: Surroundings) {
    this.#on = surroundings;
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

  closed(app: RunnableApp): void {
    this.#on.closeCover();
    this.#tell(app, false);
  }

  #mayShow(appId: string): boolean {
    const channel = this.#on.channelOf(appId);
    if (channel === 'local') return false;
    return channel === 'private-share' || this.#on.now() - (this.#shownAt.get(appId) ?? 0) > QUOTA_MS;
  }

  #tell(app: RunnableApp, failed: boolean): void {
    const activities = this.#on.activities();
    const record = activities.shown;
    if (!record || activities.front.app.appId !== app.appId) return;
    activities.run(activities.front, record, 'onComplete', (host: ScreenHost) =>
      app.model.ratingFinished?.(host, failed),
    );
  }
}
