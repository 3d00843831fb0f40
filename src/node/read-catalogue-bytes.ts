import { MAX_CATALOGUE_BYTES, tooLargeCatalogue } from '../core/formats/catalogues/read-catalogue.ts';
import { readBytes } from './read-bytes.ts';

/** The bytes of a file of texts; one that is too large is not read at all. */
export const readCatalogueBytes = (path: string): Promise<Uint8Array> =>
  readBytes(path, MAX_CATALOGUE_BYTES, (sizeBytes) => tooLargeCatalogue(sizeBytes, path));
