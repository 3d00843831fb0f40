import { z } from 'zod';

export const themeSchema = z.enum(['light', 'dark']);
export const orientationSchema = z.enum(['portrait', 'landscape']);

/** Where a fact of a capture was seen: one cell of the coverage. Pairs (light and dark, 100 % and 200 %) are joined on it. */
export const cellSchema = z.strictObject({
  screen: z.string().min(1),
  /** What was done before the capture was taken: `as-is` is the screen as it opens. */
  procedure: z.string().default('as-is'),
  step: z.string().default(''),
  device: z.string().default('unnamed'),
  /** BCP 47. */
  locale: z.string(),
  theme: themeSchema,
  textScale: z.number().min(0.5).max(4).default(1),
  orientation: orientationSchema.default('portrait'),
});
export type Theme = z.infer<typeof themeSchema>;
export type Orientation = z.infer<typeof orientationSchema>;
export type Cell = z.infer<typeof cellSchema>;

/** Of what is told of the app as a whole, by something else than a drill. */
export const appCell = (procedure: string): Cell => ({
  screen: 'app',
  procedure,
  step: '',
  device: '',
  locale: 'en',
  theme: 'light',
  textScale: 1,
  orientation: 'portrait',
});

/** For people: `booking, dark, de`, with only what differs from the ordinary. */
export function formatCell(cell: Cell): string {
  const parts = [cell.screen, cell.theme, cell.locale];
  if (cell.procedure !== 'as-is') parts.push(cell.procedure);
  if (cell.step) parts.push(cell.step);
  if (cell.textScale !== 1) parts.push(`text ${Math.round(cell.textScale * 100)} %`);
  if (cell.orientation !== 'portrait') parts.push(cell.orientation);
  return parts.join(', ');
}
