/** The app that a person has in front of them: nothing is known of it but what the phone tells. */
import type { BuildKey } from '../../core/model/candidate.ts';
import { UnreadableError } from '../../core/model/problem.ts';
import type { Device, DeviceApp } from '../device.ts';

export interface AppInFront {
  app: DeviceApp;
  /** Its code is not read: `code` is empty. */
  build: BuildKey;
}

/**
 * The app in front, or the one that is named, which must then be in front.
 *
 * @throws UnreadableError where another is in front, or one that cannot be opened from the launcher
 */
export async function appInFront(device: Device, appId?: string): Promise<AppInFront> {
  // an iOS device tells of apps by their names alone
  if (appId) await device.findApp(appId);
  const activity = await device.front();
  const front = activity.split('/')[0] ?? '';
  if (!front)
    throw new UnreadableError({
      code: 'device.nothing-in-front',
      file: device.serial,
      found: 'no app in front: the screen is off or locked, or the shade is open',
      remedy:
        device.platform === 'ios'
          ? 'Open the app at the screen that you mean, and name it: --app ID.'
          : 'Unlock the phone and open the app at the screen that you mean.',
    });
  if (appId && appId !== front)
    throw new UnreadableError({
      code: 'device.other-app',
      file: device.serial,
      found: `${front} is in front, not ${appId}`,
      remedy: 'Open the app at the screen that you mean.',
    });
  const app = await device.findApp(front);
  if (!app)
    throw new UnreadableError({
      code: 'device.no-app',
      file: device.serial,
      found: `${front} is in front, which has no entry in the launcher: the home screen, or a part of the system`,
      remedy: 'Open the app at the screen that you mean.',
    });
  return { app, build: await device.versionOf(front) };
}
