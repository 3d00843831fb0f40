import { isOverNetwork } from '../../bridge/is-over-network.ts';
import type { ScreenDrill } from './screen-drill.ts';

export const networkLost = {
  id: 'network-lost',
  says: 'without network, left and opened again, and with it once more',
  // a phone that is attached over the network would be cut off with it
  notOn: (device) =>
    isOverNetwork(device) ? 'it is attached over Wi-Fi, and would be cut off from this computer' : undefined,
  run: async ({ override, launch, lookAway, press, restore, untilStopped }) => {
    await override('wifi', 'disable');
    await override('data', 'disable');
    await press('HOME');
    await untilStopped();
    await launch();
    await lookAway();
    await restore('data');
    await restore('wifi');
  },
} satisfies ScreenDrill;
