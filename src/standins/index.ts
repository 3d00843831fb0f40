/** `fenlok/standins`: the simulated phone. */
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
