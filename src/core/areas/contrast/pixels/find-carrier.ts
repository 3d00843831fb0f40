/** What a glyph lies on: the screen around its box, or the innermost shape that goes all around it. */
import type { Rgb } from '../colour.ts';
import { markHeight, markWidth } from './find-ink.ts';
import { enclosedBy, type Plains } from './find-plains.ts';
import { type Area, countColours, distance, toRgb } from './sample-area.ts';

// Room around the box, in which what surrounds it is seen.
export const RING_PX = 3;
const LEAST_RING_SHARE = 0.55;
/** Pixels; less is dirt. */
export const LEAST_INK = 12;
/** Levels of 255: what strays no farther is the ground itself. */
export const TOLERANCE = 6;
const MAX_SHAPES = 4;

/** The plain of most of what surrounds the box. */
export function commonestAtEdge(area: Area, { labels }: Plains): number | undefined {
  const counts = new Map<number, number>();
  let total = 0;
  for (let i = 0; i < labels.length; i++) {
    if (!isAtEdge(i, area) || area.colours[i]! < 0) continue;
    total += 1;
    counts.set(labels[i]!, (counts.get(labels[i]!) ?? 0) + 1);
  }
  const [label, count] = [...counts].filter(([of]) => of > 0).sort((a, b) => b[1] - a[1])[0] ?? [0, 0];
  return count >= total * LEAST_RING_SHARE ? label : undefined;
}

export interface Carrier {
  carrier: number;
  /** 1 for each pixel where the glyph may lie. */
  within: Uint8Array;
}

export function innermostCarrier(area: Area, found: Plains, outer: number): Carrier {
  let inner: Carrier = { carrier: outer, within: everywhere(area) };
  for (let depth = 0; depth < MAX_SHAPES; depth++) {
    const shape = shapeWithin(area, found, inner, outer);
    if (!shape) break;
    inner = shape;
  }
  return inner;
}

// What lies on no plain has that label.
const NO_PLAIN = 0;
// Of the area.
const LEAST_FILLED = 0.25;

/** A shape that is the most of the box: where a shadow lies all around it, what surrounds the box is of no one colour. */
export function fillingShape(area: Area, found: Plains): Carrier | undefined {
  let inner: Carrier = { carrier: NO_PLAIN, within: everywhere(area) };
  for (let depth = 0; depth < MAX_SHAPES; depth++) {
    const shape = shapeWithin(area, found, inner, NO_PLAIN);
    const plain = found.plains.find(({ label }) => label === shape?.carrier);
    if (!shape || !plain) return undefined;
    if (plain.count >= area.colours.length * LEAST_FILLED) return shape;
    inner = shape;
  }
  return undefined;
}

// Of a shape's own extent: what it goes around is a glyph, and no speck.
const LEAST_GLYPH_SHARE = 0.2;
const LEAST_SHAPE_PX = 10;

/** The largest plain inside that goes all around something. */
function shapeWithin(
  area: Area,
  { labels, plains }: Plains,
  { carrier, within }: Carrier,
  outer: number,
): Carrier | undefined {
  const { widthPx } = area;
  const inside = plains
    .filter(({ label }) => label !== carrier)
    .filter((plain) => Math.min(markWidth(plain), markHeight(plain)) >= LEAST_SHAPE_PX)
    .sort((a, b) => markWidth(b) * markHeight(b) - markWidth(a) * markHeight(a));
  for (const plain of inside) {
    if (!isWithin(plain.label, labels, within)) continue;
    const enclosed = enclosedBy(plain, labels, widthPx);
    const extent = extentOf(enclosed, widthPx);
    if (!extent || extent.count < LEAST_INK) continue;
    const share = Math.max(markWidth(extent) / markWidth(plain), markHeight(extent) / markHeight(plain));
    if (share < LEAST_GLYPH_SHARE) continue;
    const shape = { plain: plain.label, enclosed };
    if (isOneDrawing(area, labels, { ...shape, carrier })) continue;
    if (goesOnOutside(area, labels, { ...shape, carrier: outer })) continue;
    return { carrier: plain.label, within: enclosed };
  }
  return undefined;
}

const isWithin = (label: number, labels: Int32Array, within: Uint8Array): boolean =>
  within[labels.indexOf(label)] === 1;

interface Enclosing {
  carrier: number;
  plain: number;
  /** 1 for each pixel that the plain goes around. */
  enclosed: Uint8Array;
}

/** Lines of one colour on the screen's own colour, inside and around: a clock's rim and hands are one glyph. */
function isOneDrawing(area: Area, labels: Int32Array, { carrier, enclosed, plain }: Enclosing): boolean {
  const ground = commonColourOf(area, labels, plain);
  if (distance(ground, commonColourOf(area, labels, carrier)) > TOLERANCE) return false;
  const inner = strongest(area, ground, (i) => enclosed[i] === 1);
  // what lies just outside of it, on its way to the screen
  const rim = strongest(
    area,
    ground,
    (i) => labels[i] !== plain && !enclosed[i] && touches(i, plain, labels, area),
  );
  return !!inner && !!rim && distance(inner, rim) <= SAME_INK;
}
const SAME_INK = 40;
const RIM_PX = 3;

/** The specks of a pattern, seen through a ring, lie on the screen around it as well. */
function goesOnOutside(area: Area, labels: Int32Array, { carrier, enclosed, plain }: Enclosing): boolean {
  const ground = commonColourOf(area, labels, plain);
  if (distance(ground, commonColourOf(area, labels, carrier)) > TOLERANCE) return false;
  const inner = strongest(area, ground, (i) => enclosed[i] === 1);
  if (!inner) return false;
  let count = 0;
  for (let i = 0; i < labels.length; i++)
    if (!enclosed[i] && labels[i] !== plain && area.colours[i]! >= 0)
      if (distance(toRgb(area.colours[i]!), inner) <= TOLERANCE) count += 1;
  return count >= LEAST_INK;
}

function touches(i: number, plain: number, labels: Int32Array, { widthPx }: Area): boolean {
  for (let reach = 1; reach <= RIM_PX; reach++)
    for (const at of [i - reach, i + reach, i - reach * widthPx, i + reach * widthPx])
      if (labels[at] === plain) return true;
  return false;
}

/** The colour that differs most from the ground, of those that more than a few pixels have. */
function strongest({ colours }: Area, ground: Rgb, isOf: (i: number) => boolean): Rgb | undefined {
  const off: [number, number][] = [];
  for (let i = 0; i < colours.length; i++)
    if (colours[i]! >= 0 && isOf(i)) off.push([distance(toRgb(colours[i]!), ground), colours[i]!]);
  if (off.length === 0) return undefined;
  off.sort((a, b) => b[0] - a[0]);
  return toRgb(off[Math.floor(off.length * 0.1)]![1]);
}

export function extentOf(mask: Uint8Array, widthPx: number) {
  const extent = { left: widthPx, right: -1, top: -1, bottom: -1, count: 0 };
  for (let i = 0; i < mask.length; i++) {
    if (!mask[i]) continue;
    const y = (i / widthPx) | 0;
    const x = i - y * widthPx;
    extent.left = Math.min(extent.left, x);
    extent.right = Math.max(extent.right, x);
    if (extent.top < 0) extent.top = y;
    extent.bottom = y;
    extent.count += 1;
  }
  return extent.count > 0 ? extent : undefined;
}

export function commonColourOf({ colours }: Area, labels: Int32Array, label: number): Rgb {
  const mask = new Uint8Array(labels.length);
  for (let i = 0; i < labels.length; i++) if (labels[i] === label) mask[i] = 1;
  let [best, most] = [0, 0];
  for (const [colour, count] of countColours(colours, mask)) if (count > most) [best, most] = [colour, count];
  return toRgb(best);
}

export const everywhere = ({ colours }: Area): Uint8Array => new Uint8Array(colours.length).fill(1);

export function isAtEdge(i: number, { heightPx, widthPx }: Area): boolean {
  const y = (i / widthPx) | 0;
  const x = i - y * widthPx;
  return x < RING_PX || y < RING_PX || x >= widthPx - RING_PX || y >= heightPx - RING_PX;
}
