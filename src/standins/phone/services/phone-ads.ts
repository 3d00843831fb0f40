/** Ads on the phone: the networks' libraries in the installed apps, what they log, and the screen-filling ads that they lay over them. */
import { randomUUID } from 'node:crypto';
import { askNetwork } from '../../ads/ask-network.ts';
import { type AdRequest, formatAnswer, formatRequest, logTagOf } from '../../ads/bid-forms.ts';
import type { AdHost } from '../app-model.ts';
import type { AppSide, ServedApp } from './app-side.ts';
import type { ShownAd } from './shown-ad.ts';

/** What the rest of the phone does for ads. */
interface AdsSide<App extends ServedApp> extends AppSide<App> {
  showAd(app: App, shown: ShownAd): void;
}

export class PhoneAds<App extends ServedApp> {
  readonly #on: AdsSide<App>;
  /** Of this device, as the user may reset it. */
  readonly advertisingId = randomUUID();
  #ads?: string;

  constructor(phone: AdsSide<App>) {
    this.#on = phone;
  }

  connect(ads: string): void {
    this.#ads = ads;
  }
  get isConnected(): boolean {
    return this.#ads !== undefined;
  }

  async load(appId: string, placement: string, request: AdRequest): Promise<void> {
    const app = this.#on.runnable(appId);
    if (!app || this.#ads === undefined) return;
    const log = (priority: 'D' | 'W', text: string) => this.#on.log(app, priority, logTagOf(request), text);
    log('D', formatRequest(request));
    const answer = this.#on.isOnline()
      ? await askNetwork(this.#ads, request, { advertisingId: this.advertisingId, bundle: appId })
      : ({ outcome: 'failed', reason: 'no connection' } as const);
    log(answer.outcome === 'loaded' ? 'D' : 'W', formatAnswer(request, answer));
    this.#tell(app, (host) => app.model.ads?.answered(host, placement, request, answer));
  }

  show(appId: string, shown: ShownAd): void {
    const app = this.#on.runnable(appId);
    if (app) this.#on.showAd(app, shown);
  }

  closed(app: App, { placement }: ShownAd): void {
    this.#on.closeCover();
    this.#tell(app, (host) => app.model.ads?.closed(host, placement));
  }

  #tell(app: App, code: (host: AdHost) => void): void {
    this.#on.onScreen(app, 'onAdAnswer', code);
  }
}
