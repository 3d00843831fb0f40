import { readFile, stat } from 'node:fs/promises';
import { MAX_CATALOGUE_BYTES, tooLargeCatalogue } from '../core/formats/catalogues/read-catalogue.ts';
import { UnreadableError } from '../core/model/problem.ts';

/** The bytes of a file of texts; one that is too large is not read at all. */
export async function readCatalogueBytes(path: string): Promise<Uint8Array> {
  const info = await stat(path).catch(() => undefined);
  if (!info?.isFile())
    throw new UnreadableError({
      code: 'file.missing',
      file: path,
      found: info ? 'not a file' : 'no such file',
    });
  if (info.size > MAX_CATALOGUE_BYTES) throw tooLargeCatalogue(info.size, path);
  return new Uint8Array(await readFile(path));
}
