import { until } from '../../phone/pause.ts';
import { resumedActivity } from '../../phone/snapshot.ts';
import type { ScreenDrill } from './screen-drill.ts';

// The first may only close its keypad.
const MOST_BACKS = 3;
const LEAVES_WITHIN_MS = 1_000;

/** The window of a call cannot be had over the bridge; the phone's own app for calls lies over the screen as that does. */
export const interrupted = {
  id: 'interrupted',
  says: 'another app on top, as with a call, then back',
  run: async ({ device, lookAway, press, run, untilStopped }) => {
    await run('am start -W -a android.intent.action.DIAL');
    await untilStopped();
    await lookAway();
    const appInFront = async () => (await resumedActivity(device)).split('/')[0];
    const other = await appInFront();
    for (let presses = 0; presses < MOST_BACKS; presses++) {
      await press('BACK');
      if (await until(async () => (await appInFront()) !== other, LEAVES_WITHIN_MS)) return;
    }
  },
} satisfies ScreenDrill;
