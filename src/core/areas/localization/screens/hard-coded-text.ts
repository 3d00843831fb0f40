import { type Check, elementDraft } from '../../check.ts';
import { readTexts } from './screen-languages.ts';

/** Every text on a screen comes from a catalogue, except names, numbers and what people typed. */
export const hardCodedText = {
  id: 'hard-coded-text',
  area: 'localization',
  needs: ['capture', 'screen-text', 'catalogue-text'],
  *run(facts, intent) {
    for (const { fact, origin } of facts.once(readTexts, intent)) {
      if (origin !== 'hard-coded')
        yield { outcome: origin === 'data' ? 'inapplicable' : 'passed', cell: fact.cell };
      else
        yield {
          outcome: 'cantTell',
          cell: fact.cell,
          draft: elementDraft(fact, {
            basis: 'estimated',
            severity: 1,
            digest: fact.text,
            cause: 'hard-coded',
            data: { text: fact.text, locale: fact.cell.locale },
          }),
        };
    }
  },
} satisfies Check;
