import { z } from 'zod';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { translations } from '../texts/catalogue.ts';
import { textDraft, textPlaceShape, toAssertion } from '../texts/text-draft.ts';
import { foundAt, keyForm } from '../words.ts';

const dataSchema = z.strictObject({ ...textPlaceShape, source: z.string() });

/** A translation says something where its source does. */
export const emptyTranslation = defineCheck({
  id: 'empty-translation',
  area: 'localization',
  priority: 'harder',
  standard: 'Android and Apple localization guides',
  basis: 'measured',
  needs: 'package',
  reads: ['catalogue-text'],
  data: dataSchema,
  words: ({ source, ...place }) => ({
    what: `${keyForm(place)} is empty in ${place.locale}`,
    measured: `no character that can be seen${foundAt(place)}`,
    required: `a text for ${quote(source)}`,
    why: 'An empty text counts as translated, so nothing falls back to the source: the user sees a gap.',
    remedy: 'Translate it, or delete the entry so that the source shows until it is.',
  }),

  *run(facts, intent) {
    let passed = 0;
    for (const { from, locale, text } of facts.once(translations, intent)) {
      if (/\S/.test(text.text) || !/\S/.test(from.text)) passed += 1;
      else
        yield toAssertion(
          textDraft(text, { locale, severity: 1, digest: 'empty', data: { source: from.text } }),
        );
    }
    yield { outcome: 'passed', count: passed };
  },

  doc: {
    looksAt: 'Every translation',
    against: 'A text where the source has one',
    matters: 'An empty text counts as translated, so nothing falls back to the source. People see a gap.',
    measured: 'Translations without a visible character, where the source has one.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'strings.xml',
        language: 'xml',
        code: '<!-- delete the entry: the source shows until it is translated -->',
      },
      { where: 'Localizable.strings', language: 'text', code: '"set_about" = "Über";' },
    ],
  },
});
