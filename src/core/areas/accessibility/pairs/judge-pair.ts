import type { ScreenTextFact } from '../../../model/fact.ts';
import { type Assertion, elementDraft } from '../../check.ts';
import { harmTo, type ScreenPair, twinName } from './compare-pair.ts';

/** Every text that is whole in the one capture must be so in the other. */
export function* judgeTexts(pair: ScreenPair): Iterable<Assertion> {
  const { cell } = pair.after.capture;
  for (const [key, text] of pair.before.texts) {
    const harm = harmTo(key, pair);
    if (!harm) yield { outcome: 'passed', cell };
    else yield harmed(pair.after.texts.get(key) ?? { ...text, cell }, pair, harm);
  }
}

function harmed(text: ScreenTextFact, pair: ScreenPair, harm: string): Assertion {
  const { cell } = pair.after.capture;
  // what is typed into a field may be scrolled to
  const basis = harm === 'clipped' && text.isField ? 'estimated' : 'measured';
  const draft = elementDraft(text, {
    basis,
    severity: harm === 'lost' ? 3 : 2,
    digest: harm,
    aspect: harm,
    data: { harm, text: text.text, twin: twinName(pair), scale: cell.textScale, procedure: cell.procedure },
  });
  return { outcome: basis === 'measured' ? 'failed' : 'cantTell', cell, draft };
}
