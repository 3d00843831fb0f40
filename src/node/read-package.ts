import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import { type Apk, readApk } from '../core/formats/android/apk.ts';
import { UnreadableError, unwrap } from '../core/model/problem.ts';
import { nodePorts, withFile } from './ports.ts';

/**
 * Reads an APK from a file.
 *
 * @param use is given the opened archive; it is closed afterwards
 * @throws UnreadableError where there is no such file or it is no APK
 */
export async function withApk<T>(path: string, use: (apk: Apk) => T | Promise<T>): Promise<T> {
  const info = await stat(path).catch(() => undefined);
  if (!info) throw new UnreadableError({ code: 'file.missing', file: path, found: 'no such file' });
  if (!info.isFile())
    throw new UnreadableError({
      code: 'file.kind',
      file: path,
      found: info.isDirectory() ? 'a folder' : 'not a file',
      expected: 'an APK',
    });
  const digest = await fileDigest(path);
  return withFile(path, async (source) => use(unwrap(await readApk(path, source, digest, nodePorts))));
}

export async function fileDigest(path: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path), hash);
  return hash.digest('hex');
}
