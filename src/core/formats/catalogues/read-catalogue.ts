/** Any catalogue file, told by its name: which format, which language, which texts. */
import type { Catalogue, TextSyntax } from '../../model/catalogue.ts';
import { isLocaleTag } from '../../model/locale.ts';
import { attempt, type Problem, type Result, UnreadableError } from '../../model/problem.ts';
import { parseConfig } from '../../platform/android/parse-config.ts';
import { formatConfig } from '../../platform/android/resource-config.ts';
import { readAndroidStrings } from './android-strings.ts';
import { readAppleStrings, readAppleStringsdict } from './apple-tables.ts';
import { readArb } from './arb.ts';
import { decodeText } from './decode-text.ts';
import { localeOfJson, readJsonTexts } from './json-texts.ts';
import { charsetOfPo, readPo } from './po.ts';
import { localeOfResx, readResx } from './resx.ts';
import { readXcstrings } from './xcstrings.ts';
import { readXliff } from './xliff.ts';
import { readYamlTexts } from './yaml-texts.ts';

/** Above what the largest apps have in one file. */
export const MAX_CATALOGUE_BYTES = 32 * 2 ** 20;

/** Whether a path is that of a catalogue: by its suffix, or by its folder on Android. */
export const isCataloguePath = (path: string): boolean =>
  /\.(strings|stringsdict|xcstrings|arb|xlf|xliff|po|pot|resx)$/i.test(path) ||
  /(^|[\\/])values(-[^\\/]+)?[\\/][^\\/]+\.xml$/.test(path);

/**
 * Reads a catalogue as far as it can be read; what cannot is in its problems, each with its place.
 *
 * @param path with its folder, which names the language of Android's and Apple's files
 * @param syntax of its texts, of formats that leave it open (JSON, YAML, .resx, PO, XLIFF); told by what they hold where it is not given
 */
export function readCatalogue(
  path: string,
  bytes: Uint8Array,
  syntax?: TextSyntax,
): Promise<Result<Catalogue>> {
  return attempt(path, () => {
    if (bytes.length > MAX_CATALOGUE_BYTES) throw tooLargeCatalogue(bytes.length);
    const catalogue = readByName(path, bytes, syntax);
    const problems = [...catalogue.problems, ...unknownLocales(path, catalogue), ...wrongOrder(path)];
    return { ...catalogue, problems };
  });
}

export const tooLargeCatalogue = (sizeBytes: number, file?: string): UnreadableError =>
  new UnreadableError({
    code: 'catalogue.too-large',
    file,
    found: `${(sizeBytes / 2 ** 20).toFixed(0)} MiB of texts in one file`,
    expected: `at most ${MAX_CATALOGUE_BYTES / 2 ** 20} MiB`,
    remedy: 'Split the file, or check whether something else than texts got into it.',
  });

function readByName(path: string, bytes: Uint8Array, syntax?: TextSyntax): Catalogue {
  const name = path.slice(path.replaceAll('\\', '/').lastIndexOf('/') + 1);
  const suffix = /\.(\w+)$/.exec(name)?.[1]?.toLowerCase();
  if (suffix === 'strings') return readAppleStrings(bytes, name, localeOfPath(path));
  if (suffix === 'stringsdict') return readAppleStringsdict(bytes, name, localeOfPath(path));
  const { problems, text } = decodeText(
    bytes,
    name,
    suffix?.startsWith('po') ? charsetOfPo(bytes) : undefined,
  );
  const catalogue = readText(suffix, text, name, path, syntax);
  return { ...catalogue, problems: [...problems, ...catalogue.problems] };
}

function readText(
  suffix: string | undefined,
  text: string,
  name: string,
  path: string,
  syntax?: TextSyntax,
): Catalogue {
  switch (suffix) {
    case 'xml':
      return readAndroidStrings(text, name, localeOfPath(path));
    case 'yml':
    case 'yaml':
      return readYamlTexts(text, name, localeOfJson(path) ?? 'default', syntax);
    case 'resx':
      return readResx(text, name, localeOfResx(name), syntax);
    case 'json':
      return readJsonTexts(text, name, localeOfJson(path) ?? 'default', syntax);
    case 'arb':
      return readArb(text, name, localeOfName(name));
    case 'xcstrings':
      return readXcstrings(text, name);
    case 'xlf':
    case 'xliff':
      return readXliff(text, name, syntax);
    case 'po':
    case 'pot':
      return readPo(text, name, localeOfName(name), syntax);
    default:
      throw new UnreadableError({
        code: 'catalogue.unknown',
        found: `a file of no known kind (${name})`,
        expected:
          'strings.xml in a values folder, .strings, .stringsdict, .xcstrings, .arb, .xliff, .po, .resx, .json or .yml',
      });
  }
}

/** What the files of all languages share in their names: `res`, `Localizable`, `app`. */
export function catalogueName(path: string): string {
  const parts = path.replaceAll('\\', '/').split('/');
  const file = parts.at(-1) ?? '';
  if (/^values(-|$)/.test(parts.at(-2) ?? '')) return parts.at(-3) ?? 'res';
  if (/\.(json|ya?ml)$/i.test(file)) return jsonName(parts);
  if (/\.resx$/i.test(file)) {
    const own = localeOfResx(file);
    return file.slice(0, file.length - '.resx'.length - (own === 'default' ? 0 : own.length + 1));
  }
  const stem = file.replace(/\.\w+$/, '');
  const locale = localeOfName(file);
  const ending = locale === 'default' ? '' : stem.slice(-locale.length);
  return stem.slice(0, stem.length - ending.length).replace(/[-_.]$/, '') || (parts.at(-2) ?? 'texts');
}

/** `locales/de/common.json` is `common`; `i18n/de.json` is `i18n`, `common.de.json` is `common`. */
function jsonName(parts: readonly string[]): string {
  const stem = parts.at(-1)!.replace(/\.(json|ya?ml)$/i, '');
  const ofFolder = localeOfJson(`${parts.at(-2) ?? ''}/x.json`);
  if (ofFolder !== undefined) return stem;
  if (localeOfJson(`x/${stem}.json`) === stem.replaceAll('_', '-')) return parts.at(-2) ?? 'texts';
  return stem.replace(/[._-][a-z]{2,3}(?:[-_][A-Z]{2})?$/, '');
}

/** The language of a folder: `values-de-rAT`, `pt-BR.lproj`; `default` where it names none. */
export function localeOfPath(path: string): string {
  const folder = path.replaceAll('\\', '/').split('/').at(-2) ?? '';
  const apple = /^(.+)\.lproj$/.exec(folder)?.[1];
  if (apple) return apple === 'Base' ? 'default' : apple.replaceAll('_', '-');
  const qualifiers = /^values-(.+)$/.exec(folder)?.[1];
  if (qualifiers === undefined) return 'default';
  // what is none is told as an unknown locale
  return parseConfig(qualifiers)?.locale || (parseConfig(qualifiers) ? 'default' : qualifiers);
}

/** The language at the end of a file's name: `app_pt_BR.arb`, `de.po`. */
export function localeOfName(name: string): string {
  const stem = name.replace(/\.\w+$/, '').replaceAll('_', '-');
  for (let from = 0; from >= 0 && from < stem.length; from = stem.indexOf('-', from) + 1 || stem.length) {
    const tag = stem.slice(from);
    if (/^[a-z]{2,3}(-[A-Za-z]{4})?(-([A-Z]{2}|\d{3}))?$/.test(tag) && isLocaleTag(tag)) return tag;
  }
  return 'default';
}

/** The packer takes qualifiers of a folder in one order only (Android developers, *App resources overview*, table 2). */
function wrongOrder(path: string): Problem[] {
  const [, qualifiers = ''] = /(?:^|[\\/])values-([^\\/]+)[\\/][^\\/]+\.xml$/.exec(path) ?? [];
  const config = parseConfig(qualifiers);
  const expected = config ? formatConfig(config) : qualifiers;
  const parts = (of: string) => of.toLowerCase().split('-').sort().join();
  if (expected === qualifiers || parts(expected) !== parts(qualifiers)) return [];
  if (expected.toLowerCase() === qualifiers.toLowerCase()) return [];
  return [
    {
      code: 'catalogue.folder',
      place: `values-${qualifiers}`,
      found: 'qualifiers in an order that the packer refuses',
      expected: `values-${expected}`,
      remedy: 'Rename the folder.',
    },
  ];
}

/** Tags that are none are told; the texts under them are still held against the source. */
function unknownLocales(path: string, { entries }: Catalogue): Problem[] {
  const tags = [...new Set(entries.map(({ locale }) => locale))];
  return tags
    .filter((tag) => tag !== 'default' && !isLocaleTag(tag))
    .map((tag) => ({
      code: 'catalogue.locale',
      place: path.replaceAll('\\', '/').split('/').slice(-2).join('/'),
      found: `unknown language "${tag}"`,
      expected: 'a BCP 47 language tag, such as "de" or "pt-BR"',
      remedy: 'No device asks for this language, so nobody sees these texts. Correct the tag.',
    }));
}
