/** An APK: zip → manifest, resource table, build key. */
import type { AppPackage, CatalogueText } from '../../model/app-package.ts';
import type { ByteSource, Ports } from '../../model/ports.ts';
import { attempt, type Result, UnreadableError, unwrap } from '../../model/problem.ts';
import { openZip, type Zip } from '../zip.ts';
import { readBinaryXml } from './binary-xml.ts';
import { readManifest } from './manifest.ts';
import {
  type Resource,
  type ResourceTable,
  type ResourceVariant,
  readResourceTable,
} from './resource-table.ts';

export interface Apk {
  app: AppPackage;
  zip: Zip;
  table?: ResourceTable;
}

/**
 * Reads what an APK declares.
 *
 * @param digest SHA-256 of the whole file, lower-case hex
 * @returns the app as the checks see it, and the opened archive and table for those who need more
 */
export function readApk(
  file: string,
  source: ByteSource,
  digest: string,
  ports: Ports,
): Promise<Result<Apk>> {
  return attempt(file, async () => {
    const zip = unwrap(await openZip(file, source, ports));
    if (!zip.entries.has('AndroidManifest.xml')) throw notAnApk(zip);
    const table = zip.entries.has('resources.arsc')
      ? readResourceTable(await zip.read('resources.arsc'))
      : undefined;
    const root = readBinaryXml(await zip.read('AndroidManifest.xml'), 'AndroidManifest.xml');
    const { identity, manifest } = readManifest(root, table);
    const texts = table ? catalogueTexts(table) : [];
    const app: AppPackage = {
      platform: 'android',
      digest,
      build: {
        appId: identity.appId,
        version: identity.versionName,
        build: identity.versionCode,
        code: await codeDigest(zip, ports),
      },
      name: identity.label,
      manifest,
      texts,
      locales: [...new Set(texts.map((text) => text.locale))].filter((locale) => locale !== 'default').sort(),
      files: [...zip.entries.values()].map(({ name, sizeBytes, compressedBytes }) => ({
        name,
        sizeBytes,
        compressedBytes,
      })),
    };
    return { app, zip, table };
  });
}

function notAnApk(zip: Zip): UnreadableError {
  const ios = [...zip.entries.keys()].some((name) => /^Payload\/[^/]+\.app\/Info\.plist$/.test(name));
  const bundle = zip.entries.has('BundleConfig.pb');
  const found = ios
    ? 'an iOS package'
    : bundle
      ? 'an Android App Bundle'
      : 'a zip archive without AndroidManifest.xml';
  return new UnreadableError({
    code: 'apk.no-manifest',
    found,
    expected: 'an APK',
    remedy:
      ios || bundle
        ? 'Only APK files are read so far.'
        : 'Give the package that the build put out, such as app-release.apk.',
  });
}

/** SHA-256 over the SHA-256 of each dex file, in the order in which the runtime loads them. */
async function codeDigest(zip: Zip, ports: Ports): Promise<string> {
  const order = (name: string) => Number(/^classes(\d*)\.dex$/.exec(name)?.[1] || 1);
  const names = [...zip.entries.keys()]
    .filter((name) => /^classes\d*\.dex$/.test(name))
    .sort((a, b) => order(a) - order(b));
  if (names.length === 0) return 'none';
  const digests: string[] = [];
  for (const name of names) digests.push(await ports.sha256(await zip.read(name)));
  return (await ports.sha256(new TextEncoder().encode(digests.join('\n')))).slice(0, 16);
}

// Keys of plural bags (`ResTable_map::ATTR_OTHER` …) and of list bags (`Res_MAKEARRAY`).
const PLURAL_CATEGORY = new Map([
  [0x01000004, 'other'],
  [0x01000005, 'zero'],
  [0x01000006, 'one'],
  [0x01000007, 'two'],
  [0x01000008, 'few'],
  [0x01000009, 'many'],
]);

/**
 * Every text of the types string, plurals and array, for each locale that has one of its own. A string's key is
 * its name; the others bear their type before it, since `string/days` and `plurals/days` may stand side by side.
 */
export function catalogueTexts(table: ResourceTable): CatalogueText[] {
  const texts: CatalogueText[] = [];
  for (const resource of table.resources.values())
    if (resource.type === 'string' || resource.type === 'plurals' || resource.type === 'array')
      for (const variant of firstOfEachLocale(resource)) texts.push(...textsOf(resource, variant));
  return texts;
}

/** A text may differ by more than language (night, screen size); the first that the packer wrote stands for its locale. */
function firstOfEachLocale(resource: Resource): ResourceVariant[] {
  const byLocale = new Map<string, ResourceVariant>();
  for (const variant of resource.variants)
    if (!byLocale.has(variant.config.locale)) byLocale.set(variant.config.locale, variant);
  return [...byLocale.values()];
}

function textsOf(resource: Resource, { config, content }: ResourceVariant): CatalogueText[] {
  const locale = config.locale || 'default';
  const key = resource.type === 'string' ? resource.name : `${resource.type}/${resource.name}`;
  if (content.kind === 'value')
    return content.value.kind === 'string' ? [{ key, locale, text: content.value.text }] : [];
  return content.items.flatMap(({ name, value }) => {
    if (value.kind !== 'string') return [];
    const form = resource.type === 'plurals' ? (PLURAL_CATEGORY.get(name) ?? 'other') : String(name & 0xffff);
    return [{ key, locale, form, text: value.text }];
  });
}
