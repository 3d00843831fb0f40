/**
 * An Android App Bundle (Android developers, *The Android App Bundle format*): modules, each with the protobuf forms
 * of manifest and table.
 *
 *     BundleConfig.pb · base/manifest/AndroidManifest.xml · base/resources.pb · base/dex/ · base/res/ · base/lib/ · FEATURE/…
 */
import type { ByteSource, Ports } from '../../model/ports.ts';
import { beginVerification } from '../signing/verify-apk.ts';
import type { Zip } from '../zip.ts';
import { type AndroidModule, describeAndroid, dexFilesIn, type ReadOptions } from './android-package.ts';
import type { OpenedAndroid } from './apk.ts';
import { MAX_XML_BYTES } from './binary-xml.ts';
import { readProtoTable } from './proto/proto-table.ts';
import { readProtoXml } from './proto/proto-xml.ts';

/** @throws UnreadableError where a module's manifest or table cannot be read */
export async function openBundle(
  zip: Zip,
  source: ByteSource,
  digest: string | Promise<string>,
  ports: Ports,
  options: ReadOptions,
): Promise<OpenedAndroid> {
  const signing = beginVerification(zip, source, ports);
  const features = [...zip.entries.keys()]
    .flatMap((name) => /^([^/]+)\/manifest\/AndroidManifest\.xml$/.exec(name)?.[1] ?? [])
    .filter((name) => name !== 'base')
    .sort();
  const base = await readModule(zip, 'base');
  const others: AndroidModule[] = [];
  for (const name of features) others.push(await readModule(zip, name));
  const app = await describeAndroid(
    { container: 'aab', zip, signing, digest, modules: [base, ...others] },
    ports,
    options,
  );
  return { app, zip, table: base.table, modules: [base, ...others] };
}

async function readModule(zip: Zip, name: string): Promise<AndroidModule> {
  const manifest = `${name}/manifest/AndroidManifest.xml`;
  const table = `${name}/resources.pb`;
  return {
    name,
    prefix: `${name}/`,
    manifest: readProtoXml(await zip.read(manifest, MAX_XML_BYTES), manifest),
    table: zip.entries.has(table) ? readProtoTable(await zip.read(table), table) : undefined,
    parseXml: readProtoXml,
    dexFiles: dexFilesIn(zip, `${name}/dex/`),
  };
}
