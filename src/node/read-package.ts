import { stat } from 'node:fs/promises';
import type { ReadOptions } from '../core/formats/android/android-package.ts';
import { type OpenedPackage, readPackage } from '../core/formats/package.ts';
import { UnreadableError, unwrap } from '../core/model/problem.ts';
import { openFileHasher } from './file-hasher.ts';
import { nodePorts, withFile } from './ports.ts';

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
      async (source) => use(unwrap(await readPackage(path, source, hasher.digest, nodePorts, options))),
      hasher.digestParts,
    );
  } finally {
    hasher.close();
  }
}
