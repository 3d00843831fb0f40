/**
 * An iOS package: a zip archive with one app bundle.
 *
 *     Payload/NAME.app/  Info.plist · executable · embedded.mobileprovision · PrivacyInfo.xcprivacy · Assets.car
 *                        LOCALE.lproj/*.strings, *.stringsdict · Frameworks/ · PlugIns/ · _CodeSignature/CodeResources
 */
import type {
  AppPackage,
  AssetCatalogue,
  CatalogueText,
  IosPart,
  MachOSlice,
  Picture,
  PlistDict,
  Traces,
} from '../../model/app-package.ts';
import { type Ports, sha256Hex } from '../../model/ports.ts';
import { type Problem, tryRead } from '../../model/problem.ts';
import { recogniseToolkits } from '../../platform/app-toolkits.ts';
import type { Zip } from '../zip.ts';
import { readAssetCatalogue } from './asset-catalogue.ts';
import { CODE_BUNDLE, openBundle, openParts, readOptional } from './bundle.ts';
import type { MachO } from './mach-o.ts';
import { dictsAt, parsePlistDict, textAt, textsAt } from './plist.ts';
import { readProvisioningProfile } from './provisioning-profile.ts';
import { readStoryboards } from './storyboards.ts';
import { parseStrings } from './strings.ts';
import { readStringsdict } from './stringsdict.ts';

/** @throws UnreadableError where Info.plist or the executable cannot be read */
export async function openIpa(zip: Zip, bundle: string, digest: string, ports: Ports): Promise<AppPackage> {
  const unread: Problem[] = [];
  const app = await openBundle(zip, bundle, ports, unread);
  const { entitlements, executable, info, signatures, slices } = app;
  const files = [...zip.entries.keys()].filter((name) => name.startsWith(bundle));
  const profile = await readOptional(zip, `${bundle}embedded.mobileprovision`, unread, (bytes, name) =>
    readProvisioningProfile(bytes, name, ports),
  );
  const tables = await readTables(zip, bundle, files, unread);
  const developmentRegion = textAt(info, 'CFBundleDevelopmentRegion') || 'en';
  const texts = asCatalogue(tables, developmentRegion);
  const ios: IosPart = {
    info,
    minimumOs: textAt(info, 'MinimumOSVersion'),
    urlSchemes: dictsAt(info, 'CFBundleURLTypes').flatMap((type) => textsAt(type, 'CFBundleURLSchemes')),
    backgroundModes: textsAt(info, 'UIBackgroundModes'),
    associatedDomains: textsAt(entitlements, 'com.apple.developer.associated-domains'),
    usageDescriptions: usageDescriptions(info, tables),
    executable: { name: executable, slices: slices.map(viewOf) },
    entitlements,
    team: app.team,
    ...(profile && { profile }),
    privacyManifests: app.privacyManifests,
    reasons: app.reasons,
    parts: await openParts(zip, bundle, ports, unread),
    assetCatalogues: await readCatalogues(zip, bundle, files, unread),
    storyboards: await readStoryboards(zip, bundle, info, unread),
  };
  for (const slice of slices) if (slice.encrypted) unread.push(encrypted(executable, slice));
  return {
    platform: 'ios',
    container: 'ipa',
    digest,
    build: {
      appId: textAt(info, 'CFBundleIdentifier'),
      version: textAt(info, 'CFBundleShortVersionString'),
      build: textAt(info, 'CFBundleVersion'),
      code: await codeDigest(slices, ports),
    },
    name: textAt(info, 'CFBundleDisplayName') || textAt(info, 'CFBundleName'),
    permissions: ios.usageDescriptions.map(({ key }) => key),
    texts,
    locales: [...new Set(texts.map(({ locale }) => locale))].filter((locale) => locale !== 'default').sort(),
    ...('CFBundleLocalizations' in info && { declaredLocales: textsAt(info, 'CFBundleLocalizations') }),
    files: [...zip.entries.values()].map(({ name, sizeBytes, compressedBytes }) => ({
      name,
      sizeBytes,
      compressedBytes,
    })),
    pictures: [...files.flatMap(pictureOf), ...ios.assetCatalogues.flatMap(picturesOf)],
    signing: {
      schemes: signatures,
      certificates: signatures[0]?.signers[0]?.certificates.slice(0, 1) ?? [],
    },
    traces: findTraces(ios, slices),
    madeWith: recogniseToolkits(
      files,
      [],
      slices.flatMap((slice) => slice.libraries),
    ),
    unread,
    oddities: [...zip.oddities],
    ios,
  };
}

const encrypted = (executable: string, { architecture }: MachO): Problem => ({
  code: 'macho.encrypted',
  place: `${executable}, ${architecture}`,
  found: 'code that the store has encrypted, so it was not looked at',
  remedy: 'Give the package as the build put it out, before it went to the store.',
});

/** SHA-256 over the UUIDs of the executable's slices: signing again changes nothing. */
async function codeDigest(slices: readonly MachO[], ports: Ports): Promise<string> {
  const uuids = slices
    .filter(({ uuid }) => uuid)
    .map(({ architecture, uuid }) => `${architecture} ${uuid}`)
    .sort();
  if (uuids.length === 0) return 'none';
  return (await sha256Hex(ports, new TextEncoder().encode(uuids.join('\n')))).slice(0, 16);
}

interface LocalTable {
  locale: string;
  path: string;
  /** Its name without language and suffix. */
  file: string;
  texts: { key: string; form?: string; text: string; line?: number }[];
}

async function readTables(
  zip: Zip,
  bundle: string,
  files: readonly string[],
  unread: Problem[],
): Promise<LocalTable[]> {
  const tables: LocalTable[] = [];
  for (const file of files) {
    const match = /^([^/]+)\.lproj\/([^/]+)\.(strings|stringsdict)$/.exec(file.slice(bundle.length));
    if (!match) continue;
    const [, folder, name, kind] = match as unknown as [string, string, string, string];
    const texts = await readOptional(zip, file, unread, (bytes) => {
      if (kind === 'stringsdict') return readStringsdict(parsePlistDict(bytes, file));
      const { pairs, problems } = parseStrings(bytes, file);
      unread.push(...problems);
      return pairs;
    });
    if (texts) tables.push({ locale: localeOfFolder(folder), path: file, file: name, texts });
  }
  return tables;
}

// Folders that older builds name by the language's English name.
const OLD_NAMES: Record<string, string> = {
  English: 'en',
  French: 'fr',
  German: 'de',
  Japanese: 'ja',
  Spanish: 'es',
};
const localeOfFolder = (folder: string): string => OLD_NAMES[folder] ?? folder.replaceAll('_', '-');

/**
 * Texts of the development region are the source that others are held against, so they stand as `default`.
 * Keys of tables other than `Localizable` have the table's name in front; a plural form replaces the plain text of its key.
 */
function asCatalogue(tables: readonly LocalTable[], developmentRegion: string): CatalogueText[] {
  return tables.flatMap(({ locale, file, path, texts }) => {
    const forms = new Set(
      tables
        .filter((of) => of.locale === locale && of.file === file)
        .flatMap((of) => of.texts.filter(({ form }) => form).map(({ key }) => key)),
    );
    return texts
      .filter(({ key, form }) => form || !forms.has(key))
      .map(({ form, key, line, text }) => ({
        key: file === 'Localizable' ? key : `${file}/${key}`,
        locale: locale === 'Base' || locale === developmentRegion ? 'default' : locale,
        ...(form && { form }),
        text,
        file: path,
        ...(line && { line }),
      }));
  });
}

function usageDescriptions(info: PlistDict, tables: readonly LocalTable[]): IosPart['usageDescriptions'] {
  const local = tables.filter(({ file }) => file === 'InfoPlist');
  return Object.keys(info)
    .filter((key) => /^NS\w+UsageDescription$/.test(key))
    .map((key) => ({
      key,
      text: textAt(info, key),
      locales: local
        .filter(({ texts }) => texts.some((text) => text.key === key && text.text.trim() !== ''))
        .map(({ locale }) => locale),
    }));
}

/** Those of the app and of resource bundles in it; frameworks keep theirs to themselves. */
async function readCatalogues(
  zip: Zip,
  bundle: string,
  files: readonly string[],
  unread: Problem[],
): Promise<AssetCatalogue[]> {
  const catalogues: AssetCatalogue[] = [];
  for (const file of files) {
    if (!file.endsWith('.car') || CODE_BUNDLE.test(file.slice(bundle.length))) continue;
    const read = await tryRead(unread, async () => readAssetCatalogue(await zip.read(file), file));
    if (read) catalogues.push(read);
  }
  return catalogues;
}

const picturesOf = ({ file, pictures }: AssetCatalogue): Picture[] =>
  pictures.map(({ isVector, name, scale }) => ({
    name,
    file,
    density: isVector || scale === 0 ? 'any (drawn)' : `@${scale}x`,
  }));

function pictureOf(file: string): Picture[] {
  const match = /([^/]+?)(@[123]x)?(?:~\w+)?\.(?:png|jpe?g|heic|webp)$/i.exec(file);
  return match ? [{ name: match[1]!, file, density: match[2] ?? '@1x' }] : [];
}

const CLASS_SYMBOL = '_OBJC_CLASS_$_';

const viewOf = ({ architecture, encrypted, imports, libraries, uuid }: MachO): MachOSlice => ({
  architecture,
  uuid,
  encrypted,
  libraries,
  importedClasses: imports
    .filter((symbol) => symbol.startsWith(CLASS_SYMBOL))
    .map((symbol) => symbol.slice(CLASS_SYMBOL.length))
    .sort(),
});

// The store's classes for purchases, and types of its Swift module by their mangled names.
const BILLING_SYMBOL =
  /^_OBJC_CLASS_\$_(SK(?:Payment|Product)\w*)$|^_\$s8Store[A-Z]..\d+(Product|Transaction)V/;

const billingMarks = (imports: readonly string[]): string[] => {
  const names = imports.flatMap((symbol) => BILLING_SYMBOL.exec(symbol)?.slice(1) ?? []).filter(Boolean);
  return [...new Set(names)].map((name) => `names the store's ${name}`);
};

/** What Apple's documentation tells apps to declare or to link for each service. */
function findTraces({ backgroundModes, entitlements, info }: IosPart, slices: readonly MachO[]): Traces {
  const libraries = new Set(slices.flatMap((slice) => slice.libraries));
  const imports = slices.flatMap((slice) => slice.imports);
  const links = (framework: string) =>
    [...libraries].some((path) => path.includes(`/${framework}.framework/`)) && `links ${framework}`;
  const said = (...marks: (string | false | undefined)[]) => marks.filter((mark) => typeof mark === 'string');
  const environment = entitlements['aps-environment'];
  return {
    push: said(
      typeof environment === 'string' && `entitlement aps-environment ${environment}`,
      backgroundModes.includes('remote-notification') && 'background mode remote-notification',
      links('UserNotifications'),
    ),
    billing: billingMarks(imports),
    ads: said(
      links('AdSupport'),
      links('AppTrackingTransparency'),
      'SKAdNetworkItems' in info && `${dictsAt(info, 'SKAdNetworkItems').length} SKAdNetworkItems`,
    ),
  };
}
