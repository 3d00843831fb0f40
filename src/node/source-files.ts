/** Text files of an app's sources. */
import { readdir } from 'node:fs/promises';
import { join, relative } from 'node:path';
import type { SourceFile } from '../core/model/patch.ts';
import { UnreadableError } from '../core/model/problem.ts';
import { readTextFile } from './read-yaml.ts';

const MOST_FILES = 5_000;
const MOST_BYTES = 8 * 2 ** 20;
// What a build has made of the sources, and what is not the app's.
const BUILT = /(^|\/)(build|node_modules|\.git|\.gradle)(\/|$)/;

/**
 * Files in a folder, by their paths from `base`, with slashes.
 *
 * @param isWanted is asked with the path from `base`
 * @param without a folder that is left out, such as a dossier
 * @throws UnreadableError where there is no such folder, or more files are wanted than one module has
 */
export async function readSources(
  folder: string,
  base: string,
  isWanted: (path: string) => boolean,
  without?: string,
): Promise<SourceFile[]> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true }).catch(
    (cause: NodeJS.ErrnoException) => {
      throw new UnreadableError({
        code: 'sources.none',
        file: folder,
        found: cause.code === 'ENOENT' ? 'there is no such folder' : String(cause.code),
        remedy: "Name the folder of the app's sources with --source.",
      });
    },
  );
  const slashed = (path: string) => path.replaceAll('\\', '/');
  const wanted = entries.filter(
    (entry) =>
      entry.isFile() &&
      !BUILT.test(slashed(relative(folder, entry.parentPath))) &&
      !(without !== undefined && `${entry.parentPath}/`.startsWith(`${without}/`)) &&
      isWanted(slashed(relative(base, join(entry.parentPath, entry.name)))),
  );
  if (wanted.length > MOST_FILES)
    throw new UnreadableError({
      code: 'sources.too-many',
      file: folder,
      found: `${wanted.length} files that could be meant`,
      expected: `at most ${MOST_FILES}`,
      remedy: 'Name one module with --source.',
    });
  const files = await Promise.all(
    wanted.map(async ({ name, parentPath }) => {
      const path = join(parentPath, name);
      return { path: slashed(relative(base, path)), text: await readTextFile(path, MOST_BYTES) };
    }),
  );
  // what is not UTF-8 would be written back otherwise than it was read
  return files.filter(({ text }) => !text.includes('\uFFFD'));
}
