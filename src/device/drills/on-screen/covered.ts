import type { ScreenDrill } from './screen-drill.ts';

export const covered = {
  id: 'covered',
  says: 'the notification shade over it, then away',
  run: async ({ lookAway, run }) => {
    await run('cmd statusbar expand-notifications');
    await lookAway();
    await run('cmd statusbar collapse');
  },
} satisfies ScreenDrill;
