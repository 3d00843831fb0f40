/**
 * Attributes of layouts that name left or right, where languages are meant that run from right to left (Android developers,
 * *Support different languages and cultures*, "Create RTL layouts"). Code may lay it out otherwise, so it is always an estimate.
 */
import type { LayoutViewFact } from '../../model/fact.ts';
import { isRightToLeft } from '../../model/locale.ts';
import type { Check } from '../check.ts';

export const sideInLayout = {
  id: 'side-in-layout',
  area: 'localization',
  needs: ['package', 'layout-view'],
  *run(facts, intent) {
    const isMeant = intent.locales.some(isRightToLeft);
    // an app that is never mirrored has but one side; another check says so
    for (const view of facts.of('layout-view'))
      if (!isMeant || !view.supportsRtl) yield { outcome: 'inapplicable' };
      else if (view.sideAttributes.length === 0) yield { outcome: 'passed' };
      else yield { outcome: 'cantTell', draft: draftOf(view) };
  },
} satisfies Check;

const draftOf = ({ evidence, layout, sideAttributes, view }: LayoutViewFact) => ({
  identity: { subject: `${layout} ${view}` },
  basis: 'estimated' as const,
  severity: 1,
  digest: sideAttributes.join(' '),
  cause: 'sides',
  occurrence: { evidence, shown: `${layout}, ${view}`, data: { layout, attributes: sideAttributes, view } },
});
