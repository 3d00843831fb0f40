/** An APK: zip → manifest, resource table, code, signatures. */
import type { AppPackage } from '../../model/app-package.ts';
import type { ByteSource, Ports } from '../../model/ports.ts';
import { type Problem, tryRead } from '../../model/problem.ts';
import { beginVerification } from '../signing/verify-apk.ts';
import type { Zip } from '../zip.ts';
import { type AndroidModule, describeAndroid, dexFilesIn, type ReadOptions } from './android-package.ts';
import { MAX_XML_BYTES, readBinaryXml } from './binary-xml.ts';
import { type ResourceTable, readResourceTable } from './resource-table.ts';

export const APK_MANIFEST = 'AndroidManifest.xml';
const TABLE = 'resources.arsc';

export interface OpenedAndroid {
  app: AppPackage;
  zip: Zip;
  /** Of the base. */
  table?: ResourceTable;
  modules: AndroidModule[];
}

/** @throws UnreadableError where the manifest cannot be read: everything rests on it */
export async function openApk(
  zip: Zip,
  source: ByteSource,
  digest: string | Promise<string>,
  ports: Ports,
  options: ReadOptions,
): Promise<OpenedAndroid> {
  const signing = beginVerification(zip, source, ports, options.signedFor);
  const unread: Problem[] = [];
  const table = zip.entries.has(TABLE)
    ? await tryRead(unread, async () => readResourceTable(await zip.read(TABLE)))
    : undefined;
  const base: AndroidModule = {
    name: 'base',
    prefix: '',
    manifest: readBinaryXml(await zip.read(APK_MANIFEST, MAX_XML_BYTES), APK_MANIFEST),
    table,
    parseXml: readBinaryXml,
    dexFiles: dexFilesIn(zip, ''),
  };
  const app = await describeAndroid(
    { container: 'apk', zip, signing, digest, unread, modules: [base] },
    ports,
    options,
  );
  return { app, zip, table, modules: [base] };
}
