import type { ScreenDrill } from './screen-drill.ts';

/** The window of a call cannot be had over the bridge; the phone's own app for calls lies over the screen as that does. */
export const interrupted = {
  id: 'interrupted',
  says: 'another app on top, as with a call, then back',
  run: async ({ lookAway, press, run, untilStopped }) => {
    await run('am start -W -a android.intent.action.DIAL');
    await untilStopped();
    await lookAway();
    await press('BACK');
  },
} satisfies ScreenDrill;
