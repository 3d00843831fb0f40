/** What sites serve about apps, in a dossier: one file for each site and platform. */
import { readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import {
  readSiteFile,
  SITE_FILE_LIMIT_BYTES,
  siteFilePlace,
  tooLargeSiteFile,
} from '../core/formats/site-file.ts';
import { sha256Hex } from '../core/model/ports.ts';
import { type Problem, UnreadableError } from '../core/model/problem.ts';
import type { SiteFile } from '../core/model/site-file.ts';
import type { Dossier, EvidenceEntry, Taken } from './dossier.ts';
import { nodePorts } from './ports.ts';
import { readBytes } from './read-bytes.ts';
import { writeDurably } from './write-atomically.ts';

const NAMES = {
  assetlinks: 'assetlinks.json',
  'apple-app-site-association': 'apple-app-site-association',
  'app-ads': 'app-ads.txt',
} as const satisfies Record<SiteFile['kind'], string>;

/** Takes one in; of one site and platform the newest counts. */
export async function addSiteFile(
  { folder }: Dossier,
  path: string,
): Promise<Taken & { problems: Problem[] }> {
  const { host, kind } = siteFilePlace(path)!;
  const bytes = await readSiteBytes(path);
  const { problems } = readSiteFile(path, bytes, { host, kind });
  const digest = await digestOf({ host, kind }, bytes);
  const name = `sites/${host}/${NAMES[kind]}`;
  const before = await readFile(join(folder, name)).catch(() => undefined);
  const again = before?.equals(bytes) ?? false;
  if (!again) await writeDurably(folder, name, (staged) => writeFile(staged, bytes));
  return { kind: 'site', name: `${kind} of ${host}`, digest, again, problems };
}

export async function listSiteFiles({ folder }: Dossier): Promise<EvidenceEntry[]> {
  const names = await readdir(join(folder, 'sites'), { recursive: true }).catch(() => []);
  const files = names.map((name) => join(folder, 'sites', name)).filter((file) => siteFilePlace(file));
  return Promise.all(
    files.sort().map(async (file) => ({
      digest: (await digestOf(siteFilePlace(file)!, await readSiteBytes(file))).slice(0, 16),
      file,
    })),
  );
}

/** Two sites may serve the very same file, and are two pieces of evidence all the same. */
const digestOf = ({ host, kind }: Pick<SiteFile, 'host' | 'kind'>, bytes: Uint8Array): Promise<string> =>
  sha256Hex(nodePorts, Buffer.concat([Buffer.from(`${host} ${kind}\n`), bytes]));

/** @param file at a place that tells site and platform: `kelpline.example/.well-known/assetlinks.json` */
export async function openSiteFile(file: string): Promise<SiteFile> {
  const place = siteFilePlace(file);
  if (!place)
    throw new UnreadableError({
      code: 'site.place',
      file,
      found: 'a file whose place does not tell its site',
      expected:
        'HOST/.well-known/assetlinks.json, HOST/.well-known/apple-app-site-association or HOST/app-ads.txt',
      remedy: 'Keep it in a folder named after the host that serves it.',
    });
  return readSiteFile(file, await readSiteBytes(file), place);
}

const readSiteBytes = (path: string): Promise<Uint8Array> =>
  readBytes(path, SITE_FILE_LIMIT_BYTES, (sizeBytes) => tooLargeSiteFile(path, sizeBytes));
