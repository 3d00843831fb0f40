/**
 * Plains of a picture: pixels that hang together with no more than a small step from one to the next. A plain is of one
 * colour, or changes slowly; edges, thin strokes and grain belong to none.
 */
import type { Area } from './sample-area.ts';

export interface Plain {
  /** What its pixels have in `Plains.labels`. */
  label: number;
  count: number;
  left: number;
  right: number;
  top: number;
  bottom: number;
}

export interface Plains {
  /** The plain of each pixel; 0 where there is none. */
  labels: Int32Array;
  /** The largest first. */
  plains: Plain[];
}

// Levels of 255 from one pixel to the next: more is an edge. Lossy packing wants more room.
const STEP = 2;
const NOISY_STEP = 6;
const LEAST_EQUAL = 0.4;
const LEAST_PIXELS = 12;

export function findPlains(area: Area, step = stepOf(area)): Plains {
  const { colours, heightPx, widthPx } = area;
  const parents = new Int32Array(colours.length);
  for (let i = 0; i < parents.length; i++) parents[i] = i;
  const find = (of: number): number => {
    let root = of;
    while (parents[root] !== root) root = parents[root]!;
    for (let at = of; parents[at] !== root; ) {
      const next = parents[at]!;
      parents[at] = root;
      at = next;
    }
    return root;
  };
  for (let y = 0; y < heightPx; y++)
    for (let x = 0, i = y * widthPx; x < widthPx; x++, i++) {
      const colour = colours[i]!;
      if (colour < 0) continue;
      if (x > 0 && isNear(colour, colours[i - 1]!, step)) parents[i] = parents[i - 1]!;
      if (y === 0 || !isNear(colour, colours[i - widthPx]!, step)) continue;
      if (parents[i] === parents[i - widthPx]) continue;
      const [a, b] = [find(i), find(i - widthPx)];
      if (a < b) parents[b] = a;
      else if (b < a) parents[a] = b;
    }
  return collect(area, parents);
}

function collect({ colours, widthPx }: Area, parents: Int32Array): Plains {
  const counts = new Int32Array(parents.length);
  // a parent lies before its children, so that one pass leads each pixel to its root
  for (let i = 0; i < parents.length; i++) {
    const root = parents[parents[i]!]!;
    parents[i] = root;
    if (colours[i]! >= 0) counts[root]! += 1;
  }
  const found: Plain[] = [];
  const labelOf = new Int32Array(parents.length);
  const labels = new Int32Array(parents.length);
  for (let i = 0, x = 0, y = 0; i < parents.length; i++, x++) {
    if (x === widthPx) {
      x = 0;
      y += 1;
    }
    const root = parents[i]!;
    if (colours[i]! < 0 || counts[root]! < LEAST_PIXELS) continue;
    if (labelOf[root] === 0) {
      found.push({ label: found.length + 1, count: counts[root]!, left: x, right: x, top: y, bottom: y });
      labelOf[root] = found.length;
    }
    const plain = found[labelOf[root]! - 1]!;
    if (x < plain.left) plain.left = x;
    if (x > plain.right) plain.right = x;
    plain.bottom = y;
    labels[i] = plain.label;
  }
  return { labels, plains: found.sort((a, b) => b.count - a.count) };
}

function isNear(a: number, b: number, step: number): boolean {
  if (a === b) return true;
  if (b < 0) return false;
  const red = (a >> 16) - (b >> 16);
  const green = ((a >> 8) & 255) - ((b >> 8) & 255);
  const blue = (a & 255) - (b & 255);
  return red <= step && red >= -step && green <= step && green >= -step && blue <= step && blue >= -step;
}

/** Where few neighbours are equal to the level, the picture was packed with losses. */
function stepOf({ colours, widthPx }: Area): number {
  let equal = 0;
  let near = 0;
  for (let i = 1; i < colours.length; i++) {
    if (i % widthPx === 0) continue;
    if (colours[i] === colours[i - 1]) equal += 1;
    else if (isNear(colours[i]!, colours[i - 1]!, NOISY_STEP)) near += 1;
  }
  return equal >= (equal + near) * LEAST_EQUAL ? STEP : NOISY_STEP;
}

/** What of an area a plain goes all around: 1 for each pixel that is not of it and cannot be left without crossing it. */
export function enclosedBy(
  { bottom, label, left, right, top }: Plain,
  labels: Int32Array,
  widthPx: number,
): Uint8Array {
  const enclosed = new Uint8Array(labels.length);
  for (let y = top; y <= bottom; y++)
    for (let i = y * widthPx + left; i <= y * widthPx + right; i++) enclosed[i] = labels[i] === label ? 0 : 1;
  const stack: number[] = [];
  const leave = (i: number) => {
    if (!enclosed[i]) return;
    enclosed[i] = 0;
    stack.push(i);
  };
  for (let x = left; x <= right; x++) {
    leave(top * widthPx + x);
    leave(bottom * widthPx + x);
  }
  for (let y = top; y <= bottom; y++) {
    leave(y * widthPx + left);
    leave(y * widthPx + right);
  }
  // outside of the plain's bounds nothing is marked, so that nothing is left there
  while (stack.length > 0) {
    const i = stack.pop()!;
    const x = i % widthPx;
    if (x > 0) leave(i - 1);
    if (x < widthPx - 1) leave(i + 1);
    if (i >= widthPx) leave(i - widthPx);
    if (i < labels.length - widthPx) leave(i + widthPx);
  }
  return enclosed;
}
