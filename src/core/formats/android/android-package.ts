/** The one model of an Android package, from the modules of an APK (which is one) or of a bundle. */

import type {
  AndroidPart,
  AppPackage,
  Manifest,
  NativeLibrary,
  Picture,
  Shortcut,
  Signing,
} from '../../model/app-package.ts';
import type { CatalogueSyntax } from '../../model/intent-parts.ts';
import { type Ports, sha256Hex } from '../../model/ports.ts';
import { type Problem, tryRead } from '../../model/problem.ts';
import { formatDensity } from '../../platform/android/resource-config.ts';
import { recogniseToolkits } from '../../platform/app-toolkits.ts';
import type { LevelRange, SigningDemands } from '../signing/verify-apk.ts';
import type { Zip } from '../zip.ts';
import { MAX_XML_BYTES, type XmlElement } from './binary-xml.ts';
import { readDelivery } from './bundle-config.ts';
import { catalogueLocales, catalogueTexts, MAX_CHARACTERS } from './catalogue.ts';
import { readDex } from './dex.ts';
import { readSegmentAlignment } from './elf.ts';
import { type ManifestIdentity, readManifest } from './manifest.ts';
import type { ResourceTable } from './resource-table.ts';
import { findTraces } from './traces.ts';
import {
  readDataExtractionRules,
  readFullBackupContent,
  readLocaleConfig,
  readNetworkSecurity,
  readShortcuts,
} from './xml-rules.ts';

export interface AndroidModule {
  name: string;
  /** Of the module's files in the archive: empty in an APK, `base/` in a bundle. */
  prefix: string;
  manifest: XmlElement;
  table?: ResourceTable;
  parseXml(bytes: Uint8Array, name: string): XmlElement;
  /** In the order in which the runtime loads them. */
  dexFiles: string[];
}

export interface ReadOptions {
  /** `declared` reads what the package declares, at once; `all`, which is meant where nothing is said, also what judging needs. */
  parts?: 'all' | 'declared';
  /** How texts among the assets are filled in, where what they hold does not show it. */
  catalogues?: readonly CatalogueSyntax[];
  /** Whether the texts of all languages are wanted in the model too; they stand in the table in any case. */
  texts?: boolean;
  /** The platform levels whose view of the signatures is wanted, in place of all that the app runs on. */
  signedFor?: LevelRange;
  /** Called with the modules when all but signatures and digest is read: these take longest on large files. */
  whileVerifying?(modules: readonly AndroidModule[]): Promise<void>;
}

interface AndroidArchive {
  container: 'apk' | 'aab';
  zip: Zip;
  /** May have begun before. */
  signing(demands: SigningDemands): Promise<Signing>;
  digest: string | Promise<string>;
  /** Parts that could not be read on the way here. */
  unread?: Problem[];
  /** The base first. */
  modules: [AndroidModule, ...AndroidModule[]];
  /** Of a bundle. */
  splitsByLanguage?: boolean;
}

export async function describeAndroid(
  archive: AndroidArchive,
  ports: Ports,
  { texts: wanted = true, whileVerifying }: ReadOptions,
): Promise<AppPackage> {
  const { container, modules, signing, zip } = archive;
  const [base] = modules;
  const read = modules.map((module) => readManifest(module.manifest, module.table));
  const { identity } = read[0]!;
  const manifest = mergeManifests(
    read.map((module, i) => (i === 0 ? module.manifest : ofModule(module.manifest, modules[i]!.name))),
  );
  const unread: Problem[] = [...(archive.unread ?? [])];
  const code = await readCode(archive, ports, unread);
  const rules = await readRules(zip, base, manifest, unread);
  const tables = modules.flatMap(({ table }) => table ?? []);
  const readTables = async <T>(read: (table: ResourceTable) => T[]): Promise<T[]> =>
    (await Promise.all(tables.map((table) => tryRead(unread, () => read(table))))).flatMap(
      (list) => list ?? [],
    );
  const texts = wanted ? await readTables(catalogueTexts) : [];
  const nativeLibraries = await readNativeLibraries(zip, unread);
  await whileVerifying?.(modules);
  return {
    platform: 'android',
    container,
    digest: await archive.digest,
    build: buildKey(identity, code.digest),
    name: identity.label,
    permissions: manifest.permissions.map(({ name }) => name),
    texts,
    locales: [...new Set(await readTables(catalogueLocales))].sort(),
    ...(rules.declaredLocales && { declaredLocales: rules.declaredLocales }),
    files: [...zip.entries.values()].map(({ name, sizeBytes, compressedBytes }) => ({
      name,
      sizeBytes,
      compressedBytes,
    })),
    pictures: await readPictures(modules, unread),
    signing: await signing({
      minSdk: manifest.minSdk,
      targetSdk: manifest.targetSdk,
      sandbox: manifest.targetSandboxVersion,
    }),
    traces: findTraces(manifest, code.types),
    madeWith: recogniseToolkits(zip.entries.keys(), code.types),
    unread,
    oddities: [...zip.oddities],
    android: {
      manifest,
      modules: modules.map(({ manifest: root, name }) => readDelivery(name, root)),
      ...(archive.splitsByLanguage !== undefined && { splitsByLanguage: archive.splitsByLanguage }),
      ...(rules.networkSecurity && { networkSecurity: rules.networkSecurity }),
      backup: rules.backup,
      shortcuts: rules.shortcuts ?? [],
      code: code.counts,
      nativeLibraries,
    },
  };
}

const buildKey = (identity: ManifestIdentity, code: string): AppPackage['build'] => ({
  appId: identity.appId,
  version: identity.versionName,
  build: identity.versionCode,
  code,
});

const ofModule = (manifest: Manifest, module: string): Manifest => ({
  ...manifest,
  components: manifest.components.map((component) => ({ ...component, module })),
});

/** Feature modules add components, permissions and features; levels and the application are the base's. */
function mergeManifests(manifests: Manifest[]): Manifest {
  const [base, ...features] = manifests as [Manifest, ...Manifest[]];
  if (features.length === 0) return base;
  const merged = <T>(of: (manifest: Manifest) => T[], key: (item: T) => string): T[] => [
    ...new Map(manifests.flatMap(of).map((item) => [key(item), item])).values(),
  ];
  return {
    ...base,
    permissions: merged(
      (of) => of.permissions,
      ({ name }) => name,
    ),
    declaredPermissions: merged(
      (of) => of.declaredPermissions,
      ({ name }) => name,
    ),
    features: merged(
      (of) => of.features,
      ({ name }) => name,
    ),
    components: merged(
      (of) => of.components,
      ({ type, name }) => `${type} ${name}`,
    ),
    metaData: merged(
      (of) => of.metaData,
      ({ name }) => name,
    ),
  };
}

interface Code {
  digest: string;
  counts: AndroidPart['code'];
  types: Set<string>;
}

/** The digest is the SHA-256 over the SHA-256 of each dex file, so that signing again changes nothing. */
async function readCode({ modules, zip }: AndroidArchive, ports: Ports, unread: Problem[]): Promise<Code> {
  const counts = { dexFiles: 0, classes: 0, methods: 0 };
  const types = new Set<string>();
  const digests: string[] = [];
  for (const name of modules.flatMap(({ dexFiles }) => dexFiles)) {
    counts.dexFiles += 1;
    const bytes = await tryRead(unread, () => zip.read(name));
    const { crc32, sizeBytes } = zip.entries.get(name)!;
    digests.push(bytes ? await sha256Hex(ports, bytes) : `unread ${crc32} ${sizeBytes}`);
    await tryRead(unread, () => {
      if (!bytes) return;
      const dex = readDex(bytes, name);
      for (const type of dex.types()) types.add(type);
      counts.classes += dex.classes().length;
      counts.methods += dex.methods().length;
    });
  }
  const digest =
    digests.length === 0
      ? 'none'
      : (await sha256Hex(ports, new TextEncoder().encode(digests.join('\n')))).slice(0, 16);
  return { digest, counts, types };
}

/** Dex files in the order in which the runtime loads them. */
export function dexFilesIn(zip: Zip, folder: string): string[] {
  const number = (name: string) => Number(/classes(\d*)\.dex$/.exec(name)?.[1] || 1);
  return [...zip.entries.keys()]
    .filter((name) => name.startsWith(folder) && /^classes\d*\.dex$/.test(name.slice(folder.length)))
    .sort((a, b) => number(a) - number(b));
}

interface Rules extends Pick<AndroidPart, 'backup' | 'networkSecurity'> {
  declaredLocales?: string[];
  shortcuts?: Shortcut[];
}

const SHORTCUTS = 'android.app.shortcuts';

async function readRules(
  zip: Zip,
  base: AndroidModule,
  { application, components }: Manifest,
  unread: Problem[],
): Promise<Rules> {
  const read = <T>(path: string, parse: (root: XmlElement) => T): Promise<T | undefined> => {
    const name = base.prefix + path;
    // "true" and "false" are allowed in place of a file
    if (!path.includes('/')) return Promise.resolve(undefined);
    return tryRead(unread, async () => parse(base.parseXml(await zip.read(name, MAX_XML_BYTES), name)));
  };
  const named = components.flatMap(({ metaData }) => metaData).find(({ name }) => name === SHORTCUTS);
  const shortcuts = named?.value ?? '';
  return {
    networkSecurity: await read(application.networkSecurityConfig, readNetworkSecurity),
    backup: {
      ...(await read(application.fullBackupContent, readFullBackupContent)),
      ...(await read(application.dataExtractionRules, readDataExtractionRules)),
    },
    declaredLocales: await read(application.localeConfig, readLocaleConfig),
    shortcuts: await read(shortcuts, (root) => readShortcuts(root, base.table)),
  };
}

async function readPictures(modules: readonly AndroidModule[], unread: Problem[]): Promise<Picture[]> {
  const pictures: Picture[] = [];
  for (const { prefix, table } of modules)
    pictures.push(...((table && (await tryRead(unread, () => picturesOf(table, prefix)))) ?? []));
  return pictures;
}

function picturesOf(table: ResourceTable, prefix: string): Picture[] {
  const pictures: Picture[] = [];
  let characters = 0;
  for (const resource of table.resources.values())
    if (resource.type === 'drawable' || resource.type === 'mipmap')
      for (const { config, content } of resource.variants())
        if (content.kind === 'value' && content.value.kind === 'string') {
          characters += content.value.text.length;
          if (characters > MAX_CHARACTERS) return pictures;
          pictures.push({
            name: `${resource.type}/${resource.name}`,
            file: prefix + content.value.text,
            density: formatDensity(config.density),
          });
        }
  return pictures;
}

/** Offsets may be larger than 32 bits, which bit operations would cut off. */
function largestPowerOf2In(offset: number): number {
  let power = 1;
  while (offset % (2 * power) === 0) power *= 2;
  return power;
}

async function readNativeLibraries(zip: Zip, unread: Problem[]): Promise<NativeLibrary[]> {
  const libraries: NativeLibrary[] = [];
  for (const [file, entry] of zip.entries) {
    const abi = /^(?:\w+\/)?lib\/([^/]+)\/[^/]+\.so$/.exec(file)?.[1];
    if (!abi) continue;
    const library = await tryRead(unread, async () => {
      const segmentAlignBytes = readSegmentAlignment(await zip.read(file), file);
      const offset = entry.method === 'stored' ? await zip.dataOffset(file) : 0;
      return {
        file,
        abi,
        segmentAlignBytes,
        ...(offset > 0 && { offsetAlignBytes: largestPowerOf2In(offset) }),
      };
    });
    if (library) libraries.push(library);
  }
  return libraries;
}
