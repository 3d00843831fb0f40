/** What is in front on a device: the OS's UI hierarchy dump, and the activity that it belongs to. */
import { readHierarchy } from '../../core/formats/android/hierarchy.ts';
import { UnreadableError, unwrap } from '../../core/model/problem.ts';
import type { UiNode } from '../../core/model/ui-tree.ts';
import type { Device } from '../bridge/device.ts';
import { OutOfReach } from '../bridge/out-of-reach.ts';
import { pause } from './pause.ts';

export interface Snapshot {
  /** `example.app/.MainActivity`; empty where nothing is resumed. */
  activity: string;
  hierarchy: string;
  tree: UiNode;
}

/** The platform gave no dump, however often it was asked. */
export class NoDump extends OutOfReach {
  constructor(serial: string, said: string) {
    super(
      'no-dump',
      `${serial} gives no dump of its screen: ${said || 'nothing was printed'}${/idle/.test(said) ? ' Something on it moves without end: hold the animations off (fenlok hold --animations off), or stop what plays.' : ''}`,
    );
  }
}

const SCREEN_OFF =
  'its screen is off or locked. Unlock it; where it locks itself in the middle, keep it on: fenlok hold --stay-on';

const TRIES = 25;
const LONGEST_PAUSE_MS = 400;

/**
 * Asked again while the screen moves ("could not get idle state").
 *
 * @throws NoDump
 */
export async function takeSnapshot(device: Device): Promise<Snapshot> {
  let said = '';
  for (let tries = 0; tries < TRIES; tries++) {
    const text = new TextDecoder().decode(await device.bytes(LINE));
    const hierarchy = /<hierarchy[\s\S]*<\/hierarchy>/.exec(text)?.[0];
    if (hierarchy) {
      const tree = unwrap(await readHierarchy(`${device.serial}, dump`, hierarchy));
      return { activity: activityIn(text), hierarchy, tree };
    }
    said = text.trim().split('\n')[0] ?? '';
    if (said.includes('null root node') && (await isScreenOff(device)))
      throw new NoDump(device.serial, SCREEN_OFF);
    await pause(Math.min(LONGEST_PAUSE_MS, 20 * (tries + 1)));
  }
  throw new NoDump(device.serial, said);
}

const RESUMED = 'dumpsys activity activities | grep -E "ResumedActivity|mResumedActivity"';
const LINE = `uiautomator dump /dev/tty 2>&1; ${RESUMED}`;

/** `example.app/.MainActivity`; empty where nothing is resumed. */
export const resumedActivity = async (device: Device): Promise<string> =>
  activityIn((await device.run(RESUMED)).out);

/** `dumpsys power`: `mWakefulness` (AOSP, PowerManagerService.dump) */
const isScreenOff = async (device: Device): Promise<boolean> =>
  /mWakefulness=(?:Asleep|Dozing)/.test((await device.run('dumpsys power | grep mWakefulness=')).out);

/** The first one that is told: of several displays the one in front. */
const activityIn = (text: string): string =>
  /ResumedActivity[=:]\s*ActivityRecord\{\S+ \S+ (\S+\/\S+)/.exec(text)?.[1] ?? '';

const COVERED_TRIES = 6;
const COVERED_PAUSE_MS = 250;

/** The same, of an app: what only flits above it (a heads-up message, a keyboard that closes) is waited for, for a while. */
export async function takeAppSnapshot(device: Device, appId: string): Promise<Snapshot> {
  for (let tries = 1; ; tries++) {
    const seen = await takeSnapshot(device);
    if (tries === COVERED_TRIES || !windowAbove(seen, appId)) return seen;
    await pause(COVERED_PAUSE_MS);
  }
}

/** Whose window lies above the app that is in front: of the shade, of a keyboard. */
export const windowAbove = ({ activity, hierarchy }: Snapshot, appId: string): string | undefined => {
  const owner = ownerOf(hierarchy);
  return activity.startsWith(`${appId}/`) && owner !== appId ? owner : undefined;
};

const ownerOf = (hierarchy: string): string | undefined =>
  /<node [^>]*?package="([^"]*)"/.exec(hierarchy)?.[1];

/**
 * What a dump shows is the app's own window, and not one of the system above it: the shade, a question, a keyboard.
 *
 * @throws UnreadableError
 */
export function demandOwnWindow(device: Device, { hierarchy }: Snapshot, appId: string): void {
  const owner = ownerOf(hierarchy);
  if (!owner || owner === appId) return;
  throw new UnreadableError({
    code: 'device.covered',
    file: device.serial,
    found: `a window of ${owner} above ${appId}`,
    remedy: 'Close it (the shade, a question of the system, a keyboard), so that the app itself is in front.',
  });
}
