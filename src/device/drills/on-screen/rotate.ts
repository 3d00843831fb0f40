import type { ScreenDrill } from './screen-drill.ts';

export const rotate = {
  id: 'rotate',
  says: 'sideways and upright again',
  run: async ({ override, lookAway }) => {
    await override('system/accelerometer_rotation', '0');
    await override('system/user_rotation', '1');
    await lookAway();
    await override('system/user_rotation', '0');
  },
} satisfies ScreenDrill;
