import type { ScreenDrill } from './screen-drill.ts';

export const backgroundServices = {
  id: 'background-services',
  needs: ['services'],
  says: 'home, and what of the app runs on',
  run: async ({ app, device, press, untilStopped, write }) => {
    const list = async (step: string) =>
      write('services.seen', { step, services: await device.runningServices(app.appId) });
    await list('before');
    await press('HOME');
    await untilStopped();
    await list('after');
  },
} satisfies ScreenDrill;
