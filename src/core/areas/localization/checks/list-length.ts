import { z } from 'zod';
import { defineCheck } from '../../check.ts';
import { translations } from '../texts/catalogue.ts';
import { textDraft, textPlaceShape, toAssertion } from '../texts/text-draft.ts';
import { foundAt } from '../words.ts';

const dataSchema = z.strictObject({ ...textPlaceShape, expected: z.number(), found: z.number() });

/** A list has as many texts in every language: the code counts on their places. */
export const listLength = defineCheck({
  id: 'list-length',
  area: 'localization',
  priority: 'harder',
  standard: 'Android developers, String array resources',
  basis: 'measured',
  needs: 'package',
  reads: ['catalogue-text'],
  data: dataSchema,
  words: ({ expected, found, ...place }) => ({
    what: `The list ${place.key} has ${found} texts in ${place.locale}, and ${expected} in the source`,
    measured: `${found} texts${foundAt(place)}`,
    required: `${expected} texts`,
    why:
      found < expected
        ? 'Code that takes a text by its place reaches past the end, and crashes.'
        : 'The texts at the end are never shown, or one in the middle moves all others.',
    remedy: 'Give the list the same texts in the same order.',
  }),

  *run(facts, intent) {
    for (const { locale, row, source, text: first } of facts.once(translations, intent)) {
      if (first.entry !== 'list') continue;
      const texts = row.byLocale.get(locale) ?? [];
      if (texts[0] !== first) continue;
      if (texts.length === source.length) yield { outcome: 'passed' };
      else
        yield toAssertion(
          textDraft(
            { ...first, form: undefined, text: texts.map(({ text }) => text).join(', ') },
            {
              locale,
              // a shorter list ends in a crash, a longer one hides its end
              severity: texts.length < source.length ? 2 : 1,
              digest: `${source.length} → ${texts.length}`,
              data: { expected: source.length, found: texts.length },
            },
          ),
        );
    }
  },

  doc: {
    looksAt: 'Lists of texts',
    against: "As long as the source's",
    matters: 'Code that takes a text by its place reaches past the end and crashes, or shows the wrong one.',
    measured: 'The number of texts of a list in each language against the source.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'res/values-de/arrays.xml',
        language: 'xml',
        code: '<string-array name="days"><item>Mo</item><!-- as many as in the source --></string-array>',
      },
    ],
  },
});
