/** The code of the demo's candidate, with all that is wrong with it. */
import { kelplineAds, kelplineStore } from 'fenlok/standins/models';
import type { RehearsedApp } from './app.ts';

export const KELPLINE = 'example.kelpline';

export const kelplineApp: RehearsedApp = {
  launched: (host) => {
    kelplineStore.askStore(host);
    kelplineAds.startAds(host);
  },
  resumed: () => {},
  looked: (host) => kelplineStore.formatAccess(host),
  buying: (host, product) => host.store.buy(product),
  restoring: (host) => {
    kelplineStore.logRestoring(host);
    host.store.restore();
  },
  consented: () => {},
  load: kelplineAds.loadAd,
  show: kelplineAds.showAd,
  store: kelplineStore.store,
  ads: kelplineAds.ads,
};
