import type { ScreenDrill } from './screen-drill.ts';

/** Another app comes to the front; the key for recent apps, pressed twice, switches back to the one before. */
export const recents = {
  id: 'recents',
  says: 'another app, then back over the recent apps',
  run: async ({ press, run, untilStopped }) => {
    await run('am start -W -a android.settings.SETTINGS');
    await untilStopped();
    await press('APP_SWITCH');
    await press('APP_SWITCH');
  },
} satisfies ScreenDrill;
