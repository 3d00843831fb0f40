import { mkdir, rename, rm, stat } from 'node:fs/promises';
import { basename, join } from 'node:path';

/** Writes beside the place, then moves there. A file is replaced in one step, so that the one before is never lost. */
export async function writeAtomically(
  folder: string,
  name: string,
  write: (staged: string) => Promise<void>,
): Promise<void> {
  const place = join(folder, name);
  const staged = join(folder, `.incoming-${process.pid}-${basename(name)}`);
  await rm(staged, { recursive: true, force: true });
  try {
    await mkdir(join(place, '..'), { recursive: true });
    await write(staged);
    // only a folder must make way first
    if ((await stat(staged)).isDirectory()) await rm(place, { recursive: true, force: true });
    await rename(staged, place);
  } finally {
    await rm(staged, { recursive: true, force: true });
  }
}
