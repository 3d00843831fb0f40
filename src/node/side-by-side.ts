/** Two pictures beside each other, with boxes around what differs. */
import sharp from 'sharp';
import type { Box } from '../core/model/geometry.ts';

const GAP_PX = 24;
const BOX = { colour: '#cd4828', widthPx: 6 };

/** @param boxes on the picture at the right @returns a PNG */
export async function sideBySide(
  left: Uint8Array,
  right: Uint8Array,
  boxes: readonly Box[],
): Promise<Uint8Array> {
  const sizes = await Promise.all([left, right].map((png) => sharp(png).metadata()));
  const [a, b] = sizes.map(({ height, width }) => ({ width: width ?? 1, height: height ?? 1 }));
  const shift = a!.width + GAP_PX;
  const outlines = boxes
    .map(
      ({ height, width, x, y }) =>
        `<rect x="${x}" y="${y}" width="${Math.max(1, width)}" height="${Math.max(1, height)}" fill="none" stroke="${BOX.colour}" stroke-width="${BOX.widthPx}"/>`,
    )
    .join('');
  const overlay = `<svg xmlns="http://www.w3.org/2000/svg" width="${b!.width}" height="${b!.height}">${outlines}</svg>`;
  const png = await sharp({
    create: {
      width: shift + b!.width,
      height: Math.max(a!.height, b!.height),
      channels: 3,
      background: '#707a83',
    },
  })
    .composite([
      { input: Buffer.from(left), left: 0, top: 0 },
      { input: Buffer.from(right), left: shift, top: 0 },
      ...(boxes.length > 0 ? [{ input: Buffer.from(overlay), left: shift, top: 0 }] : []),
    ])
    .png()
    .toBuffer();
  return new Uint8Array(png);
}
