import type { Check } from '../../check.ts';
import { languageOf, sourceBeside } from './catalogue.ts';
import { isPartOfSource } from './foreign-word.ts';
import { ownTexts } from './own-texts.ts';
import { departure, textDraft } from './text-draft.ts';

/** A word is written in one script: search, sorting and screen readers fail on letters that only look right. */
export const mixedScript = {
  id: 'mixed-script',
  area: 'localization',
  needs: ['package', 'catalogue-text'],
  *run(facts, intent) {
    let passed = 0;
    for (const text of facts.once(ownTexts, intent)) {
      const { foreign } = text;
      const isMeant =
        foreign &&
        sourceBeside(text, facts, intent).some((source) => isPartOfSource(foreign.word, source.text));
      if (!foreign || isMeant) passed += 1;
      else
        yield departure(
          textDraft(text, {
            locale: languageOf(text, intent),
            severity: 1,
            digest: foreign.word,
            data: { word: foreign.word, letters: foreign.letters },
          }),
        );
    }
    yield { outcome: 'passed', count: passed };
  },
} satisfies Check;
