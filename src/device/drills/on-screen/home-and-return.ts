import type { ScreenDrill } from './screen-drill.ts';

export const homeAndReturn = {
  id: 'home-and-return',
  says: 'home, then open it again',
  run: async ({ launch, press, untilStopped }) => {
    await press('HOME');
    await untilStopped();
    await launch();
  },
} satisfies ScreenDrill;
