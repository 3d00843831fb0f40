/**
 * Sizes and weights of texts as the package's layouts give them, by resource id. Code may set another one later, so that a
 * size only counts where the glyphs in the picture are of about that size.
 */
import type { SeenTextFact } from '../../model/fact.ts';
import { leastGrowth } from '../accessibility/pairs/scale-curve.ts';
import type { FactIndex, IntentWith } from '../check.ts';

interface LayoutSize {
  sizeSp: number;
  bold: boolean;
}

/** By the id of the view; several where layouts disagree. Use with `facts.once`. */
export function layoutSizes(facts: FactIndex<'colour-pair'>, _intent: IntentWith): Map<string, LayoutSize[]> {
  const sizes = new Map<string, LayoutSize[]>();
  for (const { bold, part, textSizeSp, view } of facts.of('colour-pair')) {
    if (part !== 'text' || textSizeSp === undefined) continue;
    const known = sizes.get(view) ?? [];
    if (!known.some((of) => of.sizeSp === textSizeSp && of.bold === bold))
      known.push({ sizeSp: textSizeSp, bold });
    sizes.set(view, known);
  }
  return sizes;
}

// Beyond what the glyphs show, as a factor: their own interval already allows for typefaces.
const SLACK = 1.04;

/** The text with what the layouts say of its size and weight, where the picture does not speak against it. */
export function withLayoutSize(
  fact: SeenTextFact,
  sizes: ReadonlyMap<string, readonly LayoutSize[]>,
): SeenTextFact {
  const { bold, cell, platform, cutBy, doubtful, element, sizeFrom, textSizeDp } = fact;
  const said = sizeFrom === 'glyphs' && !doubtful && !cutBy ? sizes.get(element.key) : undefined;
  if (!said) return fact;
  const fitting = said
    .map((of) => ({
      ...of,
      least: of.sizeSp * leastGrowth(of.sizeSp, cell.textScale, platform),
      most: of.sizeSp * cell.textScale,
    }))
    .filter(({ least, most }) => most * SLACK >= textSizeDp[0] && least <= textSizeDp[1] * SLACK)
    .filter((of) => bold === 'unknown' || bold === of.bold);
  const [first] = fitting;
  if (!first) return fact;
  return {
    ...fact,
    sizeFrom: 'package',
    textSizeDp: [
      Math.min(...fitting.map(({ least }) => least)),
      Math.max(...fitting.map(({ most }) => most)),
    ],
    bold: fitting.every((of) => of.bold === first.bold) ? first.bold : bold,
  };
}
