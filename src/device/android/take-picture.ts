/** What the display shows, as a PNG. */
import type { BridgeLine } from '../bridge/bridge-line.ts';

const PNG = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
const WARNING_LIMIT_BYTES = 4096;

/**
 * Phones with two displays print a warning before the picture, which may then be of the one that is off: asked again for the display
 * that is on.
 */
export async function takePicture(device: BridgeLine): Promise<Uint8Array> {
  const said = await device.bytes('screencap -p');
  const at = beginOfPng(said);
  if (at === 0) return said;
  const display = await displayInUse(device);
  if (!display) return said.subarray(at);
  const again = await device.bytes(`screencap -p -d ${display}`);
  return again.subarray(beginOfPng(again));
}

function beginOfPng(bytes: Uint8Array): number {
  for (let at = 0; at + PNG.length <= Math.min(bytes.length, WARNING_LIMIT_BYTES); at++)
    if (PNG.every((byte, i) => bytes[at + i] === byte)) return at;
  return 0;
}

/** Of the display that apps are shown on, its id for `screencap` (AOSP, DisplayViewport.toString). */
async function displayInUse(device: BridgeLine): Promise<string | undefined> {
  const { out } = await device.run('dumpsys display | grep DisplayViewport');
  return /isActive=true, displayId=0, uniqueId='local:(\d+)'/.exec(out)?.[1];
}
