import type { Device, DeviceApp } from '../../device.ts';

/** With the app gone, left for the home screen, or in front. */
export type ReadyFor = 'cold' | 'warm' | 'front';

export async function makeReady(device: Device, app: DeviceApp, how: ReadyFor): Promise<void> {
  await device.stop(app);
  if (how === 'cold') return;
  await device.launch(app);
  await device.snapshot();
  if (how === 'front') return;
  await device.press('HOME');
  await device.snapshot();
}
