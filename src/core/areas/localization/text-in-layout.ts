/**
 * Texts that stand in a layout or interface file and in no table of texts, so that no translation reaches them. Code may put
 * another text in their place, so it is always an estimate.
 */
import type { LayoutViewFact } from '../../model/fact.ts';
import type { Check } from '../check.ts';

const WORD = /\p{L}{2,}/u;

export const textInLayout = {
  id: 'text-in-layout',
  area: 'localization',
  needs: ['package', 'layout-view'],
  *run(facts, intent) {
    for (const view of facts.of('layout-view')) {
      const [fixed] = view.fixedTexts.filter(({ text }) => WORD.test(text));
      if (!fixed) yield { outcome: 'passed' };
      else if (intent.locales.length < 2) yield { outcome: 'inapplicable' };
      else yield { outcome: 'cantTell', draft: draftOf(view, fixed) };
    }
  },
} satisfies Check;

const draftOf = (
  { evidence, layout, platform, view }: LayoutViewFact,
  { part, text }: LayoutViewFact['fixedTexts'][number],
) => ({
  identity: { subject: `${layout} ${view}`, aspect: part },
  basis: 'estimated' as const,
  severity: 1,
  digest: text,
  cause: part,
  occurrence: { evidence, shown: `${layout}, ${view}`, data: { layout, part, platform, text, view } },
});
