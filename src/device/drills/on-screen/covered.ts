import type { ScreenDrill } from './screen-drill.ts';

export const covered = {
  id: 'covered',
  says: 'the notification shade over it, then away',
  run: async ({ closeShade, lookAway, openShade }) => {
    await openShade();
    await lookAway();
    await closeShade();
  },
} satisfies ScreenDrill;
