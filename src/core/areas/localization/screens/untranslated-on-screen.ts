import { type Check, elementDraft } from '../../check.ts';
import { readTexts } from './screen-languages.ts';

/** On the screens of a language every text is in it, and none in the source language. */
export const untranslatedOnScreen = {
  id: 'untranslated-on-screen',
  area: 'localization',
  needs: ['capture', 'screen-text', 'catalogue-text'],
  *run(facts, intent) {
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
