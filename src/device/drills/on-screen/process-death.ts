import type { ScreenDrill } from './screen-drill.ts';

/** The background kill spares what is in front or not yet stopped, so it comes after the stop. */
export const processDeath = {
  id: 'process-death',
  says: 'left, its process killed in the background, and opened again',
  needs: ['kill'],
  // a process takes its time to go
  estimateS: 30,
  run: async ({ kill, launch, press, untilGone, untilStopped }) => {
    await press('HOME');
    await untilStopped();
    await kill();
    await untilGone();
    await launch();
  },
  walksBack: true,
} satisfies ScreenDrill;
