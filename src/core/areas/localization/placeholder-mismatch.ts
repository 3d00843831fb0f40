import type { CatalogueTextFact } from '../../model/fact.ts';
import type { Assertion, Check } from '../check.ts';
import { sourceTexts, targetLocales, textsByKey, textsFor } from './catalogue.ts';

/** A translation takes the same arguments as its source: none lost, none added, none of another type. */
export const placeholderMismatch = {
  id: 'placeholder-mismatch',
  area: 'localization',
  needs: ['package', 'catalogue-text'],
  *run(facts, intent) {
    const keys = textsByKey(facts.of('catalogue-text'));
    const locales = targetLocales(keys, intent);
    for (const texts of keys.values()) {
      const source = sourceTexts(texts, intent);
      if (!source) continue;
      for (const locale of locales)
        for (const [form, text] of textsFor(texts, locale) ?? [])
          yield judgeText(text, source.get(form) ?? source.get('other') ?? [...source.values()][0]!, locale);
    }
  },
} satisfies Check;

// Forms that stand for one number each may leave the number out: "one seat".
const MAY_DROP_NUMBER = new Set(['zero', 'one', 'two']);

function judgeText(text: CatalogueTextFact, source: CatalogueTextFact, locale: string): Assertion {
  const position = (placeholder: string) => placeholder.split(':')[0];
  const added = text.placeholders.filter(
    (placeholder) => !source.placeholders.some((of) => position(of) === position(placeholder)),
  );
  const retyped = text.placeholders.filter(
    (placeholder) => !source.placeholders.includes(placeholder) && !added.includes(placeholder),
  );
  const lost = source.placeholders
    .filter((placeholder) => !text.placeholders.some((of) => position(of) === position(placeholder)))
    .filter((placeholder) => !(text.form && MAY_DROP_NUMBER.has(text.form) && placeholder === '1:d'));
  if (added.length + lost.length + retyped.length === 0) return { outcome: 'passed' };
  return {
    outcome: 'failed',
    draft: {
      identity: { subject: text.form ? `${text.key} (${text.form})` : text.key, aspect: locale },
      basis: 'measured',
      // more arguments than the code gives, or of another type, throw at run time; a lost one only drops a value
      severity: added.length > 0 ? 3 : retyped.length > 0 ? 2 : 1,
      digest: `${source.placeholders.join(' ')} → ${text.placeholders.join(' ')}`,
      occurrence: {
        evidence: text.evidence,
        shown: text.text,
        data: {
          key: text.key,
          locale,
          form: text.form ?? '',
          source: source.text,
          text: text.text,
          expected: source.placeholders,
          found: text.placeholders,
          added,
          lost,
          retyped,
        },
      },
    },
  };
}
