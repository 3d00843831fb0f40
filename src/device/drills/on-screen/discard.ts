import type { ScreenDrill } from './screen-drill.ts';

const SETTING = 'global/always_finish_activities';

/** Some systems read the setting only at boot, or when its own page flips it: then nothing is destroyed, and the run is invalid. */
export const discard = {
  id: 'discard',
  says: 'left, destroyed meanwhile by the system, and opened again',
  // a process takes its time to go
  estimateS: 30,
  run: async ({ override, launch, press, restore, untilStopped }) => {
    await override(SETTING, '1');
    await press('HOME');
    await untilStopped();
    await restore(SETTING);
    await launch();
  },
  walksBack: true,
} satisfies ScreenDrill;
