import type { Check } from '../../check.ts';
import { translations } from './catalogue.ts';
import { departure, textDraft } from './text-draft.ts';

/** A list has as many texts in every language: the code counts on their places. */
export const listLength = {
  id: 'list-length',
  area: 'localization',
  needs: ['package', 'catalogue-text'],
  *run(facts, intent) {
    for (const { locale, row, source, text: first } of facts.once(translations, intent)) {
      if (first.entry !== 'list') continue;
      const texts = row.byLocale.get(locale) ?? [];
      if (texts[0] !== first) continue;
      if (texts.length === source.length) yield { outcome: 'passed' };
      else
        yield departure(
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
} satisfies Check;
