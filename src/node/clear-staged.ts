import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { isRunning } from './is-running.ts';
import { STAGED, stagedPrefix } from './write-atomically.ts';

/** Removes what calls on this computer that were killed left half-written, in a folder and in the rooms of it. */
export async function clearStaged(folder: string): Promise<void> {
  const rooms = await readdir(folder, { withFileTypes: true }).catch(() => []);
  await clearStagedIn(folder);
  for (const room of rooms) if (room.isDirectory()) await clearStagedIn(join(folder, room.name));
}

/** The same in one folder alone. */
export async function clearStagedIn(folder: string): Promise<void> {
  for (const name of await readdir(folder).catch(() => [])) {
    const pid = STAGED.exec(name)?.[1];
    // of another computer nobody here knows whether it still writes
    if (pid === undefined || !name.startsWith(stagedPrefix) || isRunning(Number(pid))) continue;
    await rm(join(folder, name), { recursive: true, force: true });
  }
}
