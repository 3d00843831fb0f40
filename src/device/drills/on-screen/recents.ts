import { until } from '../../phone/pause.ts';
import { resumedActivity } from '../../phone/snapshot.ts';
import type { ScreenDrill } from './screen-drill.ts';

// An app whose process is gone has to begin again first.
const COMES_WITHIN_MS = 3_000;

/** Another app comes to the front; the key for recent apps, pressed twice, switches back to the one before. */
export const recents = {
  id: 'recents',
  says: 'another app, then back over the recent apps',
  run: async ({ app, device, press, run, untilStopped }) => {
    await run('am start -W -a android.settings.SETTINGS');
    await untilStopped();
    await press('APP_SWITCH');
    await press('APP_SWITCH');
    await until(async () => (await resumedActivity(device)).startsWith(`${app.appId}/`), COMES_WITHIN_MS);
  },
} satisfies ScreenDrill;
