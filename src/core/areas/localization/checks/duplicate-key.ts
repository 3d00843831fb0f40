import { z } from 'zod';
import type { CatalogueTextFact } from '../../../model/fact.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { catalogueViews, languageOf } from '../texts/catalogue.ts';
import { textDraft, textPlaceShape, toAssertion } from '../texts/text-draft.ts';
import { foundAt, keyForm } from '../words.ts';

const dataSchema = z.strictObject({
  ...textPlaceShape,
  firstLine: z.number().optional(),
  first: z.string(),
  last: z.string(),
});

/** A key stands once in a file: of two, the platform takes one and says nothing. */
export const duplicateKey = defineCheck({
  id: 'duplicate-key',
  area: 'localization',
  priority: 'harder',
  standard: 'The formats of catalogues',
  basis: 'measured',
  needs: 'package',
  reads: ['catalogue-text'],
  data: dataSchema,
  words: ({ first, firstLine, last, line, ...place }) => ({
    what: `${keyForm(place)} stands twice in ${place.locale}`,
    measured: `${quote(first)}${firstLine ? ` in line ${firstLine}` : ''} and ${quote(last)}${line ? ` in line ${line}` : ''}${foundAt(place)}`,
    required: 'one text for a key',
    why: 'The platform takes one of them and says nothing, so a correction of the other never shows.',
    remedy: 'Delete the one that is out of date.',
  }),

  *run(facts, intent) {
    let passed = 0;
    for (const { rows } of facts.once(catalogueViews, intent))
      for (const { byLocale } of rows)
        for (const texts of byLocale.values()) {
          const again = texts.length > 1 ? repeated(texts) : undefined;
          if (!again) {
            passed += 1;
            continue;
          }
          const [first, last] = again;
          yield toAssertion(
            textDraft(last, {
              locale: languageOf(last, intent),
              // two texts that differ are worse than one written twice
              severity: first.text === last.text ? 1 : 2,
              digest: `${first.text} / ${last.text}`,
              data: {
                first: first.text,
                last: last.text,
                ...(first.line !== undefined && { firstLine: first.line }),
              },
            }),
          );
        }
    yield { outcome: 'passed', count: passed };
  },

  doc: {
    looksAt: 'Keys within a file',
    against: 'Each once',
    matters: 'The platform takes one of the two and says nothing, so a correction of the other never shows.',
    measured: 'Keys of one file and language.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'strings.xml',
        language: 'xml',
        code: '<string name="set_about">About</string>  <!-- once -->',
      },
    ],
  },
});

function repeated(texts: readonly CatalogueTextFact[]): [CatalogueTextFact, CatalogueTextFact] | undefined {
  const seen = new Map<string, CatalogueTextFact>();
  for (const text of texts) {
    const place = `${text.form ?? ''}\n${text.file ?? ''}\n${text.evidence}`;
    const before = seen.get(place);
    if (before) return [before, text];
    seen.set(place, text);
  }
  return undefined;
}
