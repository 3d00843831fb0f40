/** Escapes that come out wrong: what the platform drops while it reads the file, and what is left over for the user to see. */
import type { CatalogueTextFact } from '../../model/fact.ts';
import type { Check, Draft } from '../check.ts';
import { languageOf, sourceBeside } from './catalogue.ts';
import { departure, textDraft } from './text-draft.ts';

export const swallowedEscape = {
  id: 'swallowed-escape',
  area: 'localization',
  needs: ['package', 'catalogue-text'],
  *run(facts, intent) {
    let passed = 0;
    for (const text of facts.of('catalogue-text')) {
      const draft =
        text.swallowed || text.escape
          ? judgeText(text, sourceBeside(text, facts, intent), languageOf(text, intent))
          : undefined;
      if (draft) yield departure(draft);
      else passed += 1;
    }
    yield { outcome: 'passed', count: passed };
  },
} satisfies Check;

function judgeText(
  text: CatalogueTextFact,
  source: readonly CatalogueTextFact[],
  locale: string,
): Draft | undefined {
  if (text.swallowed)
    return textDraft(text, {
      locale,
      severity: 2,
      digest: `swallowed ${text.swallowed.join(' ')}`,
      data: { fault: 'swallowed', swallowed: text.swallowed },
    });
  // where the source has them too, or markup, the app may resolve them itself
  if (text.tags || source.some((of) => of !== text && of.escape)) return undefined;
  return textDraft(text, {
    locale,
    severity: 1,
    digest: `left ${text.escape}`,
    data: { fault: 'left-over', escape: text.escape! },
  });
}
