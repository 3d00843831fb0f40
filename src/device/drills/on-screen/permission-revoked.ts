import { StepFailed } from '../../phone/perform-step.ts';
import type { ScreenDrill } from './screen-drill.ts';

/**
 * What the user allowed is taken back in the settings while the app is away: the system ends its process for it (Android developers,
 * *Request runtime permissions*).
 */
export const permissionRevoked = {
  id: 'permission-revoked',
  says: 'left, a permission taken back meanwhile, and opened again',
  // a process takes its time to go
  estimateS: 30,
  needs: ['permissions'],
  demand: async ({ app, device }) => {
    if ((await device.grantedPermissions(app.appId)).length === 0)
      throw new StepFailed(
        'permission',
        'no runtime permission is granted to the app, so there is none to take back. Allow one in the app, and run it again',
      );
  },
  run: async ({ app, device, launch, deny, press, untilGone, untilStopped }) => {
    const granted = await device.grantedPermissions(app.appId);
    await press('HOME');
    await untilStopped();
    for (const name of granted) await deny(name);
    await untilGone();
    await launch();
  },
} satisfies ScreenDrill;
