import { parseHex, type Rgb, toHex } from './colour.ts';

/** To steps of eight levels: another language's glyphs may show a level more or less of the same colour. */
export const roundColour = (hex: string): string =>
  toHex(parseHex(hex)!.map((channel) => Math.min(255, Math.round(channel / 8) * 8)) as unknown as Rgb);
