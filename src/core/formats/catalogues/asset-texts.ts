/**
 * Catalogues among the assets of a package, as cross-platform toolkits and web shells ship them: JSON or YAML, a file or a
 * folder a language. Taken are sets with more than one language, so that a single file of some library is no catalogue.
 */
import type { AssetTexts } from '../../model/app-package.ts';
import type { CatalogueSyntax } from '../../model/intent-parts.ts';
import type { Zip } from '../zip.ts';
import { isTextTree, localeOfJson } from './json-texts.ts';
import { namedSyntax } from './named-syntax.ts';
import { catalogueName, readCatalogue } from './read-catalogue.ts';
import { isYamlTextTree } from './yaml-texts.ts';

const LARGEST_BYTES = 4 * 2 ** 20;
const MOST_FILES = 500;
const ASSETS = /^(?:assets|base\/assets|Payload\/[^/]+\.app)\/.*\.(?:json|ya?ml)$/i;

/** @throws UnreadableError where an entry is damaged */
export async function findAssetTexts(
  zip: Zip,
  named: readonly CatalogueSyntax[] = [],
): Promise<AssetTexts[]> {
  const sets = new Map<string, { path: string; locale: string }[]>();
  for (const { name: path, sizeBytes } of zip.entries.values()) {
    const locale = ASSETS.test(path) && sizeBytes <= LARGEST_BYTES ? localeOfJson(path) : undefined;
    if (locale === undefined) continue;
    const name = setOf(path, locale);
    sets.set(name, [...(sets.get(name) ?? []), { path, locale }]);
  }
  const found: AssetTexts[] = [];
  for (const [name, files] of sets) {
    if (new Set(files.map(({ locale }) => locale)).size < 2) continue;
    for (const { path } of files.slice(0, MOST_FILES)) {
      const bytes = await zip.read(path, LARGEST_BYTES);
      const text = new TextDecoder().decode(bytes);
      if (!(/\.json$/i.test(path) ? isTextTree(text) : isYamlTextTree(text))) continue;
      const read = await readCatalogue(path, bytes, namedSyntax(path, named));
      if (read.ok) found.push({ path, name, catalogue: read.value });
    }
  }
  return found;
}

/** The folder that holds the languages, and what the files are called without theirs. */
function setOf(path: string, locale: string): string {
  const parts = path.split('/');
  const isFolder = localeOfJson(`x/${parts.at(-1)}`) === undefined || parts.at(-2) === locale;
  return `${parts.slice(0, isFolder ? -2 : -1).join('/')}/${catalogueName(path)}`;
}
