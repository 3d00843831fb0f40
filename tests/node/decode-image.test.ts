/** Pictures of every form that a device or a tool writes become the same 8-bit sRGB. */
import sharp from 'sharp';
import { decodeImage } from '../../src/node/decode-image.ts';

const COLOURS = [255, 0, 0, 200, 100, 50, 128, 128, 128, 10, 240, 90];
const source = () => sharp(Buffer.from(COLOURS), { raw: { width: 4, height: 1, channels: 3 } });

test.each<[string, () => Promise<Buffer>]>([
  ['PNG', () => source().png().toBuffer()],
  ['interlaced PNG', () => source().png({ progressive: true }).toBuffer()],
  ['PNG of 16 bits', () => source().toColourspace('rgb16').png().toBuffer()],
  ['PNG with a palette', () => source().png({ palette: true }).toBuffer()],
  ['PNG in the colours of a wide display', () => source().withIccProfile('p3').png().toBuffer()],
  ['lossless WebP', () => source().webp({ lossless: true }).toBuffer()],
])('%s', async (_, write) => {
  const { data, heightPx, widthPx } = await decodeImage('x', await write());
  expect([widthPx, heightPx]).toEqual([4, 1]);
  for (const [i, level] of COLOURS.entries())
    expect(Math.abs(data[Math.floor(i / 3) * 4 + (i % 3)]! - level)).toBeLessThanOrEqual(2);
});

test('a wide colour is not taken as its numbers stand in the file', async () => {
  const wide = await source().withIccProfile('p3').png().toBuffer();
  const asWritten = await sharp(wide, { ignoreIcc: true }).raw().toBuffer();
  expect([...asWritten.subarray(3, 6)]).not.toEqual([200, 100, 50]);
});

test('40 megapixels are read, more than the limit is refused by name', async () => {
  const blank = (height: number) =>
    sharp({ create: { width: 5000, height, channels: 3, background: '#fff' } })
      .png()
      .toBuffer();
  expect(await decodeImage('x', await blank(8000))).toMatchObject({ widthPx: 5000, heightPx: 8000 });
  await expect(decodeImage('big.png', await blank(14_000))).rejects.toThrow(/big\.png.*64 megapixels/s);
});
