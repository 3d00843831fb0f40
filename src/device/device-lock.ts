/** One run a phone: a second one would change settings under the first. */
import { join } from 'node:path';
import { LockHeld, withOwnedLock } from '../node/file-lock.ts';
import type { Device } from './bridge/device.ts';
import { OutOfReach } from './bridge/out-of-reach.ts';

/** As it may stand in the name of a file. */
export const fileNameOf = (device: Device): string =>
  (device.info.id || device.serial).replace(/[^\w.-]/g, '_');

/** @throws OutOfReach where another process drives the phone */
export async function withDeviceLock<T>(
  stateFolder: string,
  device: Device,
  task: () => Promise<T>,
): Promise<T> {
  try {
    return await withOwnedLock(join(stateFolder, 'in-use', `${fileNameOf(device)}.json`), task);
  } catch (error) {
    if (!(error instanceof LockHeld)) throw error;
    throw new OutOfReach(
      'in-use',
      `${device.serial} is driven by another call of Fenlok (${error.message}). Wait for it, or end it`,
      { cause: error },
    );
  }
}
