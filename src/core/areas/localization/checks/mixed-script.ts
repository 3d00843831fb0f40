import { z } from 'zod';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { languageOf, sourceBeside } from '../texts/catalogue.ts';
import { isPartOfSource } from '../texts/foreign-word.ts';
import { ownTexts } from '../texts/own-texts.ts';
import { textDraft, textPlaceShape, toAssertion } from '../texts/text-draft.ts';
import { foundAt, keyForm } from '../words.ts';

const dataSchema = z.strictObject({ ...textPlaceShape, word: z.string(), letters: z.array(z.string()) });

/** A word is written in one script: search, sorting and screen readers fail on letters that only look right. */
export const mixedScript = defineCheck({
  id: 'mixed-script',
  area: 'localization',
  priority: 'harder',
  standard: 'Unicode Technical Standard 39, 5.1 Mixed-Script Detection',
  basis: 'measured',
  needs: 'package',
  reads: ['catalogue-text'],
  data: dataSchema,
  words: ({ letters, word, ...place }) => ({
    what: `${keyForm(place)} in ${place.locale} has letters of two scripts in one word`,
    measured: `${quote(word)}: ${letters.join(', ')}${foundAt(place)}`,
    required: 'letters of one script in a word',
    why: 'They look the same, but search, sorting, line breaks and screen readers take them for others.',
    remedy: 'Type the word again on the keyboard of its language.',
  }),

  *run(facts, intent) {
    let passed = 0;
    for (const text of facts.once(ownTexts, intent)) {
      const { foreign } = text;
      const isMeant =
        foreign &&
        sourceBeside(text, facts, intent).some((source) => isPartOfSource(foreign.word, source.text));
      if (!foreign || isMeant) passed += 1;
      else
        yield toAssertion(
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

  doc: {
    looksAt: 'Words with letters of two scripts that look alike',
    against: 'One script a word (UTS 39)',
    matters: 'Search, sorting, line breaks and screen readers take look-alike letters for others.',
    measured: 'The scripts of the letters of each word.',
    errs: 'Nothing known.',
    fixes: [{ where: 'Any', language: 'text', code: 'Type the word again on the keyboard of its language.' }],
  },
});
