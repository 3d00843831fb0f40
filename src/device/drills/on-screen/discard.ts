import type { ScreenDrill } from './screen-drill.ts';

/** Some systems read the setting only at boot, or when its own page flips it: then nothing is destroyed, and the run is invalid. */
export const discard = {
  id: 'discard',
  needs: ['discard'],
  says: 'left, destroyed meanwhile by the system, and opened again',
  // a process takes its time to go
  estimateS: 30,
  run: async ({ override, launch, press, restore, untilStopped }) => {
    await override('discard');
    await press('HOME');
    await untilStopped();
    await restore('discard');
    await launch();
  },
  walksBack: true,
} satisfies ScreenDrill;
