import type { ScreenDrill } from './screen-drill.ts';

/** The process is gone and with it all that it had loaded: what is shown then is what the app keeps on the device. */
export const offline = {
  id: 'offline',
  says: 'its process gone, opened again without network',
  estimateS: 30,
  needs: ['network', 'kill'],
  run: async ({ kill, launch, lookAway, override, press, restore, untilGone, untilStopped }) => {
    await override('network', 'off');
    await press('HOME');
    await untilStopped();
    await kill();
    await untilGone();
    await launch();
    await lookAway();
    await restore('network');
  },
} satisfies ScreenDrill;
