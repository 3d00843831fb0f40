/** A piece of a picture, packed for a page. What is kept of it goes by the digest of this code: see scripts/evidence-keys.mjs. */
import sharp from 'sharp';
import type { Box } from '../core/model/geometry.ts';
import type { ProofPicture } from '../core/reports/html/proof.ts';

export type Cut = Omit<ProofPicture, 'elementPx'>;

export type DecodedPicture = Awaited<ReturnType<typeof decodePicture>>;

/** Raw pixels, so that many pieces are cut out of one decoding. */
export const decodePicture = (path: string) => sharp(path).raw().toBuffer({ resolveWithObject: true });

/** @param box undefined for the whole picture */
export async function cutPicture(
  { data, info }: DecodedPicture,
  box: Box | undefined,
  maxWidthPx: number,
): Promise<Cut> {
  const { channels, height, width } = info;
  const showsPx = box ?? { x: 0, y: 0, width, height };
  const bytes = await sharp(data, { raw: { width, height, channels } })
    .extract({ left: showsPx.x, top: showsPx.y, width: showsPx.width, height: showsPx.height })
    .resize({ width: Math.min(showsPx.width, maxWidthPx) })
    .webp({ quality: 88 })
    .toBuffer();
  return { dataUri: `data:image/webp;base64,${bytes.toString('base64')}`, showsPx };
}
