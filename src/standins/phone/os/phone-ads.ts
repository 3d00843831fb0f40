/** Ads on the phone: the networks' libraries in the installed apps, what they log, and the screen-filling ads that they lay over them. */
import { randomUUID } from 'node:crypto';
import { askNetwork } from '../../ads/ask-network.ts';
import { type AdRequest, formatAnswer, formatRequest, logTagOf } from '../../ads/bid-forms.ts';
import type { AdHost } from '../app-model.ts';
import type { ActivityManager, RunnableApp } from './activity-manager.ts';
import type { DeviceLog } from './device-log.ts';
import type { ShownAd } from './shown-ad.ts';

/** What the rest of the phone does for ads. */
export interface Surroundings {
  log: DeviceLog;
  activities: ActivityManager;
  isOnline(): boolean;
  runnable(appId: string): RunnableApp | undefined;
  showAd(app: RunnableApp, shown: ShownAd): void;
  closeCover(): void;
}

export class PhoneAds {
  readonly #on: Surroundings;
  /** Of this device, as the user may reset it. */
  readonly advertisingId = randomUUID();
  #ads?: string;

  constructor(surroundings: Surroundings) {
    this.#on = surroundings;
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
    const log = (priority: 'D' | 'W', text: string) =>
      this.#on.log.write('main', this.#on.activities.pidOf(appId), priority, logTagOf(request), text);
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

  closed(app: RunnableApp, { placement }: ShownAd): void {
    this.#on.closeCover();
    this.#tell(app, (host) => app.model.ads?.closed(host, placement));
  }

  #tell(app: RunnableApp, code: (host: AdHost) => void): void {
    const { activities } = this.#on;
    const record = activities.shown;
    if (!record || activities.front.app.appId !== app.appId) return;
    activities.run(activities.front, record, 'onAdAnswer', code);
  }
}
