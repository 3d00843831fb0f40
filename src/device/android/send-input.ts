/** Touches and keys, as the bridge sends them. */
import type { BridgeLine } from '../bridge/bridge-line.ts';
import { OutOfReach } from '../out-of-reach.ts';

/**
 * @param what `tap 100 200`, `keyevent HOME`
 * @throws OutOfReach where the phone refuses all touches and keys of the bridge
 */
export async function sendInput(device: BridgeLine, what: string): Promise<void> {
  const { code, err, out } = await device.run(`input ${what}`);
  if (code !== 0 && `${out}${err}`.includes('INJECT_EVENTS'))
    throw new OutOfReach(
      'refused',
      `${device.serial} refuses touches and keys of the bridge. Its maker has a switch for them in the developer options, beside USB debugging, often called “USB debugging (Security settings)”: turn it on`,
    );
}
