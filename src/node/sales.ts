/** Sales as a store signed them, in a dossier: the file, and beside it the public keys that it is verified with. */
import { readFile, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { z } from 'zod';
import { isSaleText, readSale, SALE_FILE_LIMIT_BYTES } from '../core/formats/store/read-sale.ts';
import { sha256Hex } from '../core/model/ports.ts';
import { UnreadableError } from '../core/model/problem.ts';
import type { Sale, SaleKeys } from '../core/model/sale.ts';
import type { Dossier, EvidenceEntry, Taken } from './dossier.ts';
import { dropFormer, listNamed, type NamedFile, placeFor } from './named-evidence.ts';
import { nodePorts } from './ports.ts';
import { readTextFile, readYaml } from './read-yaml.ts';
import { readStoreFile } from './store/store-file.ts';
import { writeDurably } from './write-atomically.ts';

const ROOM = 'sales';

const keptSchema = z.strictObject({
  fenlok: z.literal('sale/1'),
  /** As it came. */
  text: z.string(),
  keys: z.strictObject({ root: z.string().optional(), licenseKey: z.string().optional() }),
});

/** Whether a file is a signed sale; what cannot be read is none. */
export async function isSaleFile(path: string): Promise<boolean> {
  const text = await readTextFile(path, SALE_FILE_LIMIT_BYTES).catch(() => '');
  return isSaleText(text);
}

/**
 * @param storeFile of the test store that signed it
 * @param licenseKeyFile base64 of the key that the store shows for an Android app
 */
export async function readSaleKeys(storeFile?: string, licenseKeyFile?: string): Promise<SaleKeys> {
  const store = storeFile === undefined ? undefined : await readStoreFile(storeFile);
  const licenseKey = licenseKeyFile === undefined ? store?.licenseKey : await readLicenseKey(licenseKeyFile);
  return { ...(store && { root: store.root }), ...(licenseKey !== undefined && { licenseKey }) };
}

async function readLicenseKey(file: string): Promise<string> {
  const key = (await readTextFile(file, SALE_FILE_LIMIT_BYTES)).replace(/\s|-----[A-Z ]+-----/g, '');
  if (/^[A-Za-z0-9+/]{100,}={0,2}$/.test(key)) return key;
  throw new UnreadableError({
    code: 'sale.license-key',
    file,
    found: 'no key in Base64',
    expected: 'the license key of the app as its store shows it, or the same key in PEM',
  });
}

/** @throws UnreadableError where it is no sale */
export const readSaleFile = async (path: string, keys: SaleKeys): Promise<Sale> =>
  readSale(path, await readTextFile(path, SALE_FILE_LIMIT_BYTES), {
    keys,
    nowMs: Date.now(),
    ports: nodePorts,
  });

/** Takes one in; of one file the newest counts. */
export async function addSale({ folder }: Dossier, path: string, keys: SaleKeys): Promise<Taken> {
  const text = await readTextFile(path, SALE_FILE_LIMIT_BYTES);
  await readSale(path, text, { keys, nowMs: Date.now(), ports: nodePorts });
  const kept = `${JSON.stringify({ fenlok: 'sale/1', text, keys }, null, 2)}\n`;
  const name = placeFor(folder, ROOM, `${path}.json`);
  const before = await readFile(join(folder, name), 'utf8').catch(() => undefined);
  if (before !== kept) await writeDurably(folder, name, (staged) => writeFile(staged, kept));
  await dropFormer(folder, ROOM, `${path}.json`);
  return {
    kind: 'sale',
    name: basename(path),
    digest: await digestOf(basename(path), kept),
    again: before === kept,
  };
}

export async function listSales({ folder }: Dossier): Promise<(EvidenceEntry & NamedFile)[]> {
  const named = await listNamed(folder, ROOM);
  return Promise.all(
    named.map(async ({ file, name }) => {
      const digest = await digestOf(name, await readTextFile(file));
      return { file, name: name.replace(/\.json$/, ''), digest: digest.slice(0, 16) };
    }),
  );
}

/** One that was added, verified again with the keys that are kept beside it. */
export async function openSale({ file, name }: NamedFile): Promise<{ name: string; sale: Sale }> {
  const { keys, text } = (await readYaml(file, keptSchema)).value;
  const sale = await readSale(file, text, { keys, nowMs: Date.now(), ports: nodePorts });
  return { name, sale };
}

/** Two may be alike, and are two pieces of evidence all the same. */
const digestOf = (name: string, text: string): Promise<string> =>
  sha256Hex(nodePorts, Buffer.from(`${name}\n${text}`));
