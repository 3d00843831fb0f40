/** An app as the rehearsal runs it: what its code does at each occasion, whoever wrote it. */
import type { AppAds, AppStore, ScreenHost, StoreHost } from 'fenlok/standins/models';

/** What the phone does for an app. */
export interface AppHost
  extends Pick<ScreenHost, 'ads' | 'log' | 'memory' | 'set' | 'storage' | 'store'>,
    Pick<StoreHost, 'finish'> {
  /** The user is asked, and answers in their own time. */
  askConsent(): void;
}

export interface RehearsedApp {
  /** Its process starts, with a screen in front. */
  launched(host: AppHost): void;
  /** It was left, and comes back to the front. */
  resumed(host: AppHost): void;
  /** A screen of it is looked at, a moment after anything happened: it says what it gives. */
  looked(host: AppHost): void;
  /** Its user touched the button that buys. */
  buying(host: AppHost, product: string): void;
  restoring(host: AppHost): void;
  consented(host: AppHost, agrees: boolean): void;
  /** @param place in the waterfall, from 0 */
  load(host: AppHost, placement: string, place: number): void;
  show(host: AppHost, placement: string): void;
  /** What it does by itself once its user has left it. */
  background?: { everyMs: number; run(host: AppHost): void };
  store: AppStore;
  ads: AppAds;
}
