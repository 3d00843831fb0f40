/**
 * WCAG 2.2, 1.4.4 Resize Text: to 200 % without loss. Shown by two captures: what is whole at 100 % is whole when larger,
 * and glyphs really are taller, by what the platform's own curve gives them.
 */
import type { Cell } from '../../../model/cell.ts';
import type { SeenTextFact } from '../../../model/fact.ts';
import { type Assertion, type Check, elementDraft } from '../../check.ts';
import { pairScreens, type ScreenPair, seenScreens, twinName } from './compare-pair.ts';
import { judgeTexts } from './judge-pair.ts';
import { leastGrowth } from './scale-curve.ts';

export const textScaling = {
  id: 'text-scaling',
  area: 'accessibility',
  needs: ['capture', 'screen-text', 'text-contrast'],
  *run(facts, intent) {
    for (const pair of pairScreens(facts.once(seenScreens, intent), at100)) {
      yield* judgeTexts(pair);
      yield* judgeGrowth(pair);
    }
  },
} satisfies Check;

const LEAST_SCALE = 1.15;

const at100 = (cell: Cell): Cell | undefined =>
  cell.textScale >= LEAST_SCALE ? { ...cell, textScale: 1 } : undefined;

// Less than this share of the growth to expect, and it does not follow the setting.
const LEAST_SHARE = 0.4;
const LEAST_GLYPH_DP = 4;

function* judgeGrowth(pair: ScreenPair): Iterable<Assertion> {
  const { after, before } = pair;
  for (const [key, small] of before.inks) {
    const large = after.inks.get(key);
    if (!large || small.unseen || large.unseen || small.doubtful || large.doubtful) continue;
    if (small.element.shown !== large.element.shown || small.glyphDp < LEAST_GLYPH_DP) continue;
    yield judgeText(small, large, pair);
  }
}

function judgeText(small: SeenTextFact, large: SeenTextFact, pair: ScreenPair): Assertion {
  const { cell } = large;
  // letters that hang together make glyphs of any height; strokes grow with the text in every script
  const grown = Math.max(large.glyphDp / small.glyphDp, small.stemDp > 0 ? large.stemDp / small.stemDp : 0);
  const expected = leastGrowth(small.textSizeDp[0], cell.textScale);
  if (grown >= 1 + (expected - 1) * LEAST_SHARE) return { outcome: 'passed', cell };
  const draft = elementDraft(large, {
    basis: 'measured',
    severity: expected - grown,
    digest: `grown ${grown.toFixed(1)}`,
    cause: 'not grown',
    aspect: 'not-grown',
    data: {
      harm: 'not-grown',
      text: large.element.shown,
      twin: twinName(pair),
      scale: cell.textScale,
      grown,
      expected,
      glyphDp: large.glyphDp,
      beforeDp: small.glyphDp,
    },
  });
  return { outcome: 'failed', cell, draft };
}
