import { until } from '../../phone/pause.ts';
import type { ScreenDrill } from './screen-drill.ts';

// An app whose process is gone has to begin again first.
const COMES_WITHIN_MS = 3_000;

/** Another app comes to the front; the key for recent apps, pressed twice, switches back to the one before. */
export const recents = {
  id: 'recents',
  needs: ['recents'],
  says: 'another app, then back over the recent apps',
  run: async ({ app, device, openOther, press, untilStopped }) => {
    await openOther('settings');
    await untilStopped();
    await press('APP_SWITCH');
    await press('APP_SWITCH');
    await until(async () => (await device.front()).startsWith(`${app.appId}/`), COMES_WITHIN_MS);
  },
} satisfies ScreenDrill;
