import type { ScreenDrill } from './screen-drill.ts';

export const rotate = {
  id: 'rotate',
  says: 'sideways and upright again',
  run: async ({ borrow, lookAway }) => {
    await borrow('system/accelerometer_rotation', '0');
    await borrow('system/user_rotation', '1');
    await lookAway();
    await borrow('system/user_rotation', '0');
  },
} satisfies ScreenDrill;
