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
    await pause(Math.min(LONGEST_PAUSE_MS, 20 * (tries + 1)));
  }
  throw new NoDump(device.serial, said);
}

const RESUMED = 'dumpsys activity activities | grep -E "ResumedActivity|mResumedActivity"';
const LINE = `uiautomator dump /dev/tty 2>&1; ${RESUMED}`;

/** `example.app/.MainActivity`; empty where nothing is resumed. */
export const resumedActivity = async (device: Device): Promise<string> =>
  activityIn((await device.run(RESUMED)).out);

/** The first one that is told: of several displays the one in front. */
const activityIn = (text: string): string =>
  /ResumedActivity[=:]\s*ActivityRecord\{\S+ \S+ (\S+\/\S+)/.exec(text)?.[1] ?? '';

/**
 * What a dump shows is the app's own window, and not one of the system above it: the shade, a question, a keyboard.
 *
 * @throws UnreadableError
 */
export function demandOwnWindow(device: Device, { hierarchy }: Snapshot, appId: string): void {
  const owner = /<node [^>]*?package="([^"]*)"/.exec(hierarchy)?.[1];
  if (!owner || owner === appId) return;
  throw new UnreadableError({
    code: 'device.covered',
    file: device.serial,
    found: `a window of ${owner} above ${appId}`,
    remedy: 'Close it (the shade, a question of the system, a keyboard), so that the app itself is in front.',
  });
}
