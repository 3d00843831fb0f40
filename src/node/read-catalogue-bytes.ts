import { readFile, stat } from 'node:fs/promises';
import { isTextTree, localeOfJson } from '../core/formats/catalogues/json-texts.ts';
import { MAX_CATALOGUE_BYTES, tooLargeCatalogue } from '../core/formats/catalogues/read-catalogue.ts';
import { isYamlTextTree } from '../core/formats/catalogues/yaml-texts.ts';
import { readBytes } from './read-bytes.ts';

/** The bytes of a file of texts; one that is too large is not read at all. */
export const readCatalogueBytes = (path: string): Promise<Uint8Array> =>
  readBytes(path, MAX_CATALOGUE_BYTES, (sizeBytes) => tooLargeCatalogue(sizeBytes, path));

/**
 * Whether a JSON or YAML file holds texts in one language: its folder or its name says which, and next to all of its values are
 * texts.
 */
export async function isTextsFile(path: string): Promise<boolean> {
  const isYaml = /\.ya?ml$/i.test(path);
  if (!(isYaml || /\.json$/i.test(path)) || localeOfJson(path) === undefined) return false;
  const info = await stat(path).catch(() => undefined);
  if (!info?.isFile() || info.size > MAX_CATALOGUE_BYTES) return false;
  const text = await readFile(path, 'utf8');
  return isYaml ? isYamlTextTree(text) : isTextTree(text);
}
