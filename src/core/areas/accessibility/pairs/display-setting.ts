/** Under larger display size, bold text, high-contrast text or without animations, every text stays whole. */
import type { Cell } from '../../../model/cell.ts';
import { type Assertion, type Check, elementDraft } from '../../check.ts';
import { pairScreens, type ScreenPair, seenScreens, twinName } from './compare-pair.ts';
import { judgeTexts } from './judge-pair.ts';

/** Procedures whose captures are twins of those taken `as-is`. */
const SETTINGS: readonly string[] = ['display-large', 'bold-text', 'high-contrast-text', 'animations-off'];

export const displaySetting = {
  id: 'display-setting',
  area: 'accessibility',
  needs: ['capture', 'screen-text', 'text-contrast'],
  *run(facts, intent) {
    for (const pair of pairScreens(facts.once(seenScreens, intent), asIs)) {
      yield* judgeTexts(pair);
      if (pair.after.capture.cell.procedure === 'bold-text') yield judgeWeight(pair);
    }
  },
} satisfies Check;

const asIs = (cell: Cell): Cell | undefined =>
  SETTINGS.includes(cell.procedure) ? { ...cell, procedure: 'as-is' } : undefined;

const LEAST_WEIGHT_GAIN = 1.05;

/** Bold text makes strokes wider; where not one text has them, the setting is not followed. */
function judgeWeight(pair: ScreenPair): Assertion {
  const { after, before } = pair;
  const { cell } = after.capture;
  const gains = [...before.inks].flatMap(([key, thin]) => {
    const thick = after.inks.get(key);
    return !thick || thin.unseen || thick.unseen || thin.stemDp === 0 ? [] : [thick.stemDp / thin.stemDp];
  });
  const first = [...after.inks.values()][0];
  if (gains.length === 0 || !first) return { outcome: 'inapplicable', cell };
  const median = [...gains].sort((a, b) => a - b)[gains.length >> 1]!;
  if (median >= LEAST_WEIGHT_GAIN) return { outcome: 'passed', cell };
  const draft = elementDraft(first, {
    basis: 'estimated',
    severity: 1,
    digest: 'as thin as before',
    aspect: 'weight',
    data: {
      harm: 'as-thin',
      text: '',
      twin: twinName(pair),
      procedure: cell.procedure,
      gain: median,
      scale: 1,
    },
  });
  return {
    outcome: 'cantTell',
    cell,
    draft: { ...draft, identity: { screen: cell.screen, subject: 'screen', aspect: 'weight' } },
  };
}
