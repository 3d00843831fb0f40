/** Words of one colour each: a link or a warning in a sentence is measured apart from the rest. */
import type { MarkedInk } from './find-ink.ts';
import type { Surface } from './find-surface.ts';
import type { Word } from './find-words.ts';
import type { Area } from './sample-area.ts';

/** Pixels of one colour of writing, as indices into the area: word by word, each from top to bottom. */
export interface Span {
  /** Its words, or its letters where colours change within a word. */
  words: readonly Word[];
  pixels: Int32Array;
  /** Unit vector in RGB from the background to the ink. */
  direction: [number, number, number];
  /** Of the tallest word. */
  heightPx: number;
  /** Some of its words have other colours among their letters, or behind them. */
  isMixed: boolean;
  /** What the strongest pixels of its faintest word or letter reach, as a share of those of its strongest one. */
  faintest: number;
}

interface Coloured {
  words: Word[];
  /** Of each of its words, in order. */
  pixels: Int32Array[];
  sum: [number, number, number];
  /** Levels of 255: what the strongest pixels reach. */
  strength: number;
  /** The least of its words. */
  leastStrength: number;
  /** Share of the pixels that reach it, within a few levels in a hundred. */
  reached: number;
  heightPx: number;
  /** Share of the ink that points elsewhere: an emoji is no span. */
  mixed: number;
  /** The same for as little as another colour of writing points elsewhere. */
  strayed: number;
}

// Cosine of the angle in RGB beyond which two words have different colours; 18 degrees.
const SAME_DIRECTION = 0.95;
const SAME_STRENGTH = 0.8;
const STRAYED_FROM = 0.15;
const SAME_COLOUR = 0.94;
const REACHED = 0.2;
const SAME_STRENGTH_SMALL = 0.5;
// Glyphs of that height have strokes of two pixels and more, unless they are very light.
const THICK_FROM_PX = 28;
const LEFTOVER = 0.3;
const LEAST_SHARE = 0.06;
const LEAST_PIXELS = 24;

export function findSpans(
  area: Area,
  { labels }: MarkedInk,
  words: readonly Word[],
  surface: Surface,
): Span[] {
  const found = colourWords(area, labels, words, surface);
  // colours may change within a word; then each of its letters is looked at, and always where losses hide the change
  const isPacked = area.strayLevels !== undefined;
  const parted = words.flatMap((word, i) =>
    (isPacked || (found[i]?.strayed ?? 0) > STRAYED_FROM) && word.marks.length > 1
      ? word.marks.map((mark): Word => ({ ...mark, marks: [mark] }))
      : [word],
  );
  const isParted = parted.length > words.length;
  const coloured = isParted ? colourWords(area, labels, parted, surface) : found;
  const writing = coloured.filter(({ mixed }) => mixed < 0.35);
  const groups: Coloured[] = [];
  for (const word of (writing.length > 0 ? writing : coloured).sort((a, b) => sizeOf(b) - sizeOf(a))) {
    const group = groups.find((other) => isSame(word, other));
    if (group) join(group, word);
    else groups.push({ ...word, sum: [...word.sum], pixels: [...word.pixels], words: [...word.words] });
  }
  // what a gradient leaves over is faint, and no writing
  const strongest = Math.max(0, ...groups.map(({ strength }) => strength));
  if (!surface.flat)
    groups.splice(0, groups.length, ...groups.filter((of) => of.strength >= strongest * LEFTOVER));
  const total = groups.reduce((sum, group) => sum + sizeOf(group), 0);
  const spans = groups.filter(
    (group, i) => i === 0 || (sizeOf(group) >= total * LEAST_SHARE && sizeOf(group) >= LEAST_PIXELS),
  );
  const isMixed = isParted && !isPacked && words.some((word) => alternates(word, spans));
  return spans.map(({ heightPx, leastStrength, pixels, strength, sum, words: own }) => ({
    words: own,
    pixels: concatenate(pixels),
    faintest: leastStrength / strength,
    direction: unit(sum),
    heightPx,
    isMixed,
  }));
}

/** Within a word colours change once, or twice about its middle; specks among its letters change them more often. */
function alternates({ marks }: Word, spans: readonly Coloured[]): boolean {
  const spanOf = new Map(
    spans.flatMap(({ words }, i) => words.flatMap((of) => of.marks.map((mark) => [mark, i]))),
  );
  const colours = marks.toSorted((a, b) => a.left - b.left).flatMap((mark) => spanOf.get(mark) ?? []);
  return colours.filter((colour, i) => i > 0 && colour !== colours[i - 1]).length > MOST_CHANGES;
}
const MOST_CHANGES = 2;

function colourWords(area: Area, labels: Int32Array, words: readonly Word[], surface: Surface): Coloured[] {
  let highest = 0;
  for (const { marks } of words) for (const { label } of marks) if (label > highest) highest = label;
  const wordOf = new Int32Array(highest + 1);
  const sizes = new Int32Array(words.length);
  words.forEach((word, i) => {
    for (const { count, label } of word.marks) {
      wordOf[label] = i + 1;
      sizes[i]! += count;
    }
  });
  const found = words.map((word, i) => ({
    words: [word],
    pixels: new Int32Array(sizes[i]!),
    sum: [0, 0, 0] as [number, number, number],
    heightPx: word.bottom - word.top + 1,
  }));
  const { colours } = area;
  const { flat, planes } = surface;
  let [red, green, blue] = flat ?? [0, 0, 0];
  const filled = new Int32Array(words.length);
  for (let i = 0; i < labels.length; i++) {
    const label = labels[i]!;
    if (label === 0 || label > highest) continue;
    const word = wordOf[label]! - 1;
    if (word < 0) continue;
    const of = found[word]!;
    if (planes) {
      red = planes[i * 3]!;
      green = planes[i * 3 + 1]!;
      blue = planes[i * 3 + 2]!;
    }
    const colour = colours[i]!;
    of.pixels[filled[word]!] = i;
    filled[word]! += 1;
    of.sum[0] += (colour >> 16) - red;
    of.sum[1] += ((colour >> 8) & 255) - green;
    of.sum[2] += (colour & 255) - blue;
  }
  return found.map((of) => ({ ...of, pixels: [of.pixels], ...measureStrength(of, area, surface) }));
}

// More than the longest way through RGB.
const LEVELS = 443;

function measureStrength(
  { pixels, sum }: { pixels: Int32Array; sum: [number, number, number] },
  { colours }: Area,
  surface: Surface,
): Pick<Coloured, 'strength' | 'leastStrength' | 'reached' | 'mixed' | 'strayed'> {
  const direction = unit(sum);
  const red = direction[0];
  const green = direction[1];
  const blue = direction[2];
  const { flat, planes } = surface;
  let [behindRed, behindGreen, behindBlue] = flat ?? [0, 0, 0];
  const counts = new Uint32Array(LEVELS + 1);
  let off = 0;
  let strayed = 0;
  for (let n = 0; n < pixels.length; n++) {
    const i = pixels[n]!;
    if (planes) {
      behindRed = planes[i * 3]!;
      behindGreen = planes[i * 3 + 1]!;
      behindBlue = planes[i * 3 + 2]!;
    }
    const colour = colours[i]!;
    const dr = (colour >> 16) - behindRed;
    const dg = ((colour >> 8) & 255) - behindGreen;
    const db = (colour & 255) - behindBlue;
    const along = dr * red + dg * green + db * blue;
    counts[along > 0 ? (along + 0.5) | 0 : 0]! += 1;
    const squared = dr * dr + dg * dg + db * db;
    if (squared < 400) continue;
    if (along < 0 || along * along < squared * 0.7225) off += 1;
    if (along < 0 || along * along < squared * SAME_DIRECTION * SAME_DIRECTION) strayed += 1;
  }
  let level = LEVELS;
  for (let left = pixels.length * 0.03; level > 0; level--) {
    left -= counts[level]!;
    if (left < 0) break;
  }
  let reached = 0;
  for (let at = Math.floor(level * 0.97); at <= LEVELS; at++) reached += counts[at]!;
  return {
    strength: level,
    leastStrength: level,
    reached: reached / pixels.length,
    mixed: off / pixels.length,
    strayed: strayed / pixels.length,
  };
}

function isSame(word: Coloured, group: Coloured): boolean {
  const [a, b] = [unit(word.sum), unit(group.sum)];
  const cosine = a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
  if (cosine < SAME_DIRECTION) return false;
  const [less, more] = [Math.min(word.strength, group.strength), Math.max(word.strength, group.strength)];
  // thin strokes differ in strength by where they lie
  const isThin = Math.min(word.heightPx, group.heightPx) < THICK_FROM_PX;
  // both end in a colour of their own, however near to one another
  if (Math.min(word.reached, group.reached) >= REACHED && sizeOf(word) >= LEAST_PIXELS * 2)
    return less >= more * SAME_COLOUR;
  const isSmall = isThin || sizeOf(word) < LEAST_PIXELS * 2;
  return less >= more * (isSmall ? SAME_STRENGTH_SMALL : SAME_STRENGTH);
}

const sizeOf = ({ pixels }: Coloured): number => pixels.reduce((sum, list) => sum + list.length, 0);

function concatenate(lists: readonly Int32Array[]): Int32Array {
  if (lists.length === 1) return lists[0]!;
  const all = new Int32Array(lists.reduce((sum, list) => sum + list.length, 0));
  let at = 0;
  for (const list of lists) {
    all.set(list, at);
    at += list.length;
  }
  return all;
}

function join(group: Coloured, word: Coloured): void {
  group.pixels.push(...word.pixels);
  group.words.push(...word.words);
  for (let c = 0; c < 3; c++) group.sum[c]! += word.sum[c]!;
  group.strength = Math.max(group.strength, word.strength);
  if (sizeOf(word) >= LEAST_PIXELS) group.leastStrength = Math.min(group.leastStrength, word.strength);
  group.heightPx = Math.max(group.heightPx, word.heightPx);
}

function unit([r, g, b]: readonly [number, number, number]): [number, number, number] {
  const length = Math.hypot(r, g, b) || 1;
  return [r / length, g / length, b / length];
}
