/**
 * An Android App Bundle (Android developers, *The Android App Bundle format*): modules, each with the protobuf forms
 * of manifest and table.
 *
 *     BundleConfig.pb · base/manifest/AndroidManifest.xml · base/resources.pb · base/dex/ · base/res/ · base/lib/ · FEATURE/…
 */
import type { Ports } from '../../model/ports.ts';
import { type Problem, tryRead } from '../../model/problem.ts';
import { verifyBundle } from '../signing/verify-apk.ts';
import type { Zip } from '../zip.ts';
import { type AndroidModule, describeAndroid, dexFilesIn, type ReadOptions } from './android-package.ts';
import type { OpenedAndroid } from './apk.ts';
import { MAX_XML_BYTES } from './binary-xml.ts';
import { splitsByLanguage } from './bundle-config.ts';
import { readProtoTable } from './proto/proto-table.ts';
import { readProtoXml } from './proto/proto-xml.ts';

const CONFIG = 'BundleConfig.pb';
const MAX_CONFIG_BYTES = 2 ** 20;

/** @throws UnreadableError where the manifest of the base cannot be read: everything rests on it */
export async function openBundle(
  zip: Zip,
  digest: string | Promise<string>,
  ports: Ports,
  options: ReadOptions,
): Promise<OpenedAndroid> {
  const features = [...zip.entries.keys()]
    .flatMap((name) => /^([^/]+)\/manifest\/AndroidManifest\.xml$/.exec(name)?.[1] ?? [])
    .filter((name) => name !== 'base')
    .sort();
  const unread: Problem[] = [];
  const base = await readModule(zip, 'base', unread);
  const others: AndroidModule[] = [];
  for (const name of features) {
    const module = await tryRead(unread, () => readModule(zip, name, unread));
    if (module) others.push(module);
  }
  const app = await describeAndroid(
    {
      container: 'aab',
      zip,
      signing: () => verifyBundle(zip, ports),
      splitsByLanguage: zip.entries.has(CONFIG)
        ? await tryRead(unread, async () =>
            splitsByLanguage(await zip.read(CONFIG, MAX_CONFIG_BYTES), CONFIG),
          )
        : undefined,
      digest,
      unread,
      modules: [base, ...others],
    },
    ports,
    options,
  );
  return { app, zip, table: base.table, modules: [base, ...others] };
}

async function readModule(zip: Zip, name: string, unread: Problem[]): Promise<AndroidModule> {
  const manifest = `${name}/manifest/AndroidManifest.xml`;
  const table = `${name}/resources.pb`;
  return {
    name,
    prefix: `${name}/`,
    manifest: readProtoXml(await zip.read(manifest, MAX_XML_BYTES), manifest),
    table: zip.entries.has(table)
      ? await tryRead(unread, async () => readProtoTable(await zip.read(table), table))
      : undefined,
    parseXml: readProtoXml,
    dexFiles: dexFilesIn(zip, `${name}/dex/`),
  };
}
