import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { isRunning } from './is-running.ts';
import { STAGED, stagedPrefix } from './write-atomically.ts';

/** Removes what calls on this computer that were killed left half-written, in a folder and in the rooms of it. */
export async function clearStaged(folder: string): Promise<void> {
  const rooms = await readdir(folder, { withFileTypes: true }).catch(() => []);
  const folders = [folder, ...rooms.filter((one) => one.isDirectory()).map(({ name }) => join(folder, name))];
  for (const room of folders)
    for (const name of await readdir(room).catch(() => [])) {
      const pid = STAGED.exec(name)?.[1];
      // of another computer nobody here knows whether it still writes
      if (pid === undefined || !name.startsWith(stagedPrefix) || isRunning(Number(pid))) continue;
      await rm(join(room, name), { recursive: true, force: true });
    }
}
