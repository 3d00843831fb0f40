/** Store listings, in a dossier: what each file says, and what the heads of its pictures say. */
import { createHash } from 'node:crypto';
import { readFile, stat, writeFile } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import sharp from 'sharp';
import { z } from 'zod';
import {
  type Listing,
  type ListingPicture,
  type ListingRole,
  listingPictureSchema,
  listingSchema,
} from '../core/model/listing.ts';
import { sha256Hex } from '../core/model/ports.ts';
import { UnreadableError } from '../core/model/problem.ts';
import type { Dossier, EvidenceEntry, Taken } from './dossier.ts';
import { listNamed, type NamedFile, placeFor } from './named-evidence.ts';
import { nodePorts } from './ports.ts';
import { isTableFile, readTable } from './read-table.ts';
import { readTextFile, readYaml } from './read-yaml.ts';
import { writeDurably } from './write-atomically.ts';

const ROOM = 'listings';
const TABLE = 'a table of listings: CSV with the columns store, locale, name …';
const LISTING_LIMIT_BYTES = 2 ** 20;
// Google Play and the App Store take far smaller ones; what is larger is no picture of a listing.
const PICTURE_LIMIT_BYTES = 50 * 2 ** 20;

const keptSchema = z.strictObject({
  fenlok: z.literal('kept-listing/1'),
  listing: listingSchema,
  pictures: z.array(listingPictureSchema),
});

/** Whether a YAML file is a listing; what cannot be read is none. */
export async function isListingFile(path: string): Promise<boolean> {
  if (!/\.ya?ml$/i.test(path)) return false;
  const text = await readTextFile(path, LISTING_LIMIT_BYTES).catch(() => '');
  return /^\s*fenlok: *['"]?listing\//m.test(text);
}

/** Whether a table has listings: a row for each store and language. */
export async function isListingTable(path: string): Promise<boolean> {
  if (!isTableFile(path)) return false;
  const names = Object.keys((await readTable(path, LISTING_LIMIT_BYTES, TABLE).catch(() => []))[0] ?? {});
  return ['store', 'locale'].every((name) => names.includes(name));
}

/**
 * Takes one in, with what its pictures are; of one file the newest counts.
 *
 * @throws UnreadableError where it is no listing, or a picture is missing or none
 */
export async function addListing(dossier: Dossier, path: string): Promise<Taken> {
  return keepListing(dossier, path, path, (await readYaml(path, listingSchema)).value);
}

/** The same of each row of a table; columns have the names of the fields, `phone` and `tablet` several files with semicolons between. */
export async function addListingTable(dossier: Dossier, path: string): Promise<Taken> {
  const rows = await readTable(path, LISTING_LIMIT_BYTES, TABLE);
  const listings = rows.map((row, i) => listingOfRow(path, row, i + 2));
  const taken: Taken[] = [];
  for (const listing of listings)
    taken.push(await keepListing(dossier, path, `${path}-${listing.store}-${listing.locale}`, listing));
  return {
    kind: 'listing',
    name: basename(path),
    digest: await digestOf(basename(path), taken.map(({ digest }) => digest).join()),
    again: taken.every(({ again }) => again),
  };
}

const PICTURES = ['icon', 'banner', 'phone', 'tablet'];

function listingOfRow(path: string, row: Record<string, string>, line: number): Listing {
  const { age = '', banner = '', icon = '', phone = '', tablet = '', ...texts } = row;
  const files = (cell: string) =>
    cell
      .split(';')
      .map((one) => one.trim())
      .filter(Boolean);
  const parsed = listingSchema.safeParse({
    fenlok: 'listing/1',
    ...texts,
    ...(age !== '' && { age: Number(age) }),
    pictures: {
      ...(icon && { icon }),
      ...(banner && { banner }),
      phone: files(phone),
      tablet: files(tablet),
    },
  });
  if (parsed.success) return parsed.data;
  const issue = parsed.error.issues[0]!;
  throw new UnreadableError({
    code: 'listing.row',
    file: path,
    place: `line ${line}${issue.path.length > 0 ? `, ${issue.path.join('.')}` : ''}`,
    found: issue.message,
    expected: `columns ${['store', 'locale', ...Object.keys(listingSchema.shape).filter((name) => !['fenlok', 'store', 'locale', 'pictures'].includes(name)), ...PICTURES].join(', ')}`,
  });
}

async function keepListing(
  { folder }: Dossier,
  path: string,
  name: string,
  listing: Listing,
): Promise<Taken> {
  const pictures: ListingPicture[] = [];
  for (const { file, role } of picturesOf(listing))
    pictures.push(await readListingPicture(join(dirname(path), file), file, role));
  const kept = `${JSON.stringify({ fenlok: 'kept-listing/1', listing, pictures }, null, 2)}\n`;
  const place = placeFor(folder, ROOM, `${name}.json`);
  const before = await readFile(join(folder, place), 'utf8').catch(() => undefined);
  if (before !== kept) await writeDurably(folder, place, (staged) => writeFile(staged, kept));
  const digest = await digestOf(basename(name), kept);
  return { kind: 'listing', name: basename(name), digest, again: before === kept };
}

export async function listListings({ folder }: Dossier): Promise<(EvidenceEntry & NamedFile)[]> {
  const named = await listNamed(folder, ROOM);
  return Promise.all(
    named.map(async ({ file, name }) => {
      const digest = await digestOf(name, await readFile(file, 'utf8'));
      return { file, name: name.replace(/\.json$/, ''), digest: digest.slice(0, 16) };
    }),
  );
}

/** @throws UnreadableError where it was changed by hand */
export async function openListing({ file }: EvidenceEntry): Promise<z.infer<typeof keptSchema>> {
  return (await readYaml(file, keptSchema)).value;
}

const picturesOf = ({ pictures }: Listing): { role: ListingRole; file: string }[] => [
  ...(pictures.icon ? [{ role: 'icon' as const, file: pictures.icon }] : []),
  ...(pictures.banner ? [{ role: 'banner' as const, file: pictures.banner }] : []),
  ...pictures.phone.map((file) => ({ role: 'phone' as const, file })),
  ...pictures.tablet.map((file) => ({ role: 'tablet' as const, file })),
];

async function readListingPicture(path: string, file: string, role: ListingRole): Promise<ListingPicture> {
  const info = await stat(path).catch(() => undefined);
  if (!info?.isFile())
    throw new UnreadableError({
      code: 'listing.no-picture',
      file: path,
      found: 'no such picture',
      expected: `the ${role} that the listing names`,
    });
  if (info.size > PICTURE_LIMIT_BYTES)
    throw new UnreadableError({
      code: 'listing.picture-too-large',
      file: path,
      found: `${info.size} bytes`,
      expected: `a picture of up to ${PICTURE_LIMIT_BYTES / 2 ** 20} MB`,
    });
  const bytes = await readFile(path);
  const head = await sharp(bytes, { limitInputPixels: false })
    .metadata()
    .catch(() => undefined);
  if (!head)
    throw new UnreadableError({
      code: 'listing.no-picture',
      file: path,
      found: 'a file that is no picture',
      expected: 'a PNG or a JPEG',
    });
  return {
    role,
    file,
    sha256: createHash('sha256').update(bytes).digest('hex'),
    widthPx: head.width,
    heightPx: head.pageHeight ?? head.height,
    format: head.format,
    hasAlpha: head.hasAlpha,
    space: head.space,
    frames: head.pages ?? 1,
    sizeBytes: info.size,
  };
}

const digestOf = (name: string, kept: string): Promise<string> =>
  sha256Hex(nodePorts, new TextEncoder().encode(`${name}\n${kept}`));
