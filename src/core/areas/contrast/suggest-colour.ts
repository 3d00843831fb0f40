/** The nearest colour that passes: hue kept, lightness changed as little as possible (OKLCH, CSS Color 4, section 9.4). */
import { clampChroma, modeOklch, modeRgb, useMode } from 'culori/fn';
import { contrastRatio, type Rgb, toHex } from './colour.ts';

const oklch = useMode(modeOklch);
const rgb = useMode(modeRgb);

const STEPS = 200;

export interface Suggestion {
  colour: string;
  /** Ratio of the suggested colour as rounded to 8 bits, against the colour that stays. */
  ratio: number;
  /** How far the lightness had to move, 0 to 1 (OKLCH L). */
  lightnessChange: number;
}

/**
 * Moves `colour` away from or towards `against` until the ratio is at least `required`.
 *
 * @returns undefined where no lightness of this hue reaches it
 */
export function suggestColour(colour: Rgb, against: Rgb, required: number): Suggestion | undefined {
  const key = [...colour, ...against, required].join();
  // an app has few pairs of colours, on many screens
  if (!suggested.has(key)) {
    if (suggested.size >= MOST_KEPT) suggested.clear();
    suggested.set(key, nearestThatPasses(colour, against, required));
  }
  return suggested.get(key);
}

const MOST_KEPT = 5000;
const suggested = new Map<string, Suggestion | undefined>();

function nearestThatPasses(colour: Rgb, against: Rgb, required: number): Suggestion | undefined {
  let best: Suggestion | undefined;
  for (const { hex, lightnessChange, rgb: candidate } of lightnessSteps(colour)) {
    // darker and lighter at the same distance: the one that passes by less
    if (best && lightnessChange > best.lightnessChange) return best;
    const ratio = contrastRatio(candidate, against);
    if (ratio >= required && (!best || ratio < best.ratio)) best = { colour: hex, ratio, lightnessChange };
  }
  return best;
}

interface LightnessStep {
  rgb: Rgb;
  hex: string;
  lightnessChange: number;
}

/** The colour itself, then darker and lighter by growing distance, each rounded to 8 bits. */
export function* lightnessSteps(colour: Rgb): Iterable<LightnessStep> {
  const start = oklch({ mode: 'rgb', r: colour[0] / 255, g: colour[1] / 255, b: colour[2] / 255 });
  for (let step = 0; step <= STEPS; step++)
    // held at the ends, so that black and white themselves are tried
    for (const l of [Math.max(0, start.l - step / STEPS), Math.min(1, start.l + step / STEPS)]) {
      const candidate = to8Bits(rgb(clampChroma({ ...start, l }, 'oklch')));
      yield { rgb: candidate, hex: toHex(candidate), lightnessChange: step / STEPS };
    }
}

// A suggestion that moves lightness further than this is given only where there is no nearer one.
const FAR_LIGHTNESS = 0.3;

/** Nearest colours for the text and for the background; white made black is left out where the other need only shift a little. */
export function suggestColours(
  text: Rgb,
  background: Rgb,
  required: number,
): { text?: Suggestion; background?: Suggestion } {
  const forText = suggestColour(text, background, required);
  const forBackground = suggestColour(background, text, required);
  const nearest = Math.min(forText?.lightnessChange ?? 1, forBackground?.lightnessChange ?? 1);
  const near = (suggestion: Suggestion | undefined) =>
    suggestion && suggestion.lightnessChange <= Math.max(nearest, FAR_LIGHTNESS) ? suggestion : undefined;
  return { text: near(forText), background: near(forBackground) };
}

const to8Bits = ({ r, g, b }: { r: number; g: number; b: number }): Rgb => {
  const channel = (value: number) => Math.min(255, Math.max(0, Math.round(value * 255)));
  return [channel(r), channel(g), channel(b)];
};
