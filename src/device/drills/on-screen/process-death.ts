import type { ScreenDrill } from './screen-drill.ts';

/** The background kill spares what is in front or not yet stopped, so it comes after the stop. */
export const processDeath = {
  id: 'process-death',
  says: 'left, its process killed in the background, and opened again',
  // a process takes its time to go
  estimateS: 30,
  run: async ({ app, launch, press, run, untilGone, untilStopped }) => {
    await press('HOME');
    await untilStopped();
    await run(`am kill ${app.appId}`);
    await untilGone();
    await launch();
  },
  walksBack: true,
} satisfies ScreenDrill;
