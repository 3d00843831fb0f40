import type { ScreenDrill } from './screen-drill.ts';

const LEVEL = '4';

export const lowBattery = {
  id: 'low-battery',
  needs: ['battery'],
  says: 'nearly empty and saving battery, then charged again',
  run: async ({ override, lookAway, restore }) => {
    await override('battery', LEVEL);
    await override('battery-saver');
    await lookAway();
    await restore('battery-saver');
    await restore('battery');
  },
} satisfies ScreenDrill;
