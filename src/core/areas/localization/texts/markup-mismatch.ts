import type { CatalogueTextFact } from '../../../model/fact.ts';
import type { Check, Draft } from '../../check.ts';
import { catalogueViews, languageOf, translations } from './catalogue.ts';
import { departure, textDraft } from './text-draft.ts';

/** Markup is closed where it is opened, and a translation bears that of its source. */
export const markupMismatch = {
  id: 'markup-mismatch',
  area: 'localization',
  needs: ['package', 'catalogue-text'],
  *run(facts, intent) {
    let passed = 0;
    for (const { rows } of facts.once(catalogueViews, intent))
      for (const { byLocale } of rows)
        for (const text of byLocale.get('default') ?? byLocale.get(intent.sourceLocale) ?? []) {
          const draft = unbalanced(text, languageOf(text, intent));
          if (draft) yield departure(draft);
        }
    for (const { from, locale, text } of facts.once(translations, intent)) {
      const draft =
        text.tags || from.tags ? (unbalanced(text, locale) ?? differing(text, from, locale)) : undefined;
      if (draft) yield departure(draft);
      else passed += 1;
    }
    yield { outcome: 'passed', count: passed };
  },
} satisfies Check;

function unbalanced(text: CatalogueTextFact, locale: string): Draft | undefined {
  const fault = text.faults?.find(({ code }) => code === 'unclosed-tag' || code === 'unopened-tag');
  return (
    fault &&
    textDraft(text, {
      locale,
      severity: 2,
      digest: `${fault.code} ${fault.excerpt}`,
      data: { fault: fault.code, excerpt: fault.excerpt },
    })
  );
}

function differing(text: CatalogueTextFact, source: CatalogueTextFact, locale: string): Draft | undefined {
  const [expected, found] = [source, text].map(({ tags = [] }) => tags.filter((tag) => !tag.startsWith('/')));
  const without = (of: readonly string[], others: readonly string[]) => {
    const left = [...others];
    return of.filter((tag) => {
      const at = left.indexOf(tag);
      if (at >= 0) left.splice(at, 1);
      return at < 0;
    });
  };
  const lost = without(expected!, found!);
  const added = without(found!, expected!);
  if (lost.length + added.length === 0) return undefined;
  return textDraft(text, {
    locale,
    severity: 1,
    digest: `lost ${lost.join(' ')}, added ${added.join(' ')}`,
    data: { fault: 'differing', lost, added, source: source.text },
  });
}
