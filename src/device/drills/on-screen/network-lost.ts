import type { ScreenDrill } from './screen-drill.ts';

export const networkLost = {
  id: 'network-lost',
  says: 'without network, left and opened again, and with it once more',
  needs: ['network'],
  run: async ({ override, launch, lookAway, press, restore, untilStopped }) => {
    await override('network', 'off');
    await press('HOME');
    await untilStopped();
    await launch();
    await lookAway();
    await restore('network');
  },
} satisfies ScreenDrill;
