/** The app that a person has in front of them, and how its phone is set: nothing is known of it but what the phone tells. */
import type { BuildKey } from '../../core/model/candidate.ts';
import type { Cell } from '../../core/model/cell.ts';
import { UnreadableError } from '../../core/model/problem.ts';
import type { Device } from '../bridge/device.ts';
import { nameOfDevice } from '../drills/drill.ts';
import { type DeviceApp, findApp } from '../phone/app.ts';
import { resumedActivity } from '../phone/snapshot.ts';

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
  const activity = await resumedActivity(device);
  const front = activity.split('/')[0] ?? '';
  if (!front)
    throw new UnreadableError({
      code: 'device.nothing-in-front',
      file: device.serial,
      found: 'no app in front: the screen is off or locked, or the shade is open',
      remedy: 'Unlock the phone and open the app at the screen that you mean.',
    });
  if (appId && appId !== front)
    throw new UnreadableError({
      code: 'device.other-app',
      file: device.serial,
      found: `${front} is in front, not ${appId}`,
      remedy: 'Open the app at the screen that you mean.',
    });
  const app = await findApp(device, front);
  if (!app)
    throw new UnreadableError({
      code: 'device.no-app',
      file: device.serial,
      found: `${front} is in front, which has no entry in the launcher: the home screen, or a part of the system`,
      remedy: 'Open the app at the screen that you mean.',
    });
  return { app, build: await versionOf(device, front) };
}

async function versionOf(device: Device, appId: string): Promise<BuildKey> {
  const { out } = await device.run(`dumpsys package ${appId} | grep -E "versionName=|versionCode="`);
  const version = /versionName=(\S+)/.exec(out)?.[1] ?? '';
  const build = /versionCode=(\d+)/.exec(out)?.[1] ?? '';
  return { appId, version, build, code: '' };
}

const MARKED = (name: string, line: string) => `echo "${name}=$(${line} 2>/dev/null)"`;

/** How the phone is set now, in the words of a capture. */
export async function settingsNow(
  device: Device,
  appId: string,
): Promise<Omit<Cell, 'screen' | 'procedure' | 'step'>> {
  const { out } = await device.run(
    [
      MARKED('scale', 'settings get system font_scale'),
      MARKED('night', 'cmd uimode night'),
      MARKED('own', `cmd locale get-app-locales ${appId}`),
      MARKED('chosen', 'getprop persist.sys.locale'),
      MARKED('shipped', 'getprop ro.product.locale'),
    ].join('; '),
  );
  const said = (name: string) => new RegExp(`^${name}=(.*)$`, 'm').exec(out)?.[1]?.trim() ?? '';
  const own = /are \[([^\],]+)/.exec(said('own'))?.[1];
  const scale = Number(said('scale'));
  return {
    device: nameOfDevice(device),
    locale: own?.trim() || said('chosen') || said('shipped') || 'en',
    theme: said('night').endsWith('yes') ? 'dark' : 'light',
    textScale: scale > 0 ? scale : 1,
    orientation: 'portrait',
  };
}
