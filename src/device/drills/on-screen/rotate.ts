import type { ScreenDrill } from './screen-drill.ts';

export const rotate = {
  id: 'rotate',
  says: 'sideways and upright again',
  run: async ({ override, lookAway }) => {
    await override('rotation', 'sideways');
    await lookAway();
    await override('rotation', 'upright');
  },
} satisfies ScreenDrill;
