/** A screen with what a screen reader meets on it, numbered, and what is wrong outlined. */
import sharp from 'sharp';
import type { Box } from '../core/model/geometry.ts';

const STOP = '#0e847a';
const WRONG = '#cd4828';
// Of the picture's width.
const NUMBER = 0.026;

/** @returns a PNG */
export async function pictureOfStops(
  png: Uint8Array,
  stops: readonly { boundsPx: Box }[],
  wrong: readonly Box[],
): Promise<Uint8Array> {
  const { height = 1, width = 1 } = await sharp(png).metadata();
  const size = Math.max(12, Math.round(width * NUMBER));
  const rect = ({ height: high, width: wide, x, y }: Box, colour: string, strokePx: number) =>
    `<rect x="${x}" y="${y}" width="${Math.max(1, wide)}" height="${Math.max(1, high)}" fill="none" stroke="${colour}" stroke-width="${strokePx}"/>`;
  const numbers = stops.map(({ boundsPx: { x, y } }, i) => {
    const label = String(i + 1);
    const wide = Math.round(size * (0.7 + 0.6 * label.length));
    // beside the box, so that it hides no text in it
    const left = Math.max(0, x - wide);
    return `<rect x="${left}" y="${y}" width="${wide}" height="${size * 1.3}" fill="${STOP}"/><text x="${left + wide / 2}" y="${y + size}" font-size="${size}" font-family="sans-serif" fill="#fff" text-anchor="middle">${label}</text>`;
  });
  const overlay = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${[
    ...stops.map(({ boundsPx }) => rect(boundsPx, STOP, Math.max(1, size / 12))),
    ...wrong.map((box) => rect(box, WRONG, Math.max(2, size / 5))),
    ...numbers,
  ].join('')}</svg>`;
  const drawn = await sharp(png)
    .composite([{ input: Buffer.from(overlay), left: 0, top: 0 }])
    .png()
    .toBuffer();
  return new Uint8Array(drawn);
}
