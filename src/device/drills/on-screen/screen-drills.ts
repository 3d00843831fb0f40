import { back } from './back.ts';
import { backgroundServices } from './background-services.ts';
import { covered } from './covered.ts';
import { discard } from './discard.ts';
import { homeAndReturn } from './home-and-return.ts';
import { interrupted } from './interrupted.ts';
import { locationOff } from './location-off.ts';
import { lowBattery } from './low-battery.ts';
import { networkLost } from './network-lost.ts';
import { offline } from './offline.ts';
import { permissionRevoked } from './permission-revoked.ts';
import { processDeath } from './process-death.ts';
import { recents } from './recents.ts';
import { resize } from './resize.ts';
import { rotate } from './rotate.ts';
import type { ScreenDrill } from './screen-drill.ts';
import { screenOff } from './screen-off.ts';

/** Every drill that is run on each screen, in the order in which they are run. */
export const allScreenDrills: readonly ScreenDrill[] = [
  back,
  backgroundServices,
  homeAndReturn,
  recents,
  covered,
  interrupted,
  screenOff,
  rotate,
  resize,
  discard,
  processDeath,
  permissionRevoked,
  networkLost,
  lowBattery,
  locationOff,
  offline,
];
