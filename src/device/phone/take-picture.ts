/** What the display shows, as a PNG. */
import type { Device } from '../bridge/device.ts';

const PNG = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];

/** Phones with two displays print a warning before the picture; it is left out. */
export async function takePicture(device: Device): Promise<Uint8Array> {
  const bytes = new Uint8Array(await device.bytes('screencap -p'));
  for (let at = 0; at + PNG.length <= Math.min(bytes.length, WARNING_LIMIT_BYTES); at++)
    if (PNG.every((byte, i) => bytes[at + i] === byte)) return bytes.subarray(at);
  return bytes;
}

const WARNING_LIMIT_BYTES = 4096;
