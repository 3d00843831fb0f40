/** `fenlok/standins`: the simulated phone, and the push gateway. */
export type {
  AppContext,
  Element,
  PhoneApp,
  ScreenHost,
  ScreenModel,
  ScreenState,
} from './phone/app-model.ts';
export { kelpline } from './phone/apps/kelpline/kelpline.ts';
export { type PhoneOptions, type ServedPhone, servePhone } from './phone/bridge/serve-phone.ts';
export { type Phone, type ShowSettings, startPhone } from './phone/phone.ts';
export { type PhoneShape, shapes } from './phone/shapes.ts';
export { DeviceLink, type DeviceLinkOptions } from './push/device-link.ts';
export { type DeliveredPush, type Fault, PushGateway } from './push/gateway.ts';
export { Receiver, type ReceiverApp, type ReceiverLine } from './push/receiver.ts';
export {
  type GatewayAddress,
  type GatewayOptions,
  type ServedGateway,
  serveGateway,
} from './push/serve-gateway.ts';
