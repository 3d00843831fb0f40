/** `fenlok/standins/models`: the test store and the ad networks without their servers; they run in a page, too. */
export { askExchange } from './ads/ask-exchange.ts';
export {
  type AdAnswer,
  type AdDevice,
  type AdRequest,
  formatAnswer,
  formatRequest,
  logTagOf,
} from './ads/bid-forms.ts';
export {
  AdExchange,
  type ExchangeSetup,
  exchangeSchema,
  type ResponseMode,
  responseModes,
} from './ads/exchange.ts';
export type { AdHost, AppAds, AppStore, OwnedSale, ScreenHost, StoreHost } from './phone/app-model.ts';
export * as kelplineAds from './phone/apps/kelpline/ads.ts';
export * as kelplineStore from './phone/apps/kelpline/store.ts';
export { type Offer, type StoreCatalogue, storeCatalogueSchema } from './store/catalogue.ts';
export type { StoreSettings } from './store/sales.ts';
export { Store, type StoreReply } from './store/store.ts';
export { StoreClock } from './store/store-clock.ts';
export { type StoreOrder, StoreRefusal, storeOrderSchema } from './store/store-order.ts';
export type { Transaction } from './store/transaction.ts';
