/** Pictures in a terminal, by the ways that terminals have for them. */
import sharp, { type Sharp } from 'sharp';
import { FINALIZER, introducer, sixelEncode } from 'sixel';
import type { ProofPicture } from '../core/reports/html/proof.ts';
import type { Io } from './io.ts';

const WAYS = ['kitty', 'iterm', 'sixel'] as const;
export type PictureWay = (typeof WAYS)[number];

/**
 * How this terminal draws pictures, as far as its environment tells; undefined where it does not, or output goes elsewhere.
 * FENLOK_PICTURES names one of them, or `no`.
 */
export function pictureWay({
  env,
  outIsTerminal,
}: Pick<Io, 'env' | 'outIsTerminal'>): PictureWay | undefined {
  if (!outIsTerminal) return undefined;
  const asked = env.FENLOK_PICTURES;
  if (asked) return WAYS.find((way) => way === asked);
  const { TERM = '', TERM_PROGRAM = '' } = env;
  // what stands between does not pass pictures on
  if (env.TMUX || env.STY || /^(screen|tmux)/.test(TERM)) return undefined;
  if (env.KITTY_WINDOW_ID || /kitty|ghostty/.test(TERM)) return 'kitty';
  if (/^(iTerm\.app|WezTerm)$/.test(TERM_PROGRAM)) return 'iterm';
  return /sixel|^(foot|mlterm|yaft)/.test(TERM) ? 'sixel' : undefined;
}

const SIXEL_COLOURS = 256;

/** The picture with its element outlined, as what a terminal is sent; it ends with a line feed. */
export async function drawInTerminal(picture: ProofPicture, way: PictureWay): Promise<string> {
  const outlined = await outline(picture);
  if (way === 'sixel')
    return forSixel(await outlined.png({ palette: true, colours: SIXEL_COLOURS }).toBuffer());
  const png = await outlined.png().toBuffer();
  return way === 'kitty' ? forKitty(png) : forITerm(png);
}

async function outline({ dataUri, elementPx, showsPx }: ProofPicture): Promise<Sharp> {
  const image = sharp(Buffer.from(dataUri.slice(dataUri.indexOf(',') + 1), 'base64'));
  const { width, height } = await image.metadata();
  const { x, y } = elementPx;
  const box = `x="${x - 3}" y="${y - 3}" width="${elementPx.width + 6}" height="${elementPx.height + 6}" rx="4" fill="none"`;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="${showsPx.x} ${showsPx.y} ${showsPx.width} ${showsPx.height}"><rect ${box} stroke="#fff" stroke-width="6"/><rect ${box} stroke="#c02626" stroke-width="3"/></svg>`;
  return image.composite([{ input: Buffer.from(svg) }]);
}

/** DEC STD 070, chapter 9: at most 256 colours, each pixel by the number of its colour. */
async function forSixel(png: Buffer): Promise<string> {
  const { data, info } = await sharp(png).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const palette = new Map<number, [number, number, number]>();
  for (let i = 0; i < data.length; i += 4)
    palette.set((data[i]! << 16) | (data[i + 1]! << 8) | data[i + 2]!, [
      data[i]!,
      data[i + 1]!,
      data[i + 2]!,
    ]);
  return `${introducer(0)}${sixelEncode(data, info.width, info.height, [...palette.values()])}${FINALIZER}\n`;
}

const CHUNK_CHARS = 4096;

/** Terminal graphics protocol of kitty, “Transmit and display”: PNG, in chunks of 4096 characters. */
function forKitty(png: Buffer): string {
  const chunks = png.toString('base64').match(new RegExp(`.{1,${CHUNK_CHARS}}`, 'g'))!;
  const last = chunks.length - 1;
  return `${chunks.map((chunk, i) => `\u001b_G${i === 0 ? 'a=T,f=100,q=2,' : ''}m=${i < last ? 1 : 0};${chunk}\u001b\\`).join('')}\n`;
}

/** Inline images of iTerm2, OSC 1337. */
const forITerm = (png: Buffer): string =>
  `\u001b]1337;File=inline=1;size=${png.length};preserveAspectRatio=1:${png.toString('base64')}\u0007\n`;
