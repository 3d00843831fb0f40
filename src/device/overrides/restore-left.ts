/** What calls that were killed left changed on a phone: drills in its journal, holds in their files. */
import type { Device } from '../device.ts';
import { withDeviceLock } from '../device-lock.ts';
import { type Hold, listHolds, restoreDeadHolds, restoreHold } from '../in-hand/holds.ts';
import { openOverrides, type PutBack } from './setting-overrides.ts';

/** Under the phone's lock. @returns every setting that was restored, as it reads now */
export async function restoreLeft(device: Device, stateFolder: string): Promise<PutBack[]> {
  // a drill restores to what was held under it, so it comes first
  const overrides = await openOverrides(stateFolder, device);
  const ofDrill = overrides.left.length > 0 ? await overrides.putBack() : [];
  return [...ofDrill, ...(await restoreDeadHolds(device, stateFolder))];
}

export interface Restored {
  putBack: PutBack[];
  /** Those of calls that go on. */
  held: Hold[];
}

/**
 * What nobody holds any more is restored; with `force` also what somebody does.
 *
 * @throws OutOfReach where a drill is under way
 */
export const restorePhone = (
  device: Device,
  stateFolder: string,
  { force }: { force: boolean },
): Promise<Restored> =>
  withDeviceLock(stateFolder, device, async () => {
    const putBack = await restoreLeft(device, stateFolder);
    const held = await listHolds(stateFolder, device);
    if (!force) return { putBack, held };
    for (const hold of held.toReversed()) putBack.push(...(await restoreHold(device, hold)));
    return { putBack, held: [] };
  });
