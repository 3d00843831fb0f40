import type { ScreenTextFact } from '../../../model/fact.ts';
import { type Assertion, elementDraft } from '../../check.ts';
import { counterpartName, type ScreenPair } from './compare-pair.ts';
import { type Harm, harmToText } from './harm-to-text.ts';
import type { HarmData } from './harm-words.ts';

const OUT_OF_SIGHT = 'texts that moved out of sight (add the same screen scrolled on, under a "step")';

const isInOtherStep = (text: ScreenTextFact, { steps }: ScreenPair): boolean =>
  steps.some(({ texts }) =>
    [...texts.values()].some((other) => other.text === text.text && other.element.key === text.element.key),
  );

/** Every text that is whole in the one capture must be so in the other. */
export function* judgeTexts(pair: ScreenPair): Iterable<Assertion<HarmData>> {
  const { cell } = pair.after.capture;
  for (const [key, text] of pair.before.texts) {
    const harm = harmToText(key, pair);
    if (!harm || (harm === 'out-of-sight' && isInOtherStep(text, pair))) yield { outcome: 'passed', cell };
    else if (harm === 'out-of-sight') yield { outcome: 'untested', cell, missingEvidence: OUT_OF_SIGHT };
    else yield harmed(pair.after.texts.get(key) ?? { ...text, cell }, pair, harm);
  }
}

function harmed(
  text: ScreenTextFact,
  pair: ScreenPair,
  { isGuess, kind: harm, other = '' }: Harm,
): Assertion<HarmData> {
  const { cell } = pair.after.capture;
  // what is typed into a field may be scrolled to
  const basis = isGuess || (harm === 'clipped' && text.isField) ? 'estimated' : 'measured';
  const draft = elementDraft(text, {
    basis,
    severity: harm === 'lost' ? 3 : 2,
    digest: harm,
    aspect: harm,
    data: {
      harm,
      text: text.text,
      counterpart: counterpartName(pair),
      other,
    },
  });
  return { outcome: basis === 'measured' ? 'failed' : 'cantTell', cell, draft };
}
