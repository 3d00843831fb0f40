import type { Check } from '../../check.ts';
import { translations } from './catalogue.ts';
import { departure, textDraft } from './text-draft.ts';

/** A translation says something where its source does. */
export const emptyTranslation = {
  id: 'empty-translation',
  area: 'localization',
  needs: ['package', 'catalogue-text'],
  *run(facts, intent) {
    let passed = 0;
    for (const { from, locale, text } of facts.once(translations, intent)) {
      if (/\S/.test(text.text) || !/\S/.test(from.text)) passed += 1;
      else
        yield departure(
          textDraft(text, { locale, severity: 1, digest: 'empty', data: { source: from.text } }),
        );
    }
    yield { outcome: 'passed', count: passed };
  },
} satisfies Check;
