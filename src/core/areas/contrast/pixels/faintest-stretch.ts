/** What the strokes of a text lie on where nothing is of one colour, and where along its lines that contrasts least. */
import { contrastRatio, type Rgb, relativeLuminance } from '../colour.ts';
import type { Ink } from './find-ink.ts';
import type { Area } from './sample-area.ts';

/** What each pixel of ink lies on. */
export interface Background {
  /** Index of each in the area. */
  at: Int32Array;
  /** Line of writing of each, and its column in pixels. */
  lines: Int32Array;
  columns: Int32Array;
  /** Red, green and blue of each. */
  rgb: Float64Array;
}

// How far around a pixel of ink its background is looked for, as shares of the tallest letter: the nearest first.
const REACHES = [0.06, 0.12, 0.18, 0.25, 0.5];
const LEAST_SEEN = 6;
// Antialiasing mixes what is nearer to a stroke.
const MIXED_PX = 2;

/**
 * The mean of what is seen around each pixel of ink, from sums over all that lies above and to the left of a place.
 *
 * @param ink 1 for each pixel of the area that has the text's own colour
 */
export function backgroundUnder(
  { colours, heightPx, widthPx }: Area,
  ink: Uint8Array,
  tallestPx: number,
): Background {
  const mixed = dilate(ink, widthPx, heightPx, MIXED_PX);
  const wide = widthPx + 1;
  // count, red, green and blue
  const sums = new Float64Array(wide * (heightPx + 1) * 4);
  for (let y = 0; y < heightPx; y++) {
    let [count, red, green, blue] = [0, 0, 0, 0];
    for (let x = 0, i = y * widthPx; x < widthPx; x++, i++) {
      const colour = colours[i]!;
      if (colour >= 0 && !mixed[i]) {
        count += 1;
        red += colour >> 16;
        green += (colour >> 8) & 255;
        blue += colour & 255;
      }
      const to = ((y + 1) * wide + x + 1) * 4;
      const above = to - wide * 4;
      sums[to] = sums[above]! + count;
      sums[to + 1] = sums[above + 1]! + red;
      sums[to + 2] = sums[above + 2]! + green;
      sums[to + 3] = sums[above + 3]! + blue;
    }
  }
  const reaches = REACHES.map((share) => Math.max(3, Math.round(tallestPx * share)));
  const lineOf = linesOf(ink, widthPx);
  let inked = 0;
  for (let i = 0; i < ink.length; i++) if (ink[i]) inked += 1;
  const at = new Int32Array(inked);
  const lines = new Int32Array(inked);
  const columns = new Int32Array(inked);
  const rgb = new Float64Array(inked * 3);
  let n = 0;
  for (let y = 0, i = 0; y < heightPx; y++)
    for (let x = 0; x < widthPx; x++, i++) {
      if (!ink[i]) continue;
      for (const reach of reaches) {
        const top = Math.max(0, y - reach) * wide;
        const bottom = Math.min(heightPx, y + reach + 1) * wide;
        const left = Math.max(0, x - reach);
        const right = Math.min(widthPx, x + reach + 1);
        const [a, b, c, d] = [(bottom + right) * 4, (bottom + left) * 4, (top + right) * 4, (top + left) * 4];
        const count = sums[a]! - sums[b]! - sums[c]! + sums[d]!;
        if (count < LEAST_SEEN) continue;
        at[n] = i;
        lines[n] = lineOf[y]!;
        columns[n] = x;
        for (let part = 1; part < 4; part++)
          rgb[n * 3 + part - 1] =
            (sums[a + part]! - sums[b + part]! - sums[c + part]! + sums[d + part]!) / count;
        n += 1;
        break;
      }
    }
  return {
    at: at.subarray(0, n),
    lines: lines.subarray(0, n),
    columns: columns.subarray(0, n),
    rgb: rgb.subarray(0, n * 3),
  };
}

/** The same, where what lies behind is known for each pixel. */
export function underInk({ ink, widthPx }: Ink, planes: Float32Array): Background {
  const lineOf = linesOf(ink, widthPx);
  const at: number[] = [];
  for (let i = 0; i < ink.length; i++) if (ink[i]) at.push(i);
  return {
    at: Int32Array.from(at),
    lines: Int32Array.from(at, (i) => lineOf[Math.floor(i / widthPx)]!),
    columns: Int32Array.from(at, (i) => i % widthPx),
    rgb: Float64Array.from(at.flatMap((i) => [planes[i * 3]!, planes[i * 3 + 1]!, planes[i * 3 + 2]!])),
  };
}

/** What lies behind each pixel of ink, where all others are left at 0. */
export function planesOf({ at, rgb }: Background, { colours }: Area): Float32Array {
  const planes = new Float32Array(colours.length * 3);
  for (let n = 0; n < at.length; n++) for (let c = 0; c < 3; c++) planes[at[n]! * 3 + c] = rgb[n * 3 + c]!;
  return planes;
}

// Of the tallest line: accents stand no higher, and tone marks above vowel signs no farther off.
const ACCENT = { height: 0.5, gap: 0.8 };
// Lines of writing stand farther apart than a letter and the signs above it.
const SAME_LINE = 0.12;

/** Of each row which line it belongs to: rows with ink, between rows without any, are one, with the accents above and below. */
function linesOf(ink: Uint8Array, widthPx: number): Int32Array {
  const bands: { top: number; bottom: number; line: number }[] = [];
  const height = ink.length / widthPx;
  for (let y = 0; y < height; y++) {
    if (!ink.subarray(y * widthPx, (y + 1) * widthPx).includes(1)) continue;
    const last = bands.at(-1);
    if (last?.bottom === y - 1) last.bottom = y;
    else bands.push({ top: y, bottom: y, line: bands.length });
  }
  const tallest = Math.max(0, ...bands.map(({ bottom, top }) => bottom - top + 1));
  for (const [i, band] of bands.entries()) {
    const above = bands[i - 1];
    if (above && band.top - above.bottom - 1 <= tallest * SAME_LINE) band.line = above.line;
  }
  for (const band of bands) {
    if (band.bottom - band.top + 1 >= tallest * ACCENT.height) continue;
    const gapTo = (other: typeof band) => Math.max(other.top - band.bottom, band.top - other.bottom) - 1;
    const [nearest] = bands
      .filter((other) => other.bottom - other.top + 1 >= tallest * ACCENT.height)
      .filter((other) => gapTo(other) <= tallest * ACCENT.gap)
      .sort((a, b) => gapTo(a) - gapTo(b));
    if (nearest) band.line = nearest.line;
  }
  const lines = new Int32Array(height);
  for (const { bottom, line, top } of bands) lines.fill(line, top, bottom + 1);
  return lines;
}

export interface Stretch {
  background: Rgb;
  /** Against the mean of what the stretch lies on. */
  ratio: number;
  /** Where what it lies on changes so much that the mean says little: the ratio of its faintest fifth. */
  lowest: number;
  /** The same of its strongest fifth. */
  highest: number;
  /** Of its faintest and of its strongest fifth, however much that says. */
  fifths: [number, number];
  /** Of all stretches. */
  meanRatio: number;
}

// So many steps to the length of a stretch.
const STEPS = 8;
const LEAST_PIXELS = 12;
// Of the ink in the fullest one: what has less is the end of a word.
const LEAST_OF_FULLEST = 0.25;
// Of a spread that is even, a fifth lies beyond so many standard deviations.
const FAINTEST_FIFTH = 0.84;
const HARDLY_LESS = 1.25;

/** Of all stretches of that length along the lines, the one that contrasts least. */
export function faintestStretch(
  { columns, lines, rgb }: Background,
  foreground: Rgb,
  lengthPx: number,
): Stretch | undefined {
  const step = Math.max(1, Math.round(lengthPx / STEPS));
  const steps = new Map<number, Sums>();
  let lastKey = -1;
  let sums: Sums = [0, 0, 0, 0, 0];
  for (let i = 0; i < columns.length; i++) {
    const key = lines[i]! * 100_000 + Math.floor(columns[i]! / step);
    // of neighbours most fall into one step
    if (key !== lastKey) {
      sums = steps.get(key) ?? [0, 0, 0, 0, 0];
      steps.set(key, sums);
      lastKey = key;
    }
    const [r, g, b] = [rgb[i * 3]!, rgb[i * 3 + 1]!, rgb[i * 3 + 2]!];
    sums[0] += 1;
    sums[1] += r;
    sums[2] += g;
    sums[3] += b;
    sums[4] += (LUMA_RED * r + LUMA_GREEN * g + LUMA_BLUE * b) ** 2;
  }
  const stretches = [...steps.keys()].map((first) => {
    const whole: Sums = [0, 0, 0, 0, 0];
    for (let at = first; at < first + STEPS; at++) add(whole, steps.get(at) ?? []);
    return whole;
  });
  const fullest = Math.max(...stretches.map(([count]) => count));
  const seen = stretches
    .filter(([count]) => count >= Math.max(LEAST_PIXELS, fullest * LEAST_OF_FULLEST))
    .map((sums) => contrastOn(sums, foreground));
  if (seen.length === 0) return undefined;
  const faintest = seen.reduce((least, one) => (one.ratio < least.ratio ? one : least));
  return {
    ...faintest,
    lowest: Math.min(...seen.map(({ lowest }) => lowest)),
    fifths: [Math.min(...seen.map(({ fifths }) => fifths[0])), faintest.fifths[1]],
    meanRatio: seen.reduce((sum, { ratio }) => sum + ratio, 0) / seen.length,
  };
}

/** Of pixels: how many, their red, green and blue, and the square of their luma. */
type Sums = [count: number, red: number, green: number, blue: number, squares: number];

function add(sums: Sums, more: readonly number[]): void {
  for (let part = 0; part < more.length; part++) sums[part]! += more[part]!;
}

function contrastOn([count, red, green, blue, squares]: Sums, foreground: Rgb) {
  const background: Rgb = [red / count, green / count, blue / count];
  const ratio = contrastRatio(foreground, background);
  const deviation = Math.sqrt(Math.max(0, squares / count - luma(background) ** 2));
  const isLighter = relativeLuminance(foreground) > relativeLuminance(background);
  const shifted = (by: number): number => {
    const fifth = background.map((level) => Math.max(0, Math.min(255, level + by))) as unknown as Rgb;
    return relativeLuminance(foreground) > relativeLuminance(fifth) === isLighter
      ? contrastRatio(foreground, fifth)
      : 1;
  };
  const nearer = deviation * FAINTEST_FIFTH * (isLighter ? 1 : -1);
  const fifths: [number, number] = [shifted(nearer), shifted(-nearer)];
  // where it hardly changes, the mean says it all
  const isEven = fifths[0] * HARDLY_LESS >= ratio;
  return {
    background,
    ratio,
    fifths,
    lowest: isEven ? ratio : fifths[0],
    highest: isEven ? ratio : fifths[1],
  };
}

// Of brightness as seen (BT.709, section 3).
const [LUMA_RED, LUMA_GREEN, LUMA_BLUE] = [0.2126, 0.7152, 0.0722];

const luma = ([r, g, b]: Rgb): number => LUMA_RED * r + LUMA_GREEN * g + LUMA_BLUE * b;

/** Everything within so many pixels of it, in a square. */
function dilate(mask: Uint8Array, widthPx: number, heightPx: number, reach: number): Uint8Array {
  const across = new Uint8Array(mask.length);
  for (let y = 0; y < heightPx; y++) {
    let since = Number.POSITIVE_INFINITY;
    for (let x = 0; x < widthPx; x++) {
      since = mask[y * widthPx + x] ? 0 : since + 1;
      if (since <= reach) across[y * widthPx + x] = 1;
    }
    since = Number.POSITIVE_INFINITY;
    for (let x = widthPx - 1; x >= 0; x--) {
      since = mask[y * widthPx + x] ? 0 : since + 1;
      if (since <= reach) across[y * widthPx + x] = 1;
    }
  }
  const found = new Uint8Array(mask.length);
  for (let x = 0; x < widthPx; x++) {
    let since = Number.POSITIVE_INFINITY;
    for (let y = 0; y < heightPx; y++) {
      since = across[y * widthPx + x] ? 0 : since + 1;
      if (since <= reach) found[y * widthPx + x] = 1;
    }
    since = Number.POSITIVE_INFINITY;
    for (let y = heightPx - 1; y >= 0; y--) {
      since = across[y * widthPx + x] ? 0 : since + 1;
      if (since <= reach) found[y * widthPx + x] = 1;
    }
  }
  return found;
}
