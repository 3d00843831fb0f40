/** WCAG 2.2, success criterion 1.4.3 Contrast (Minimum): 4.5 to 1, large text 3 to 1. */
import type { SeenTextFact, TextContrastFact, UnseenTextFact } from '../../model/fact.ts';
import type { Intent } from '../../model/intent.ts';
import { type Assertion, type Check, elementDraft } from '../check.ts';
import { parseHex } from './colour.ts';
import { LARGE_TEXT } from './large-text.ts';
import { layoutSizes, withLayoutSize } from './layout-sizes.ts';
import { roundColour } from './round-colour.ts';
import { suggestColours } from './suggest-colour.ts';

export const textContrast = {
  id: 'text-contrast',
  area: 'contrast',
  needs: ['capture', 'text-contrast', 'colour-pair'],
  *run(facts, intent) {
    for (const { behindCount, cell } of facts.of('capture'))
      if (behindCount) yield { outcome: 'inapplicable', cell, count: behindCount };
    const sizes = facts.once(layoutSizes, intent);
    const texts = facts.of('text-contrast');
    // what the edge leaves of a row is decided by a row of its kind that can be seen
    const seen = new Set(texts.filter((text) => !text.unseen).map(kindOf));
    for (const text of texts) {
      const decidedElsewhere = text.unseen && text.cutBy && seen.has(kindOf(text));
      if (!text.enabled || decidedElsewhere) yield { outcome: 'inapplicable', cell: text.cell };
      else yield text.unseen ? undecided(text) : judgeText(withLayoutSize(text, sizes), intent.limits);
    }
  },
} satisfies Check;

const kindOf = ({ cell, element }: TextContrastFact): string => `${cell.screen}|${cell.theme}|${element.key}`;

/** A text in the tree that nobody can see in the picture may be the faintest of all, so it is never let pass. */
function undecided(fact: UnseenTextFact): Assertion {
  const { cell, unseen } = fact;
  const data = { unseen, cutBy: fact.cutBy ?? '', theme: cell.theme };
  const draft = elementDraft(fact, {
    basis: 'estimated',
    severity: 0,
    digest: unseen,
    aspect: cell.theme,
    data,
  });
  return { outcome: 'cantTell', cell, draft };
}

function judgeText(fact: SeenTextFact, limits: Intent['limits']): Assertion {
  const { cell, interval } = fact;
  const large = isLarge(fact, limits.largeTextCountedIn);
  const [least, most] =
    large === 'unknown'
      ? [limits.largeTextContrast, limits.textContrast]
      : large
        ? [limits.largeTextContrast, limits.largeTextContrast]
        : [limits.textContrast, limits.textContrast];
  const isSure = !fact.doubtful && !fact.packed;
  if (interval[0] >= most && isSure) return { outcome: 'passed', cell };
  const measured = interval[1] < least && isSure;
  const draft = elementDraft(fact, {
    basis: measured ? 'measured' : 'estimated',
    severity: most - fact.ratio,
    digest: `${roundColour(fact.foreground)} on ${roundColour(fact.background)}`,
    aspect: cell.theme,
    data: dataOf(fact, most, large, limits),
  });
  return { outcome: measured ? 'failed' : 'cantTell', cell, draft };
}

function isLarge(
  { bold, textSizeDp: [lowest, highest] }: SeenTextFact,
  countedIn: keyof typeof LARGE_TEXT,
): boolean | 'unknown' {
  const { any, bold: ifBold } = LARGE_TEXT[countedIn];
  if (lowest >= any || (bold === true && lowest >= ifBold)) return true;
  return highest < ifBold || (bold === false && highest < any) ? false : 'unknown';
}

function dataOf(fact: SeenTextFact, required: number, large: boolean | 'unknown', limits: Intent['limits']) {
  const suggested = suggestColours(parseHex(fact.foreground)!, parseHex(fact.background)!, required);
  return {
    ratio: fact.ratio,
    lowest: fact.interval[0],
    highest: fact.interval[1],
    required,
    requiredIfLarge: limits.largeTextContrast,
    large: String(large),
    countedIn: limits.largeTextCountedIn,
    // dp and points disagree from 18 to 24, and for bold text from 14 to 18.7
    readingsAgree: fact.interval[1] < limits.largeTextContrast || isLarge(fact, 'dp') === isLarge(fact, 'pt'),
    behind: fact.behind,
    meanRatio: fact.meanRatio,
    bold: String(fact.bold),
    sizeFrom: fact.sizeFrom,
    foreground: fact.foreground,
    background: fact.background,
    reached: fact.reached,
    smallestDp: fact.textSizeDp[0],
    largestDp: fact.textSizeDp[1],
    theme: fact.cell.theme,
    ...(fact.described && { described: true }),
    ...(fact.doubtful && { doubtful: true }),
    ...(fact.packed && { packed: true }),
    ...(suggested.text && { suggestedText: suggested.text.colour, suggestedTextRatio: suggested.text.ratio }),
    ...(suggested.background && {
      suggestedBackground: suggested.background.colour,
      suggestedBackgroundRatio: suggested.background.ratio,
    }),
  };
}
