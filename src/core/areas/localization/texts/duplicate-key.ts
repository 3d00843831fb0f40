import type { CatalogueTextFact } from '../../../model/fact.ts';
import type { Check } from '../../check.ts';
import { catalogueViews, languageOf } from './catalogue.ts';
import { departure, textDraft } from './text-draft.ts';

/** A key stands once in a file: of two, the platform takes one and says nothing. */
export const duplicateKey = {
  id: 'duplicate-key',
  area: 'localization',
  needs: ['package', 'catalogue-text'],
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
          yield departure(
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
} satisfies Check;

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
