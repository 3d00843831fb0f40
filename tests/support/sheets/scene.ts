/**
 * Scenes whose truth is painted: each slot of a sheet holds one small arrangement (a text, an icon on a shape, a chip …) as
 * SVG in dp, its inks apart from what lies under them. The same slot is painted several ways, and what is true of an ink is
 * read from these paintings alone; nothing of the measuring is used.
 */
import type { Rgb } from '../../../src/core/areas/contrast/colour.ts';
import { contrastRatio } from '../../../src/core/areas/contrast/colour.ts';
import type { Pixels } from '../../../src/core/model/ports.ts';

/** What is written or drawn in one colour. */
export interface Part {
  kind: 'text' | 'icon';
  text: string;
  sizeDp: number;
  weight: number;
  paint: string;
  opacity: number;
  /** SVG of the ink in a colour. */
  ink: (paint: string) => string;
  /** SVG of what is drawn over it later. */
  over?: (paint: string) => string;
}

/** What a tree says of a slot, before a toolkit writes it down in its manner. */
export interface Meaning {
  role: 'text' | 'image' | 'icon button' | 'button' | 'chip' | 'field' | 'row' | 'group';
  /** x, y, width, height in dp, within the slot. */
  box: readonly [number, number, number, number];
  text?: string;
  label?: string;
  hint?: string;
  sizeDp?: number;
  weight?: number;
  children?: readonly Meaning[];
}

export interface Slot {
  family: string;
  width: number;
  height: number;
  /** In drawing order: SVG, or the index of a part. */
  layers: readonly (string | number)[];
  parts: readonly Part[];
  meaning: readonly Meaning[];
  /** All parts are one element, which is as good as its worst. */
  joined?: boolean;
}

export interface PlacedSlot extends Slot {
  x: number;
  y: number;
}

export interface Scene {
  widthDp: number;
  heightDp: number;
  scale: number;
  slots: readonly PlacedSlot[];
}

export type Painter = (svg: string, widthPx: number, heightPx: number) => Promise<Pixels>;

/** Places slots one below the other, in two columns where they fit. */
export function arrange(slots: readonly Slot[], scale: number): Scene {
  const [columnWidth, gap] = [COLUMN_DP, 12.3];
  const bottoms = [gap, gap];
  const placed = slots.map((slot): PlacedSlot => {
    const column = bottoms[0]! <= bottoms[1]! ? 0 : 1;
    const at = { x: gap + column * (columnWidth + gap), y: bottoms[column]! };
    bottoms[column]! += slot.height + gap;
    return { ...slot, ...at };
  });
  return {
    widthDp: Math.ceil(gap * 3 + columnWidth * 2),
    heightDp: Math.ceil(Math.max(...bottoms)),
    scale,
    slots: placed,
  };
}
export const COLUMN_DP = 300;

export const widthPxOf = ({ scale, widthDp }: Scene): number => Math.round(widthDp * scale);
export const heightPxOf = ({ heightDp, scale }: Scene): number => Math.round(heightDp * scale);

const inked = ({ ink, opacity, paint }: Part): string => `<g opacity="${opacity}">${ink(paint)}</g>`;

const svgOf = (scene: Scene, page: string, draw: (slot: PlacedSlot) => string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="${widthPxOf(scene)}" height="${heightPxOf(scene)}"><rect width="100%" height="100%" fill="${page}"/><g transform="scale(${scene.scale})">${scene.slots
    .map((slot) => `<g transform="translate(${slot.x.toFixed(2)} ${slot.y.toFixed(2)})">${draw(slot)}</g>`)
    .join('\n')}</g></svg>`;

/** As a person sees it. */
export const fullSvg = (scene: Scene, page: string): string =>
  svgOf(scene, page, ({ layers, parts }) =>
    layers.map((layer) => (typeof layer === 'string' ? layer : inked(parts[layer]!))).join(''),
  );

/** Without any ink. */
const blankSvg = (scene: Scene, page: string): string =>
  svgOf(scene, page, ({ layers }) => layers.filter((layer) => typeof layer === 'string').join(''));

/** The k-th ink of each slot laid over all of it. */
const solidSvg = (scene: Scene, page: string, k: number): string =>
  svgOf(scene, page, ({ height, layers, parts, width }) => {
    const part = parts[k];
    const under = layers.filter((layer) => typeof layer === 'string').join('');
    return part
      ? `${under}<g opacity="${part.opacity}"><rect x="-6" y="-6" width="${width + 12}" height="${height + 12}" fill="${part.paint}"/></g>`
      : under;
  });

/** The k-th ink alone, black on white: how much of each pixel it covers. */
const maskSvg = (scene: Scene, k: number): string =>
  svgOf(scene, '#ffffff', ({ parts }) => {
    const part = parts[k];
    return part ? part.ink('#000000') + (part.over?.('#ffffff') ?? '') : '';
  });

export interface PartTruth {
  slot: PlacedSlot;
  part: Part;
  /** Of its ink, in pixels. */
  inkPx: { x: number; y: number; width: number; height: number };
  /** The worst legible stretch: see docs/accuracy.md. */
  ratio: number;
}

export interface PaintedSheet {
  scene: Scene;
  pixels: Pixels;
  truths: PartTruth[];
}

export async function paintSheet(scene: Scene, page: string, painter: Painter): Promise<PaintedSheet> {
  const paint = (svg: string) => painter(svg, widthPxOf(scene), heightPxOf(scene));
  const pixels = await paint(fullSvg(scene, page));
  const blank = await paint(blankSvg(scene, page));
  const most = Math.max(...scene.slots.map(({ parts }) => parts.length));
  const truths: PartTruth[] = [];
  for (let k = 0; k < most; k++) {
    const solid = await paint(solidSvg(scene, page, k));
    const mask = await paint(maskSvg(scene, k));
    for (const slot of scene.slots) {
      const part = slot.parts[k];
      const truth = part && worstStretch(scene.scale, slot, part, { blank, mask, solid });
      if (part && truth) truths.push({ slot, part, ...truth });
    }
  }
  return { scene, pixels, truths };
}

// Of the ink in the fullest stretch: what has less is the end of a word.
const LEAST_OF_FULLEST = 0.25;

/** Mean ink against mean background under its glyphs, of all stretches of an em (half an icon) the one that contrasts least. */
export function worstStretch(
  scale: number,
  slot: Pick<PlacedSlot, 'x' | 'y' | 'width' | 'height'>,
  part: Pick<Part, 'kind' | 'sizeDp'>,
  { blank, mask, solid }: { blank: Pixels; mask: Pixels; solid: Pixels },
): Pick<PartTruth, 'inkPx' | 'ratio'> | undefined {
  const { data, heightPx, widthPx } = mask;
  const [x0, y0] = [
    Math.max(0, Math.floor((slot.x - 6) * scale)),
    Math.max(0, Math.floor((slot.y - 6) * scale)),
  ];
  const [x1, y1] = [
    Math.min(widthPx, Math.ceil((slot.x + slot.width + 6) * scale)),
    Math.min(heightPx, Math.ceil((slot.y + slot.height + 6) * scale)),
  ];
  const columns: number[][] = Array.from({ length: x1 - x0 }, () => [0, 0, 0, 0, 0, 0, 0]);
  let [left, right, top, bottom] = [x1, -1, y1, -1];
  // the most covered pixels, where thin ink covers none wholly
  let most = 0;
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++) {
      const cover = 255 - data[(y * widthPx + x) * 4]!;
      if (cover > most) most = cover;
    }
  if (most < 20) return undefined;
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++) {
      const at = (y * widthPx + x) * 4;
      const cover = 255 - data[at]!;
      if (cover < 24) continue;
      if (x < left) left = x;
      if (x > right) right = x;
      if (y < top) top = y;
      bottom = y;
      if (cover < most * 0.5) continue;
      const sums = columns[x - x0]!;
      sums[0]! += 1;
      for (let c = 0; c < 3; c++) {
        sums[1 + c]! += solid.data[at + c]!;
        sums[4 + c]! += blank.data[at + c]!;
      }
    }
  const length = Math.max(4, Math.round(part.kind === 'text' ? part.sizeDp * scale : (right - left + 1) / 2));
  const stretches: number[][] = [];
  for (let from = left - x0; from <= right - x0; from++) {
    const sum = [0, 0, 0, 0, 0, 0, 0];
    for (let at = from; at < Math.min(columns.length, from + length); at++)
      for (let n = 0; n < 7; n++) sum[n]! += columns[at]![n]!;
    stretches.push(sum);
  }
  const fullest = Math.max(...stretches.map(([count]) => count!));
  const ratios = stretches
    .filter(([count]) => count! >= fullest * LEAST_OF_FULLEST && count! > 0)
    .map(([count, r, g, b, r2, g2, b2]) =>
      contrastRatio(
        [r! / count!, g! / count!, b! / count!] as Rgb,
        [r2! / count!, g2! / count!, b2! / count!] as Rgb,
      ),
    );
  return {
    inkPx: { x: left, y: top, width: right - left + 1, height: bottom - top + 1 },
    ratio: Math.min(...ratios),
  };
}
