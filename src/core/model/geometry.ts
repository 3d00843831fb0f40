import { z } from 'zod';

/** A rectangle in picture pixels, origin at the top left. */
export const boxSchema = z.strictObject({
  x: z.number(),
  y: z.number(),
  width: z.number().min(0),
  height: z.number().min(0),
});
export type Box = z.infer<typeof boxSchema>;

export const area = (box: Box): number => box.width * box.height;

/** The part that two boxes share; zero-sized where they share none. */
export function intersect(a: Box, b: Box): Box {
  const x = Math.max(a.x, b.x);
  const y = Math.max(a.y, b.y);
  return {
    x,
    y,
    width: Math.max(0, Math.min(a.x + a.width, b.x + b.width) - x),
    height: Math.max(0, Math.min(a.y + a.height, b.y + b.height) - y),
  };
}

/** Pixels to density-independent pixels: dp = px × 160 / dpi (Android, *Support different pixel densities*). */
export const pxToDp = (px: number, densityDpi: number): number => (px * 160) / densityDpi;
