import type { Intent } from '../../../model/intent.ts';
import { type Assertion, type Check, elementDraft, type FactIndex } from '../../check.ts';
import { guessTexts } from './guess-languages.ts';
import { readTexts } from './screen-languages.ts';

/** On the screens of a language every text is in it, and none in the source language. */
export const untranslatedOnScreen = {
  id: 'untranslated-on-screen',
  area: 'localization',
  needs: ['capture', 'screen-text', 'catalogue-text'],
  *run(facts, intent) {
    if (facts.of('catalogue-text').length === 0) yield* guessed(facts, intent);
    for (const { fact, key, origin } of facts.once(readTexts, intent)) {
      if (origin === 'data') yield { outcome: 'inapplicable', cell: fact.cell };
      else if (origin !== 'source') yield { outcome: 'passed', cell: fact.cell };
      else
        yield {
          outcome: 'failed',
          cell: fact.cell,
          draft: elementDraft(fact, {
            basis: 'measured',
            severity: fact.from === 'text' ? 2 : 1,
            digest: `${key}: ${fact.text}`,
            cause: 'untranslated',
            aspect: fact.cell.locale,
            data: {
              key: key!,
              text: fact.text,
              locale: fact.cell.locale,
              source: intent.sourceLocale,
              spoken: fact.from === 'label',
            },
          }),
        };
    }
  },
} satisfies Check;

/** Without a catalogue none passes: only what stands out is told. */
function* guessed(facts: FactIndex, intent: Intent): Iterable<Assertion> {
  for (const { fact, why } of facts.once(guessTexts, intent)) {
    const { cell, from, text } = fact;
    if (!why) yield { outcome: 'untested', cell, lacking: NO_CATALOGUE };
    else
      yield {
        outcome: 'cantTell',
        cell,
        draft: elementDraft(fact, {
          basis: 'estimated',
          severity: from === 'text' ? 2 : 1,
          digest: text,
          cause: why,
          aspect: cell.locale,
          data: { why, text, locale: cell.locale, source: intent.sourceLocale, spoken: from === 'label' },
        }),
      };
  }
}

const NO_CATALOGUE = 'the texts of their languages (add the package or its catalogues)';
