/** Touches and keys, as the bridge sends them. */
import type { Device } from '../bridge/device.ts';
import { OutOfReach } from '../bridge/out-of-reach.ts';

/**
 * @param what `tap 100 200`, `keyevent HOME`
 * @throws OutOfReach where the phone refuses all touches and keys of the bridge
 */
export async function sendInput(device: Device, what: string): Promise<void> {
  const { code, err, out } = await device.run(`input ${what}`);
  if (code !== 0 && `${out}${err}`.includes('INJECT_EVENTS'))
    throw new OutOfReach(
      'refused',
      `${device.serial} refuses touches and keys of the bridge. Its maker has a switch for them in the developer options, beside USB debugging, often called “USB debugging (Security settings)”: turn it on`,
    );
}
