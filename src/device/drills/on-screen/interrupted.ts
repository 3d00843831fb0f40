import { until } from '../../phone/pause.ts';
import type { ScreenDrill } from './screen-drill.ts';

// The first may only close its keypad.
const MOST_BACKS = 3;
const LEAVES_WITHIN_MS = 1_000;

/** The window of a call cannot be had over the bridge; the phone's own app for calls lies over the screen as that does. */
export const interrupted = {
  id: 'interrupted',
  says: 'another app on top, as with a call, then back',
  run: async ({ device, launch, lookAway, openOther, press, untilStopped }) => {
    await openOther('calls');
    await untilStopped();
    await lookAway();
    // without a key for back, people come back by the app itself
    if (device.whyNot('back')) return launch();
    const appInFront = async () => (await device.front()).split('/')[0];
    const other = await appInFront();
    for (let presses = 0; presses < MOST_BACKS; presses++) {
      await press('BACK');
      if (await until(async () => (await appInFront()) !== other, LEAVES_WITHIN_MS)) return;
    }
  },
} satisfies ScreenDrill;
