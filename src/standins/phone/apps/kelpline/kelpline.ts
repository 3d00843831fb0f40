import type { PhoneApp } from '../../app-model.ts';
import { ads } from './ads.ts';
import { alerts } from './alerts.ts';
import { booking } from './booking.ts';
import { gangway } from './gangway.ts';
import { pass } from './pass.ts';
import { push, registerIfAllowed } from './push.ts';
import { ratingFinished } from './rating.ts';
import { sailing } from './sailing.ts';
import { settings } from './settings.ts';
import { signIn } from './sign-in.ts';
import { store } from './store.ts';
import { tickets } from './tickets.ts';
import { timetable } from './timetable.ts';

/** Kelpline, the made-up island-ferry app. Defects are planted here and in its resources, and marked so. */
export const kelpline: PhoneApp = {
  appId: 'example.kelpline',
  hasThreadPolicy: true,
  // planted: bold text has no effect
  followsBoldText: false,
  push,
  store,
  ads,
  ratingFinished,
  permissionAnswered: (host) => registerIfAllowed(host),
  screens: { timetable, sailing, booking, tickets, pass, alerts, settings, signIn, gangway },
};
