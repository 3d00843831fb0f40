import type { ScreenDrill } from './screen-drill.ts';

const LEVEL = '4';

export const lowBattery = {
  id: 'low-battery',
  says: 'nearly empty and saving battery, then charged again',
  run: async ({ override, lookAway, restore }) => {
    await override('battery', LEVEL);
    await override('global/low_power', '1');
    await lookAway();
    await restore('global/low_power');
    await restore('battery');
  },
} satisfies ScreenDrill;
