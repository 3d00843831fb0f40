/** `fenlok/standins`: the simulated phone, push gateway, messaging service, test store and ad networks. */
export { askNetwork } from './ads/ask-network.ts';
export type { AdAnswer, AdRequest } from './ads/bid-forms.ts';
export { AdExchange, type ExchangeSetup, exchangeSchema, type ResponseMode } from './ads/exchange.ts';
export { type AdsAddress, type AdsOptions, type ServedAds, serveAds } from './ads/serve-ads.ts';
export { DeviceLink, type DeviceLinkOptions } from './device-link.ts';
export {
  type DeliveredMessage,
  MESSAGE_FAULTS,
  MessageService,
  type SendAnswer,
} from './messages/message-service.ts';
export {
  type MessagesAddress,
  type MessagesOptions,
  type ServedMessages,
  serveMessages,
} from './messages/serve-messages.ts';
export type {
  AppContext,
  Element,
  PhoneApp,
  ScreenHost,
  ScreenModel,
  ScreenState,
} from './phone/app-model.ts';
export { kelplineIos } from './phone/apps/kelpline/ios.ts';
export { kelpline } from './phone/apps/kelpline/kelpline.ts';
export { kelplineNext } from './phone/apps/kelpline/next.ts';
export { type PhoneOptions, type ServedPhone, servePhone } from './phone/bridge/serve-phone.ts';
export { IosPhone } from './phone/ios/ios-phone.ts';
export { type IosShape, iosShapes } from './phone/ios/ios-shapes.ts';
export { type LookoutOptions, type ServedLookout, serveLookout } from './phone/ios/serve-lookout.ts';
export { type Phone, type ShowSettings, startPhone } from './phone/phone.ts';
export { type PhoneShape, shapes } from './phone/shapes.ts';
export { type DeliveredPush, type Fault, PushGateway } from './push/gateway.ts';
export { Receiver, type ReceiverApp, type ReceiverLine } from './push/receiver.ts';
export {
  type GatewayAddress,
  type GatewayOptions,
  type ServedGateway,
  serveGateway,
} from './push/serve-gateway.ts';
export { type Offer, type StoreCatalogue, storeCatalogueSchema } from './store/catalogue.ts';
export type { StoreSettings } from './store/sales.ts';
export {
  type ServedStore,
  type StoreAddress,
  type StoreFault,
  type StoreOptions,
  serveStore,
} from './store/serve-store.ts';
export { Store, type StoreReply } from './store/store.ts';
export { StoreClock } from './store/store-clock.ts';
export { StoreLink } from './store/store-link.ts';
export { type StoreOrder, StoreRefusal, storeOrderSchema } from './store/store-order.ts';
export type { Transaction } from './store/transaction.ts';
