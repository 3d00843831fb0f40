/** Brings the evidence of one dossier into another of the same build: machines that shared the work become one again. */
import { copyFile, lstat, mkdir, readdir, readFile, stat, utimes } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { formatBuild, sameBuild } from '../core/model/candidate.ts';
import { addPackage, exists, openDossier, otherBuild } from './dossier.ts';
import { withFileLock } from './file-lock.ts';
import { STAGED, writeDurably } from './write-atomically.ts';

/** What came of one merge, by the paths in the dossier. */
interface Merged {
  taken: string[];
  /** There already, and the same. */
  again: string[];
  /** Named alike and other inside: the newer one stays. */
  differing: { name: string; kept: 'theirs' | 'ours' }[];
}

// folders or files whose names say what is in them
const BY_DIGEST = ['captures', 'catalogues', 'traces', 'files', 'symbol-files', 'facts', 'cuts'];
// of one name the newest counts
const BY_NAME = ['sites', 'payloads', 'sales', 'listings', 'reviews', 'logs', 'symbols', 'roam'];

/**
 * @param into begun where there is no dossier yet
 * @throws UnreadableError where `from` is no dossier, or of another build
 */
export async function mergeDossier(into: string, from: string): Promise<Merged> {
  const theirs = await openDossier(from);
  if (!(await exists(join(into, 'dossier.json'))))
    await addPackage(into, join(from, theirs.candidate.package.file));
  const ours = await openDossier(into);
  if (!sameBuild(ours.candidate.build, theirs.candidate.build))
    throw otherBuild(from, formatBuild(theirs.candidate.build), into, formatBuild(ours.candidate.build));
  return withFileLock(join(into, 'dossier.json'), async () => {
    const merged: Merged = { taken: [], again: [], differing: [] };
    for (const room of BY_DIGEST)
      for (const name of await namesIn(join(from, room)))
        await takeOnce(into, from, `${room}/${name}`, merged);
    for (const room of BY_NAME)
      for (const file of await filesIn(join(from, room)))
        await takeNewer(into, from, `${room}/${file}`, merged);
    return merged;
  });
}

const namesIn = async (folder: string): Promise<string[]> =>
  (await readdir(folder).catch(() => [])).filter((name) => !STAGED.test(name)).sort();

/** Paths below the folder; links lead elsewhere, and are left out. */
async function filesIn(folder: string): Promise<string[]> {
  const found: string[] = [];
  for (const name of await namesIn(folder)) {
    const info = await lstat(join(folder, name));
    if (info.isFile()) found.push(name);
    if (info.isDirectory())
      found.push(...(await filesIn(join(folder, name))).map((inner) => join(name, inner)));
  }
  return found;
}

async function takeOnce(into: string, from: string, name: string, merged: Merged): Promise<void> {
  if (await exists(join(into, name))) {
    merged.again.push(name);
    return;
  }
  const info = await lstat(join(from, name));
  if (info.isFile()) await writeDurably(into, name, (staged) => copyFile(join(from, name), staged));
  else if (info.isDirectory()) {
    const inside = await filesIn(join(from, name));
    await writeDurably(into, name, async (staged) => {
      await mkdir(staged);
      for (const file of inside) await copyFile(join(from, name, file), join(staged, basename(file)));
    });
  } else return;
  merged.taken.push(name);
}

async function takeNewer(into: string, from: string, name: string, merged: Merged): Promise<void> {
  const [ours, theirs] = [join(into, name), join(from, name)];
  const before = await readFile(ours).catch(() => undefined);
  const other = await stat(theirs);
  if (before?.equals(await readFile(theirs))) {
    merged.again.push(name);
    return;
  }
  const isOlder = before !== undefined && (await stat(ours)).mtimeMs >= other.mtimeMs;
  if (before === undefined) merged.taken.push(name);
  else merged.differing.push({ name, kept: isOlder ? 'ours' : 'theirs' });
  if (isOlder) return;
  await writeDurably(into, name, async (staged) => {
    await copyFile(theirs, staged);
    // so that it does not matter in which order dossiers are merged
    await utimes(staged, other.atime, other.mtime);
  });
}
