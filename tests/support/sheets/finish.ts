/** What happens to a screenshot on its way to whoever measures it: packed with losses, by messengers and image services. */
import sharp from 'sharp';
import type { Pixels } from '../../../src/core/model/ports.ts';
import { decode } from './painters.ts';

export const finishes = ['jpeg 40', 'jpeg 70', 'jpeg 92', 'webp 40', 'webp 80'] as const;
export type Finish = (typeof finishes)[number];

export async function finish({ data, heightPx, widthPx }: Pixels, how: Finish): Promise<Pixels> {
  const [format, quality] = how.split(' ') as ['jpeg' | 'webp', string];
  const packed = sharp(data, { raw: { width: widthPx, height: heightPx, channels: 4 } })
    .removeAlpha()
    [format]({ quality: Number(quality) });
  return decode(await packed.toBuffer());
}
