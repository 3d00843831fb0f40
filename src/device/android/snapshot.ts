/** What is in front on a device: the OS's UI hierarchy dump, and the activity that it belongs to. */
import { readHierarchy } from '../../core/formats/android/hierarchy.ts';
import { unwrap } from '../../core/model/problem.ts';
import type { BridgeLine } from '../bridge/bridge-line.ts';
import type { Snapshot } from '../device.ts';
import { NoDump } from '../out-of-reach.ts';
import { pause } from '../phone/pause.ts';

const SCREEN_OFF =
  'its screen is off or locked. Unlock it; where it locks itself in the middle, keep it on: fenlok hold --stay-on';

const TRIES = 25;
const LONGEST_PAUSE_MS = 400;

/**
 * Asked again while the screen moves ("could not get idle state").
 *
 * @throws NoDump
 */
export async function takeSnapshot(device: BridgeLine): Promise<Snapshot> {
  let said = '';
  for (let tries = 0; tries < TRIES; tries++) {
    const text = new TextDecoder().decode(await device.bytes(LINE));
    const hierarchy = /<hierarchy[\s\S]*<\/hierarchy>/.exec(text)?.[0];
    if (hierarchy) {
      const tree = unwrap(await readHierarchy(`${device.serial}, dump`, hierarchy));
      return { activity: activityIn(text), hierarchy, tree, owner: ownerOf(hierarchy) };
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
export const resumedActivity = async (device: BridgeLine): Promise<string> =>
  activityIn((await device.run(RESUMED)).out);

/** `dumpsys power`: `mWakefulness` (AOSP, PowerManagerService.dump) */
const isScreenOff = async (device: BridgeLine): Promise<boolean> =>
  /mWakefulness=(?:Asleep|Dozing)/.test((await device.run('dumpsys power | grep mWakefulness=')).out);

/** The first one that is told: of several displays the one in front. */
const activityIn = (text: string): string =>
  /ResumedActivity[=:]\s*ActivityRecord\{\S+ \S+ (\S+\/\S+)/.exec(text)?.[1] ?? '';

const ownerOf = (hierarchy: string): string => /<node [^>]*?package="([^"]*)"/.exec(hierarchy)?.[1] ?? '';
