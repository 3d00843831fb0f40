/** Pictures that were packed with losses, as small as a crop of one word: recognised, and the interval holds the true ratio. */
import fc from 'fast-check';
import sharp from 'sharp';
import { contrastRatio, type Rgb } from '../../../src/core/areas/contrast/colour.ts';
import { measureSpot } from '../../../src/core/areas/contrast/pixels/measure-spot.ts';
import type { Pixels } from '../../../src/core/model/ports.ts';

const [WIDTH, HEIGHT] = [260, 80];
const BOX = { x: 8, y: 8, width: WIDTH - 16, height: HEIGHT - 16 };

/** Strokes of so many pixels, as a word of slanted letters has them. */
const word = (ink: Rgb, ground: Rgb, strokePx: number): Buffer => {
  const data = Buffer.alloc(WIDTH * HEIGHT * 3);
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      const isInk = y >= 24 && y < 56 && x >= 24 && x < 236 && (x + (y >> 1)) % 14 < strokePx;
      data.set(isInk ? ink : ground, (y * WIDTH + x) * 3);
    }
  return data;
};

async function packed(data: Buffer, how: 'png' | 'jpeg' | 'webp', quality: number): Promise<Pixels> {
  const raw = sharp(data, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } });
  const bytes = await raw[how]({ quality }).toBuffer();
  const { data: pixels, info } = await sharp(bytes).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  return { data: pixels, widthPx: info.width, heightPx: info.height };
}

const grey = fc.integer({ min: 12, max: 242 }).map((level): Rgb => [level, level, level]);

test('the interval of a crop of one word holds the truth, and most are recognised; a PNG is left as it is', async () => {
  const recognised: boolean[] = [];
  await fc.assert(
    fc.asyncProperty(
      grey,
      grey,
      fc.integer({ min: 4, max: 8 }),
      fc.constantFrom('jpeg' as const, 'webp' as const),
      fc.integer({ min: 70, max: 92 }),
      async (ink, ground, strokePx, how, quality) => {
        const truth = contrastRatio(ink, ground);
        fc.pre(Math.abs(ink[0] - ground[0]) >= 90);
        const data = word(ink, ground, strokePx);
        const clean = measureSpot(await packed(data, 'png', 100), BOX, '');
        expect(clean).toMatchObject({ foreground: ink, background: ground });
        expect(clean).not.toHaveProperty('packed');
        const lossy = measureSpot(await packed(data, how, quality), BOX, '');
        const { interval, packed: isPacked } = lossy as { interval: [number, number]; packed?: true };
        // where strokes end with the blocks, next to nothing is lost
        recognised.push(isPacked === true);
        const isHeld = interval[0] * 0.99 <= truth && truth <= interval[1] * 1.01;
        expect([isHeld, truth, interval]).toEqual([true, truth, interval]);
      },
    ),
    { numRuns: 60, seed: 11 },
  );
  expect(recognised.filter(Boolean).length / recognised.length).toBeGreaterThan(0.8);
});
