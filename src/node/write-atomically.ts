import { createHash } from 'node:crypto';
import {
  chmod,
  chown,
  type FileHandle,
  mkdir,
  open,
  readdir,
  realpath,
  rename,
  rm,
  stat,
} from 'node:fs/promises';
import { hostname } from 'node:os';
import { basename, dirname, join } from 'node:path';

/** What the names begin with of what is being written on this computer; the process and a number follow. */
export const stagedPrefix = `.incoming-${createHash('sha256').update(hostname()).digest('hex').slice(0, 6)}-`;
/** The name of what is being written; its process is the first group. */
export const STAGED = /^\.incoming-[0-9a-f]{6}-(\d+)-\d+-/;

let count = 0;

/** Writes beside the place, then moves there. A file is replaced in one step, so that the one before is never lost. */
export async function writeAtomically(
  folder: string,
  name: string,
  write: (staged: string) => Promise<void>,
): Promise<void> {
  await replace(join(folder, name), write);
}

/**
 * The same for what is promised to be kept: it is on the disk before this returns. A link is written through, and a file keeps its
 * mode and owner.
 */
export async function writeDurably(
  folder: string,
  name: string,
  write: (staged: string) => Promise<void>,
): Promise<void> {
  const link = join(folder, name);
  const place = await realpath(link).catch(() => link);
  await replace(place, async (staged) => {
    await write(staged);
    await keepOwner(place, staged);
    for (const path of await withInside(staged)) await flush(path);
  });
  await flush(dirname(place));
}

async function replace(place: string, write: (staged: string) => Promise<void>): Promise<void> {
  const staged = join(dirname(place), `${stagedPrefix}${process.pid}-${++count}-${basename(place)}`);
  try {
    await mkdir(dirname(place), { recursive: true });
    await write(staged);
    // only a folder must make way first
    if ((await stat(staged)).isDirectory()) await rm(place, { recursive: true, force: true });
    await rename(staged, place);
  } finally {
    await rm(staged, { recursive: true, force: true });
  }
}

async function keepOwner(place: string, staged: string): Promise<void> {
  const before = await stat(place).catch(() => undefined);
  if (!before?.isFile()) return;
  await chmod(staged, before.mode);
  // only root may give a file away
  await chown(staged, before.uid, before.gid).catch(() => {});
}

async function withInside(path: string): Promise<string[]> {
  if (!(await stat(path)).isDirectory()) return [path];
  return [...(await readdir(path)).map((name) => join(path, name)), path];
}

async function flush(path: string): Promise<void> {
  let handle: FileHandle | undefined;
  try {
    handle = await open(path, 'r');
    await handle.sync();
  } catch (error) {
    // folders cannot be flushed everywhere
    if (!['EPERM', 'EISDIR', 'EINVAL', 'EACCES'].includes((error as NodeJS.ErrnoException).code ?? ''))
      throw error;
  } finally {
    await handle?.close();
  }
}
