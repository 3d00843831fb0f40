/** Pictures to 8-bit sRGB with straight alpha. Wide colour spaces are converted by their profile. */
import sharp from 'sharp';
import type { Pixels } from '../core/model/ports.ts';
import { UnreadableError } from '../core/model/problem.ts';

const MAX_PIXELS = 64 * 2 ** 20;

/** @throws UnreadableError where the bytes are no picture, or too large a one */
export async function decodeImage(file: string, bytes: Uint8Array): Promise<Pixels> {
  try {
    const { data, info } = await sharp(bytes, { limitInputPixels: MAX_PIXELS, failOn: 'truncated' })
      .toColourspace('srgb')
      .ensureAlpha()
      .raw({ depth: 'uchar' })
      .toBuffer({ resolveWithObject: true });
    return { widthPx: info.width, heightPx: info.height, data };
  } catch (cause) {
    throw new UnreadableError(
      {
        code: 'picture.unreadable',
        file,
        found: `a picture that cannot be decoded: ${(cause as Error).message}`,
        expected: 'a whole PNG, WebP or JPEG of at most 64 megapixels',
        remedy: 'Take the screenshot again.',
      },
      { cause },
    );
  }
}
