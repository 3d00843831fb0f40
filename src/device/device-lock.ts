/** One run a phone: a second one would change settings under the first. */
import { join } from 'node:path';
import { LockHeld, withOwnedLock } from '../node/file-lock.ts';
import type { Device } from './device.ts';
import { OutOfReach } from './out-of-reach.ts';
import { pause } from './phone/pause.ts';

/** As it may stand in the name of a file. */
export const fileNameOf = (device: Device): string =>
  (device.info.id || device.serial).replace(/[^\w.-]/g, '_');

interface Patience {
  /** How long another process is waited for; it is not, where nothing is said. */
  patienceMs?: number;
  /** Told once, where it has to be waited for. */
  onWait?: (() => void) | undefined;
}

const ASKED_EACH_MS = 200;

/** @throws OutOfReach where another process drives the phone */
export async function withDeviceLock<T>(
  stateFolder: string,
  device: Device,
  task: () => Promise<T>,
  { onWait, patienceMs = 0 }: Patience = {},
): Promise<T> {
  const until = Date.now() + patienceMs;
  for (let isFirst = true; ; isFirst = false) {
    try {
      return await withOwnedLock(join(stateFolder, 'in-use', `${fileNameOf(device)}.json`), task);
    } catch (error) {
      if (!(error instanceof LockHeld)) throw error;
      if (Date.now() >= until) throw inUse(device, error);
      if (isFirst) onWait?.();
      await pause(ASKED_EACH_MS);
    }
  }
}

const inUse = (device: Device, error: LockHeld): OutOfReach =>
  new OutOfReach(
    'in-use',
    `${device.serial} is driven by another call of Fenlok (${error.message}). Wait for it, or end it`,
    { cause: error },
  );
