import type { Stats } from 'node:fs';
import { stat } from 'node:fs/promises';
import type { ReadOptions } from '../core/formats/android/android-package.ts';
import { type OpenedPackage, readPackage } from '../core/formats/package.ts';
import { UnreadableError, unwrap } from '../core/model/problem.ts';
import { openFileHasher } from './file-hasher.ts';
import { nodePorts, withFile } from './ports.ts';

const hasChanged = async (path: string, before: Stats): Promise<boolean> => {
  const now = await stat(path).catch(() => undefined);
  return now?.mtimeMs !== before.mtimeMs || now.size !== before.size || now.ino !== before.ino;
};

const changed = (path: string) =>
  new UnreadableError({
    code: 'file.changed',
    file: path,
    found: 'a file that was changed while it was being read',
    remedy: 'Wait until the build has written it, and run again.',
  });

/**
 * Reads an app package (APK, AAB or IPA) from a file.
 *
 * @param use is given the opened archive; it is closed afterwards
 * @throws UnreadableError where there is no such file or it is no package
 */
export async function withPackage<T>(
  path: string,
  use: (opened: OpenedPackage) => T | Promise<T>,
  options: ReadOptions = {},
): Promise<T> {
  const info = await stat(path).catch(() => undefined);
  if (!info) throw new UnreadableError({ code: 'file.missing', file: path, found: 'no such file' });
  if (!info.isFile())
    throw new UnreadableError({
      code: 'file.kind',
      file: path,
      found: info.isDirectory() ? 'a folder' : 'not a file',
      expected: 'an app package (APK, AAB or IPA)',
    });
  const hasher = await openFileHasher(path);
  // what it rejects with is met where it is awaited, unless reading has failed before
  hasher.digest.catch(() => {});
  try {
    return await withFile(
      path,
      async (source) => {
        const read = await readPackage(path, source, hasher.digest, nodePorts, options);
        // a build that still writes it would be judged by parts of two packages
        if (await hasChanged(path, info)) throw changed(path);
        return use(unwrap(read));
      },
      hasher.digestParts,
    );
  } finally {
    hasher.close();
  }
}
