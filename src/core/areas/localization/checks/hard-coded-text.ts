import { z } from 'zod';
import { defineCheck, elementDraft } from '../../check.ts';
import { quote } from '../../words.ts';
import { readTexts } from '../screens/screen-languages.ts';

const dataSchema = z.strictObject({ text: z.string(), locale: z.string() });

/** Every text on a screen comes from a catalogue, except names, numbers and what people typed. */
export const hardCodedText = defineCheck({
  id: 'hard-coded-text',
  area: 'localization',
  priority: 'harder',
  standard: 'Android and Apple localization guides',
  basis: 'estimated',
  needs: 'capture',
  reads: ['screen-text', 'catalogue-text'],
  data: dataSchema,
  words: ({ locale, text }) => ({
    what: `${quote(text)} comes from no catalogue`,
    measured: `no text in ${locale} or in the source that it could be made from, and words that the app's texts use`,
    required: 'every text from a catalogue',
    why: 'It reads like a sentence of the app and not like a name or data, so it seems to stand in the code, where no translator sees it.',
    remedy: 'Move it into the catalogue; where it is data, mark it as a false alarm.',
  }),

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

  doc: {
    looksAt: 'Texts of captures that no catalogue has',
    against: 'A catalogue. Always estimated: names and data have none',
    matters: 'Nobody can translate what stands in the code.',
    measured: 'Every text of a capture that no catalogue has, matched by its words with formats filled in.',
    errs: 'Names, data from a server and what people typed have no catalogue; always estimated.',
    fixes: [
      { where: 'Android, Compose', language: 'kotlin', code: 'Text(stringResource(R.string.book_now))' },
      { where: 'iOS, SwiftUI', language: 'swift', code: 'Text("book_now", bundle: .main)' },
    ],
  },
});
