/** The screen in front, as a capture: no dossier, no package and no intent file. */
import type { CaptureEvidence } from '../../core/areas/observer.ts';
import type { Cell } from '../../core/model/cell.ts';
import { decodeImage } from '../../node/decode-image.ts';
import type { CaptureFiles } from '../../node/read-capture.ts';
import type { Device, Snapshot } from '../device.ts';
import { captureFiles } from '../drills/capture-screen.ts';
import { demandOwnWindow, takeAppSnapshot } from '../phone/app-window.ts';

export interface SeenHere {
  files: CaptureFiles;
  evidence: CaptureEvidence;
  activity: string;
  /** All of the picture is of one colour: a window that forbids pictures. */
  isBlank: boolean;
}

/**
 * @param appId in front
 * @param settings how the phone is set, as `settingsNow` reads it
 * @param snapshot where it was taken already
 * @throws OutOfReach, NoDump; UnreadableError where a window of the system lies over the app
 */
export async function lookHere(
  device: Device,
  appId: string,
  settings: Omit<Cell, 'screen' | 'procedure' | 'step'>,
  snapshot?: Snapshot,
): Promise<SeenHere> {
  const seen = snapshot ?? (await takeAppSnapshot(device, appId));
  demandOwnWindow(device, seen, appId);
  const { activity, tree } = seen;
  const picture = await device.picture();
  const pixels = await decodeImage(`${device.serial}, picture`, picture);
  const orientation = pixels.widthPx > pixels.heightPx ? 'landscape' : 'portrait';
  const files = captureFiles(
    seen,
    picture,
    {
      cell: { ...settings, screen: 'here', procedure: 'as-is', step: '', orientation },
      at: new Date().toISOString(),
      densityDpi: await device.densityDpi(),
    },
    device,
  );
  const { capture } = files;
  return {
    files,
    evidence: { digest: capture.at!, capture, buildBasis: 'asserted', tree, pixels },
    activity,
    isBlank: isOfOneColour(pixels.data),
  };
}

export function isOfOneColour(data: Uint8Array | Uint8ClampedArray): boolean {
  for (let i = 4; i < data.length; i += 4)
    if (data[i] !== data[0] || data[i + 1] !== data[1] || data[i + 2] !== data[2]) return false;
  return true;
}
