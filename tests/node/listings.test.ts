/** Listings taken in by the built command: what the heads of pictures say, held against another reader; and bad files. */
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { imageSize } from 'image-size';
import sharp from 'sharp';
import { stringify } from 'yaml';
import type { ListingPicture } from '../../src/core/model/listing.ts';
import { addPackage, openDossier } from '../../src/node/dossier.ts';
import { addListing, listListings, openListing } from '../../src/node/listings.ts';
import { fenlok } from '../support/command.ts';
import { demoApk, scratchFolder } from '../support/paths.ts';

const scratch = scratchFolder();
const folder = join(scratch, 'dossier');
const listing = join(scratch, 'listing');
const write = (name: string, phone: readonly string[], more = '') => {
  const file = join(listing, name);
  const pictures = `pictures: { phone: [${phone.join(', ')}] }`;
  writeFileSync(
    file,
    `fenlok: listing/1\nstore: google-play\nlocale: en\nname: Kelpline\n${pictures}\n${more}`,
  );
  return file;
};
const kept = (name: string): { pictures: ListingPicture[] } => {
  const file = readdirSync(join(folder, 'listings')).find((one) => one.endsWith(`${name}.json`))!;
  return JSON.parse(readFileSync(join(folder, 'listings', file), 'utf8'));
};

beforeAll(async () => {
  mkdirSync(listing);
  await addPackage(folder, demoApk);
});

test('sizes, formats and alpha are those of another reader', async () => {
  const made = fc.record({
    width: fc.integer({ min: 1, max: 3000 }),
    height: fc.integer({ min: 1, max: 3000 }),
    channels: fc.constantFrom(3 as const, 4 as const),
    format: fc.constantFrom('png' as const, 'jpeg' as const, 'webp' as const),
  });
  let serial = 0;
  await fc.assert(
    fc.asyncProperty(made, async ({ channels, format, height, width }) => {
      const bytes = await sharp({
        create: { width, height, channels, background: { r: 9, g: 90, b: 200, alpha: 0.5 } },
      })
        .toFormat(format)
        .toBuffer();
      const name = `p${++serial}.${format}`;
      writeFileSync(join(listing, name), bytes);
      await addListing(await openDossier(folder), write(`l${serial}.yaml`, [name]));
      const [seen] = kept(`l${serial}.yaml`).pictures;
      const head = imageSize(bytes);
      expect([seen!.widthPx, seen!.heightPx, seen!.format]).toEqual([
        head.width,
        head.height,
        head.type === 'jpg' ? 'jpeg' : head.type,
      ]);
      // PNG, third edition, 11.2.1: colour types 4 and 6 have alpha
      if (format === 'png') expect(seen!.hasAlpha).toBe([4, 6].includes(bytes[25]!));
      if (format === 'jpeg') expect(seen!.hasAlpha).toBe(false);
      expect(seen!.sizeBytes).toBe(bytes.length);
    }),
    { numRuns: 25 },
  );
});

test('CMYK, and what moves, are told as what they are; a picture of 30,000 px is not decoded', async () => {
  const of = (width: number, height: number) =>
    sharp({ create: { width, height, channels: 3, background: '#0b5563' } });
  writeFileSync(join(listing, 'ink.jpg'), await of(400, 400).toColourspace('cmyk').jpeg().toBuffer());
  const frame = await of(40, 80).png().toBuffer();
  writeFileSync(
    join(listing, 'moves.webp'),
    await sharp([frame, await of(40, 80).negate().png().toBuffer()], { join: { animated: true } })
      .webp()
      .toBuffer(),
  );
  writeFileSync(join(listing, 'wide.png'), await of(30_000, 4).png().toBuffer());
  const taken = await fenlok(['add', write('odd.yaml', ['ink.jpg', 'moves.webp', 'wide.png'])], scratch);
  expect(taken).toMatchObject({ code: 0, out: expect.stringContaining('listing odd.yaml') });
  expect(
    kept('odd.yaml').pictures.map(({ frames, heightPx, space, widthPx }) => [
      space,
      frames,
      widthPx,
      heightPx,
    ]),
  ).toEqual([
    ['cmyk', 1, 400, 400],
    ['srgb', 2, 40, 80],
    ['srgb', 1, 30_000, 4],
  ]);
});

test.each<[what: string, phone: string[], more: string, says: RegExp]>([
  [
    'a picture that is not there',
    ['gone.png'],
    '',
    /gone\.png: found no such picture|gone\.png.*no such picture/,
  ],
  ['a file that is no picture', ['words.png'], '', /words\.png.*no picture/],
  ['a field that is none', [], 'nmae: x', /line \d+.*nmae/],
  ['another store', [], 'store: corner-shop', /line \d+/],
])('%s', async (_, phone, more, says) => {
  writeFileSync(join(listing, 'words.png'), 'words');
  const before = readdirSync(join(folder, 'listings'));
  const { code, err } = await fenlok(['add', write('bad.yaml', phone, more)], scratch);
  expect([code, err]).toEqual([3, expect.stringMatching(says)]);
  expect(readdirSync(join(folder, 'listings'))).toEqual(before);
});

test('of one file the newest counts, and a folder is taken as a whole', async () => {
  const own = join(scratch, 'whole');
  mkdirSync(own);
  for (const locale of ['en', 'de'])
    writeFileSync(
      join(own, `play-${locale}.yaml`),
      `fenlok: listing/1\nstore: google-play\nlocale: ${locale}\nname: A\n`,
    );
  const first = await fenlok(['add', own, '--json'], scratch);
  expect(
    JSON.parse(first.out).taken.map(({ kind, name }: Record<string, string>) => `${kind} ${name}`),
  ).toEqual(['listing play-de.yaml', 'listing play-en.yaml']);
  writeFileSync(join(own, 'play-de.yaml'), 'fenlok: listing/1\nstore: google-play\nlocale: de\nname: B\n');
  const second = JSON.parse((await fenlok(['add', own, '--json'], scratch)).out);
  expect(second.taken.map(({ again }: { again: boolean }) => again)).toEqual([false, true]);
  expect(readdirSync(join(folder, 'listings')).filter((name) => name.includes('play-'))).toHaveLength(2);
});

test('a table is the same as a file for each of its rows', async () => {
  const table = join(scratch, 'table');
  mkdirSync(join(table, 'dossier'), { recursive: true });
  await sharp({ create: { width: 9, height: 9, channels: 3, background: '#000' } }).toFile(
    join(table, 'a.png'),
  );
  const fields = { name: 'Kelp, "line"', short: 'a', full: 'b\nc', mail: 'crew@kelpline.example' };
  for (const [file, own] of [
    ['files', 'yaml'],
    ['rows', 'csv'],
  ]) {
    const folder = join(table, file!);
    await addPackage(folder, demoApk);
    if (own === 'yaml')
      for (const locale of ['en', 'de'])
        writeFileSync(
          join(table, `${locale}.yaml`),
          stringify({
            fenlok: 'listing/1',
            store: 'google-play',
            locale,
            ...fields,
            age: 12,
            pictures: { icon: 'a.png', phone: ['a.png', 'a.png'] },
          }),
        );
    else
      writeFileSync(
        join(table, 'all.csv'),
        ['store,locale,name,short,full,mail,age,icon,phone']
          .concat(
            ['en', 'de'].map(
              (locale) =>
                `google-play,${locale},"Kelp, ""line""",a,"b\nc",crew@kelpline.example,12,a.png,a.png; a.png`,
            ),
          )
          .join('\n'),
      );
    const files = own === 'yaml' ? ['en.yaml', 'de.yaml'] : ['all.csv'];
    expect((await fenlok(['add', ...files, '--dossier', file!], table)).code).toBe(0);
  }
  const kept = async (name: string) => {
    const dossier = await openDossier(join(table, name));
    const all = await Promise.all((await listListings(dossier)).map(openListing));
    return all.sort((a, b) => (a.listing.locale < b.listing.locale ? -1 : 1));
  };
  expect(await kept('rows')).toEqual(await kept('files'));
  expect(await kept('rows')).toHaveLength(2);

  writeFileSync(join(table, 'bad.csv'), 'store,locale,nmae\ngoogle-play,en,x\n');
  const { code, err } = await fenlok(['add', 'bad.csv', '--dossier', 'rows'], table);
  expect([code, err]).toEqual([3, expect.stringMatching(/bad\.csv, line 2.*nmae/s)]);
});
