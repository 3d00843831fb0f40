/**
 * The fewest colours of a theme to change so that all of its pairs pass: hue kept, lightness moved as little as possible.
 *
 * Sets of colours are tried by growing size, within a set in every order: each colour takes the nearest lightness at which it
 * passes against those that stay and those that have moved already.
 */
import { contrastRatio, parseHex, type Rgb } from './colour.ts';
import { lightnessSteps, type Suggestion } from './suggest-colour.ts';

export interface PalettePair {
  foreground: string;
  background: string;
  /** 4.5 for text, 3 for large text and icons. */
  required: number;
}

export interface Palette {
  /** `#rrggbb` by name. */
  colours: Readonly<Record<string, string>>;
  pairs: readonly PalettePair[];
}

export interface PaletteChange extends Suggestion {
  name: string;
  from: string;
}

export interface PaletteSuggestion {
  /** Pairs that fail as they are, the worst first. */
  failing: (PalettePair & { ratio: number })[];
  changes: PaletteChange[];
}

// Sets of more colours are not searched: 40 names have ten thousand sets of three.
const MOST_CHANGES = 4;
const MOST_SETS = 20_000;

/**
 * @returns undefined where no change of at most four colours does
 * @throws RangeError where a pair names a colour that is not there, or one that is no `#rrggbb`
 */
export function suggestPalette(palette: Palette): PaletteSuggestion | undefined {
  const colours = readColours(palette);
  const failing = failingPairs(palette.pairs, colours);
  if (failing.length === 0) return { failing, changes: [] };
  const names = [...new Set(failing.flatMap(({ background, foreground }) => [foreground, background]))];
  let tried = 0;
  for (let size = 1; size <= Math.min(MOST_CHANGES, names.length); size++) {
    const solutions: PaletteChange[][] = [];
    for (const set of subsets(names, size)) {
      // every failing pair must have one that moves
      if (
        !failing.every(({ background, foreground }) => set.includes(foreground) || set.includes(background))
      )
        continue;
      if (++tried > MOST_SETS) return undefined;
      for (const order of orders(set)) {
        const changes = moveInOrder(order, palette, colours);
        if (changes) solutions.push(changes);
      }
    }
    const best = solutions.sort((a, b) => totalChange(a) - totalChange(b))[0];
    if (best) return { failing, changes: best.filter(({ colour, from }) => colour !== from) };
  }
  return undefined;
}

function readColours({ colours, pairs }: Palette): Map<string, Rgb> {
  const read = new Map<string, Rgb>();
  for (const [name, hex] of Object.entries(colours)) {
    const rgb = parseHex(hex);
    if (!rgb) throw new RangeError(`${name}: "${hex}" is no colour; write it as #rrggbb`);
    read.set(name, rgb);
  }
  for (const { background, foreground } of pairs)
    for (const name of [foreground, background])
      if (!read.has(name))
        throw new RangeError(`a pair names "${name}", which is none of ${[...read.keys()].join(', ')}`);
  return read;
}

const failingPairs = (pairs: readonly PalettePair[], colours: ReadonlyMap<string, Rgb>) =>
  pairs
    .map((pair) => ({
      ...pair,
      ratio: contrastRatio(colours.get(pair.foreground)!, colours.get(pair.background)!),
    }))
    .filter(({ ratio, required }) => ratio < required)
    .sort((a, b) => a.ratio / a.required - b.ratio / b.required);

function moveInOrder(
  order: readonly string[],
  { colours: written, pairs }: Palette,
  colours: ReadonlyMap<string, Rgb>,
): PaletteChange[] | undefined {
  const now = new Map(colours);
  const changes: PaletteChange[] = [];
  for (const [i, name] of order.entries()) {
    const waiting = order.slice(i + 1);
    const against = pairs.flatMap(({ background, foreground, required }) => {
      const other = foreground === name ? background : background === name ? foreground : undefined;
      return other === undefined || waiting.includes(other) ? [] : [{ rgb: now.get(other)!, required }];
    });
    const found = nearest(colours.get(name)!, against);
    if (!found) return undefined;
    now.set(name, parseHex(found.colour)!);
    changes.push({ name, from: written[name]!.toLowerCase(), ...found });
  }
  return changes;
}

function nearest(colour: Rgb, against: readonly { rgb: Rgb; required: number }[]): Suggestion | undefined {
  for (const { hex, lightnessChange, rgb } of lightnessSteps(colour)) {
    const ratios = against.map((other) => ({ ...other, ratio: contrastRatio(rgb, other.rgb) }));
    if (ratios.every(({ ratio, required }) => ratio >= required))
      return { colour: hex, lightnessChange, ratio: Math.min(21, ...ratios.map(({ ratio }) => ratio)) };
  }
  return undefined;
}

const totalChange = (changes: readonly PaletteChange[]): number =>
  changes.reduce((sum, { lightnessChange }) => sum + lightnessChange, 0);

function* subsets(names: readonly string[], size: number, from = 0): Iterable<string[]> {
  if (size === 0) yield [];
  else
    for (let i = from; i <= names.length - size; i++)
      for (const rest of subsets(names, size - 1, i + 1)) yield [names[i]!, ...rest];
}

function* orders(set: readonly string[]): Iterable<string[]> {
  if (set.length <= 1) yield [...set];
  else
    for (const first of set)
      for (const rest of orders(set.filter((other) => other !== first))) yield [first, ...rest];
}
