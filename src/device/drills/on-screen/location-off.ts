import type { ScreenDrill } from './screen-drill.ts';

export const locationOff = {
  id: 'location-off',
  needs: ['location'],
  says: 'location switched off, left and opened again, and on once more',
  run: async ({ override, launch, press, restore, untilStopped }) => {
    await override('location', 'off');
    await press('HOME');
    await untilStopped();
    await launch();
    await restore('location');
  },
} satisfies ScreenDrill;
