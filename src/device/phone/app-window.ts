/** The window of an app, and what lies above it. */
import { UnreadableError } from '../../core/model/problem.ts';
import type { Device, Snapshot } from '../device.ts';
import { pause } from './pause.ts';

const COVERED_TRIES = 6;
const COVERED_PAUSE_MS = 250;

/** The same, of an app: what only flits above it (a heads-up message, a keyboard that closes) is waited for, for a while. */
export async function takeAppSnapshot(device: Device, appId: string): Promise<Snapshot> {
  for (let tries = 1; ; tries++) {
    const seen = await device.snapshot();
    if (tries === COVERED_TRIES || !windowAbove(seen, appId)) return seen;
    await pause(COVERED_PAUSE_MS);
  }
}

/** Whose window lies above the app that is in front: of the shade, of a keyboard. */
export const windowAbove = ({ activity, owner }: Snapshot, appId: string): string | undefined =>
  activity.startsWith(`${appId}/`) && owner && owner !== appId ? owner : undefined;

/**
 * What a dump shows is the app's own window, and not one of the system above it: the shade, a question, a keyboard.
 *
 * @throws UnreadableError
 */
export function demandOwnWindow(device: Device, { owner }: Snapshot, appId: string): void {
  if (!owner || owner === appId) return;
  throw new UnreadableError({
    code: 'device.covered',
    file: device.serial,
    found: `a window of ${owner} above ${appId}`,
    remedy: 'Close it (the shade, a question of the system, a keyboard), so that the app itself is in front.',
  });
}
