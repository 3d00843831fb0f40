import fc from 'fast-check';
import { openZip, zipLimits } from '../../../src/core/formats/zip.ts';
import { bytesSource } from '../../../src/core/model/ports.ts';
import { unwrap } from '../../../src/core/model/problem.ts';
import { nodePorts } from '../../../src/node/ports.ts';
import { type WrittenEntry, writeZip } from '../../support/zip-writer.ts';

const text = (content: string) => new TextEncoder().encode(content);
const open = (bytes: Uint8Array, limits = zipLimits) =>
  openZip('app.apk', bytesSource(bytes), nodePorts, limits);

async function problemOf(bytes: Uint8Array, entry?: string, limits = zipLimits) {
  const zip = await open(bytes, limits);
  if (!zip.ok) return zip.problem;
  if (!entry) return undefined;
  return zip.value.read(entry).then(
    () => undefined,
    (error) => error.problem,
  );
}

const plain: WrittenEntry[] = [
  { name: 'a.txt', data: text('stored as it is'), stored: true },
  { name: 'dir/b.txt', data: text('deflated '.repeat(500)) },
];

test('entries come back as they went in, whatever they hold', async () => {
  const entry = fc.record({
    name: fc.stringMatching(/^[a-z]{1,8}(\/[a-z]{1,8})?\.[a-z]{3}$/),
    data: fc.uint8Array({ maxLength: 4000 }),
    stored: fc.boolean(),
  });
  await fc.assert(
    fc.asyncProperty(
      fc.uniqueArray(entry, { selector: ({ name }) => name, maxLength: 6 }),
      fc.string({ maxLength: 40 }),
      async (entries, comment) => {
        const zip = await open(writeZip(entries, comment.replaceAll('PK', '')));
        if (!zip.ok) throw new Error(zip.problem.found);
        expect([...zip.value.entries.keys()]).toEqual(entries.map(({ name }) => name));
        for (const { name, data } of entries)
          expect(Buffer.from(await zip.value.read(name)).equals(Buffer.from(data))).toBe(true);
      },
    ),
    { numRuns: 60 },
  );
});

test('cut off or changed anywhere, an archive is refused or read, and nothing is thrown', async () => {
  const whole = writeZip(plain);
  await fc.assert(
    fc.asyncProperty(fc.nat(whole.length), fc.nat(whole.length - 1), fc.nat(255), async (end, at, value) => {
      const damaged = whole.slice();
      damaged[at] = value;
      for (const bytes of [whole.subarray(0, end), damaged]) {
        const zip = await open(bytes);
        if (!zip.ok) expect(zip.problem.found).not.toBe('');
        else
          for (const name of zip.value.entries.keys())
            await zip.value.read(name).catch((error) => expect(error.name).toBe('UnreadableError'));
      }
    }),
    { numRuns: 400 },
  );
});

const bomb: WrittenEntry = { name: 'bomb', data: new Uint8Array(30 * 2 ** 20) };

test.each([
  ['an empty file', new Uint8Array(), undefined, 'zip.none'],
  ['text', text('this is a letter and no archive at all'), undefined, 'zip.none'],
  ['an archive without its end', writeZip(plain).subarray(0, 90), undefined, 'zip.truncated'],
  ['a name twice', writeZip([...plain, plain[0]!]), undefined, 'zip.name'],
  [
    'an encrypted entry',
    writeZip([{ name: 'x', data: text('x'), claims: { flags: 1 } }]),
    'x',
    'zip.encrypted',
  ],
  ['a wrong checksum', writeZip([{ name: 'x', data: text('x'), claims: { crc32: 7 } }]), 'x', 'zip.damaged'],
  [
    'a size that is too small',
    writeZip([{ name: 'x', data: text('much longer'), claims: { sizeBytes: 2 } }]),
    'x',
    'zip.damaged',
  ],
  ['a missing entry', writeZip(plain), 'c.txt', 'zip.no-entry'],
])('%s is refused', async (_, bytes, entry, code) => {
  expect((await problemOf(bytes, entry))?.code).toBe(code);
});

test.each<[string, WrittenEntry, string]>([
  ['an absolute path', { name: '/etc/passwd', data: text('x') }, 'zip.name'],
  ['a path that climbs out', { name: 'res/../../x', data: text('x') }, 'zip.name'],
  ['a drive letter', { name: 'C:x', data: text('x') }, 'zip.name'],
  ['a method that no packer uses', { name: 'x', data: text('x'), claims: { method: 99 } }, 'zip.method'],
])('%s is named, and what stands there is read', async (_, entry, code) => {
  const zip = unwrap(await open(writeZip([...plain, entry])));
  expect(zip.oddities.map((problem) => problem.code)).toEqual([code]);
  expect(await zip.read(entry.name)).toEqual(text('x'));
});

test('what inflates beyond its cap is refused before it is inflated', async () => {
  expect((await problemOf(writeZip([bomb]), 'bomb', { ...zipLimits, entryBytes: 2 ** 20 }))?.code).toBe(
    'zip.too-large',
  );
  expect((await problemOf(writeZip([bomb]), 'bomb', { ...zipLimits, ratio: 10 }))?.code).toBe(
    'zip.too-large',
  );
  expect((await problemOf(writeZip([{ ...bomb, claims: { sizeBytes: 1000 } }]), 'bomb'))?.code).toBe(
    'zip.damaged',
  );
  expect((await problemOf(writeZip(plain), undefined, { ...zipLimits, entryCount: 1 }))?.code).toBe(
    'zip.too-many-entries',
  );
});

test('sizes and offsets beyond 32 bits stand in zip64 fields, which are read', async () => {
  const plainZip = Buffer.from(writeZip([{ name: 'a.txt', data: text('hello'), stored: true }]));
  const directoryAt = plainZip.readUInt32LE(plainZip.length - 22 + 16);
  const local = plainZip.subarray(0, directoryAt);
  const entry = Buffer.from(plainZip.subarray(directoryAt, plainZip.length - 22));
  const extra = Buffer.alloc(4 + 24);
  extra.writeUInt16LE(1, 0);
  extra.writeUInt16LE(24, 2);
  extra.writeBigUInt64LE(5n, 4);
  extra.writeBigUInt64LE(5n, 12);
  for (const at of [20, 24, 42]) entry.writeUInt32LE(0xffffffff, at);
  entry.writeUInt16LE(extra.length, 30);
  const directory = Buffer.concat([entry, extra]);
  const end64 = Buffer.alloc(56);
  end64.writeUInt32LE(0x06064b50, 0);
  end64.writeBigUInt64LE(44n, 4);
  end64.writeBigUInt64LE(1n, 24);
  end64.writeBigUInt64LE(1n, 32);
  end64.writeBigUInt64LE(BigInt(directory.length), 40);
  end64.writeBigUInt64LE(BigInt(local.length), 48);
  const locator = Buffer.alloc(20);
  locator.writeUInt32LE(0x07064b50, 0);
  locator.writeBigUInt64LE(BigInt(local.length + directory.length), 8);
  const end = Buffer.from(plainZip.subarray(plainZip.length - 22));
  end.fill(0xff, 8, 20);
  const zip = await open(new Uint8Array(Buffer.concat([local, directory, end64, locator, end])));
  if (!zip.ok) throw new Error(zip.problem.found);
  expect(new TextDecoder().decode(await zip.value.read('a.txt'))).toBe('hello');
});

test('entries that share their data, and a local header that has another name, are refused', async () => {
  const two = Buffer.from(
    writeZip([
      { name: 'a.bin', data: new Uint8Array(400), stored: true },
      { name: 'b.bin', data: text('x') },
    ]),
  );
  const second = two.indexOf(Buffer.from('b.bin'), two.lastIndexOf(Buffer.from('a.bin')));
  two.writeUInt32LE(400, second - 46 + 20);
  two.writeUInt32LE(0, second - 46 + 42);
  expect((await problemOf(new Uint8Array(two)))?.code).toBe('zip.overlap');
  const renamed = Buffer.from(writeZip([{ name: 'a.bin', data: text('x') }]));
  renamed[30] = 0x7a;
  expect((await problemOf(new Uint8Array(renamed), 'a.bin'))?.found).toMatch(/has another name/);
});
