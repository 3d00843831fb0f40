/**
 * Evidence that goes by the name of its file: push messages, sales. Of one file the newest counts; files of one name in different
 * folders are two. In the dossier each is kept under its path from there, so that it is the same one from wherever it is added.
 */
import { readdir, rm } from 'node:fs/promises';
import { basename, join, relative, sep } from 'node:path';

export interface NamedFile {
  /** In the dossier. */
  file: string;
  /** The name of the file it came from, with as many folders as tell it from the others. */
  name: string;
}

/** Where the file at `path` is kept, in the dossier. */
export const placeFor = (folder: string, room: string, path: string): string =>
  `${room}/${encodeURIComponent(relative(folder, path).split(sep).join('/'))}`;

/** Dossiers of before kept a file under its name alone; it makes way for one of that name. */
export async function dropFormer(folder: string, room: string, path: string): Promise<void> {
  const former = join(folder, room, basename(path));
  if (former !== join(folder, placeFor(folder, room, path))) await rm(former, { force: true });
}

export async function listNamed(folder: string, room: string): Promise<NamedFile[]> {
  const kept = await readdir(join(folder, room)).catch(() => []);
  const files = kept.sort().map((name) => ({ name, parts: decoded(name).split('/') }));
  return files.map(({ name, parts }) => ({
    file: join(folder, room, name),
    name: shortest(
      parts,
      files.map((other) => other.parts),
    ),
  }));
}

function decoded(name: string): string {
  try {
    return decodeURIComponent(name);
  } catch {
    // one of before, with a percent sign of its own
    return name;
  }
}

function shortest(parts: readonly string[], all: readonly (readonly string[])[]): string {
  for (let count = 1; count < parts.length; count += 1) {
    const end = parts.slice(-count).join('/');
    if (all.filter((other) => other.slice(-count).join('/') === end).length === 1) return end;
  }
  return parts.join('/');
}
