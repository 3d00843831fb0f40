import type { ScreenDrill } from './screen-drill.ts';

/** A device with a PIN stays locked: then there is nothing to be seen afterwards, and the run is invalid. */
export const screenOff = {
  id: 'screen-off',
  says: 'screen off and on, lock and unlock',
  run: async ({ press, run, untilStopped }) => {
    await press('SLEEP');
    await untilStopped();
    await press('WAKEUP');
    await run('wm dismiss-keyguard');
  },
} satisfies ScreenDrill;
