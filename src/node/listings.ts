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
import { readTextFile, readYaml } from './read-yaml.ts';
import { writeDurably } from './write-atomically.ts';

const ROOM = 'listings';
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

/**
 * Takes one in, with what its pictures are; of one file the newest counts.
 *
 * @throws UnreadableError where it is no listing, or a picture is missing or none
 */
export async function addListing({ folder }: Dossier, path: string): Promise<Taken> {
  const { value: listing } = await readYaml(path, listingSchema);
  const pictures: ListingPicture[] = [];
  for (const { file, role } of picturesOf(listing))
    pictures.push(await readListingPicture(join(dirname(path), file), file, role));
  const kept = `${JSON.stringify({ fenlok: 'kept-listing/1', listing, pictures }, null, 2)}\n`;
  const place = placeFor(folder, ROOM, `${path}.json`);
  const before = await readFile(join(folder, place), 'utf8').catch(() => undefined);
  if (before !== kept) await writeDurably(folder, place, (staged) => writeFile(staged, kept));
  const digest = await digestOf(basename(path), kept);
  return { kind: 'listing', name: basename(path), digest, again: before === kept };
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
