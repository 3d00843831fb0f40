import type { ScreenDrill } from './screen-drill.ts';

/** A device with a PIN stays locked: then there is nothing to be seen afterwards, and the run is invalid. */
export const screenOff = {
  id: 'screen-off',
  needs: ['screen-off'],
  says: 'screen off and on, lock and unlock',
  run: async ({ press, unlock, untilStopped }) => {
    await press('SLEEP');
    await untilStopped();
    await press('WAKEUP');
    await unlock();
  },
} satisfies ScreenDrill;
