import { readFile, stat } from 'node:fs/promises';
import { UnreadableError } from '../core/model/problem.ts';

/** The bytes of a file; one that is larger is not read at all. @throws UnreadableError, or what `tooLarge` makes */
export async function readBytes(
  path: string,
  maxBytes: number,
  tooLarge: (sizeBytes: number) => UnreadableError,
): Promise<Uint8Array> {
  const info = await stat(path).catch(() => undefined);
  if (!info?.isFile())
    throw new UnreadableError({
      code: 'file.missing',
      file: path,
      found: info ? 'not a file' : 'no such file',
    });
  if (info.size > maxBytes) throw tooLarge(info.size);
  return new Uint8Array(await readFile(path));
}
