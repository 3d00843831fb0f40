/** A catalogue as files of its own format, for one language. */
import type { Catalogue, CatalogueEntry } from '../../model/catalogue.ts';
import { localeFieldsOf } from '../../platform/android/resource-config.ts';
import { writeAndroidStrings } from './android-strings.ts';
import { writeAppleStrings, writeAppleStringsdict } from './apple-tables.ts';
import { writeArb } from './arb.ts';
import { localeOfJson, writeJsonTexts } from './json-texts.ts';
import { writePo } from './po.ts';
import { catalogueName, localeOfName } from './read-catalogue.ts';
import { writeResx } from './resx.ts';
import { writeXcstrings } from './xcstrings.ts';
import { writeXliff } from './xliff.ts';
import { writeYamlTexts } from './yaml-texts.ts';

export interface CatalogueFile {
  /** As the platform wants it, from the folder that the catalogues of all languages lie in. */
  path: string;
  text: string;
}

/**
 * @param path of the file that the catalogue was read from
 * @param entries in the language `locale`; those of the catalogue stand beside them where the format holds both
 */
export function writeCatalogue(
  { entries: all, format, original = '', syntax }: Catalogue,
  path: string,
  entries: readonly CatalogueEntry[],
  locale: string,
): CatalogueFile {
  const name = path.slice(path.replaceAll('\\', '/').lastIndexOf('/') + 1);
  const source = all[0]?.locale ?? 'default';
  const both = [...all.filter((entry) => entry.locale === source), ...entries];
  const named = { source: source === 'default' ? 'en' : source, target: locale };
  const inOne = both.map((entry) =>
    entry.locale === 'default' ? { ...entry, locale: named.source } : entry,
  );
  switch (format) {
    case 'android-strings':
      return {
        path: `values-${localeFieldsOf(locale).localeQualifier}/${name}`,
        text: writeAndroidStrings(entries),
      };
    case 'apple-strings':
      return { path: `${locale}.lproj/${name}`, text: writeAppleStrings(entries) };
    case 'apple-stringsdict':
      return { path: `${locale}.lproj/${name}`, text: writeAppleStringsdict(entries) };
    case 'apple-xcstrings':
      return { path: name, text: writeXcstrings([...all, ...entries], named.source) };
    case 'yaml':
      return { path: jsonPath(path, locale), text: writeYamlTexts(original, entries, locale) };
    case 'resx':
      return { path: `${catalogueName(path)}.${locale}.resx`, text: writeResx(original, entries) };
    case 'json':
      return { path: jsonPath(path, locale), text: writeJsonTexts(original, entries) };
    case 'arb':
      return { path: renamed(name, locale.replaceAll('-', '_')), text: writeArb(entries, locale) };
    case 'xliff-1.2':
    case 'xliff-2':
      return {
        path: renamed(name, locale),
        text: writeXliff(inOne, syntax, format === 'xliff-2' ? '2.1' : '1.2', named),
      };
    case 'po':
      return { path: renamed(name, locale), text: writePo(both, syntax, { source, target: locale }) };
    default:
      throw format satisfies never;
  }
}

/** `en/common.json` → `de/common.json`, `en.json` → `de.json`. */
function jsonPath(path: string, locale: string): string {
  const [folder = '', name = ''] = path.replaceAll('\\', '/').split('/').slice(-2);
  if (localeOfJson(`${folder}/x.json`)) return `${locale}/${name}`;
  const own = localeOfJson(`x/${name}`);
  const [, stem = name, suffix = ''] = /^(.*)(\.\w+)$/.exec(name) ?? [];
  const base = own ? stem.slice(0, stem.length - own.length) : `${stem}.`;
  return `${base}${locale}${suffix}`;
}

/** `app_en.arb` → `app_de.arb`, `Localizable.xliff` → `Localizable_de.xliff`. */
function renamed(name: string, locale: string): string {
  const dot = name.lastIndexOf('.');
  const stem = name.slice(0, dot);
  const own = localeOfName(name);
  const base = own === 'default' ? `${stem}_` : stem.slice(0, stem.length - own.length);
  return `${base}${locale}${name.slice(dot)}`;
}
