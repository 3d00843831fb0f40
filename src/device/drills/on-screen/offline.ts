import { isOverNetwork } from '../../bridge/is-over-network.ts';
import type { ScreenDrill } from './screen-drill.ts';

/** The process is gone and with it all that it had loaded: what is shown then is what the app keeps on the device. */
export const offline = {
  id: 'offline',
  says: 'its process gone, opened again without network',
  estimateS: 30,
  // a phone that is attached over the network would be cut off with it
  notOn: (device) =>
    isOverNetwork(device) ? 'it is attached over Wi-Fi, and would be cut off from this computer' : undefined,
  run: async ({ app, launch, lookAway, override, press, restore, run, untilGone, untilStopped }) => {
    await override('wifi', 'disable');
    await override('data', 'disable');
    await press('HOME');
    await untilStopped();
    await run(`am kill ${app.appId}`);
    await untilGone();
    await launch();
    await lookAway();
    await restore('data');
    await restore('wifi');
  },
} satisfies ScreenDrill;
