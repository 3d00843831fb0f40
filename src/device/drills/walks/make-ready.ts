import type { Device } from '../../bridge/device.ts';
import { type DeviceApp, launch } from '../../phone/app.ts';
import { sendInput } from '../../phone/send-input.ts';
import { takeSnapshot } from '../../phone/snapshot.ts';

/** With the app gone, left for the home screen, or in front. */
export type ReadyFor = 'cold' | 'warm' | 'front';

export async function makeReady(device: Device, app: DeviceApp, how: ReadyFor): Promise<void> {
  await device.run(`am force-stop ${app.appId}`);
  if (how === 'cold') return;
  await launch(device, app);
  await takeSnapshot(device);
  if (how === 'front') return;
  await sendInput(device, 'keyevent HOME');
  await takeSnapshot(device);
}
