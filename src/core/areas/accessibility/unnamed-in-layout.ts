/**
 * Fields and picture buttons for which a layout says nothing to read out, and pictures that are neither described nor marked as
 * decoration (WCAG 2.2, 1.1.1, 3.3.2 and 4.1.2). Code may name them later, so it is always an estimate; on a captured screen the
 * names are measured.
 */
import type { LayoutViewFact } from '../../model/fact.ts';
import type { Check, Draft } from '../check.ts';

export const unnamedInLayout = {
  id: 'unnamed-in-layout',
  area: 'accessibility',
  needs: ['package', 'layout-view'],
  *run(facts) {
    const pictures: LayoutViewFact[] = [];
    for (const view of facts.of('layout-view')) {
      if (view.role === 'text') continue;
      // iOS does not read a plain picture out, unless it is told to
      if (view.platform === 'ios' && !view.isActionable) yield { outcome: 'inapplicable' };
      else if (view.isNamed) yield { outcome: 'passed' };
      else if (view.isActionable) yield { outcome: 'cantTell', draft: draftOf(view) };
      else pictures.push(view);
    }
    // most pictures only decorate, so that one look at all of them is enough
    if (pictures.length > 0) yield { outcome: 'cantTell', draft: draftOfAll(pictures) };
  },
} satisfies Check;

function draftOf({ evidence, layout, platform, role: of, view }: LayoutViewFact): Draft {
  // a picture that does something when it is tapped is a button
  const role = of === 'picture' ? 'button' : of;
  return {
    identity: { subject: `${layout} ${view}` },
    basis: 'estimated',
    severity: 2,
    digest: role,
    cause: `${platform} ${role}`,
    occurrence: { evidence, shown: `${layout}, ${view}`, data: { layout, platform, role, view } },
  };
}

function draftOfAll(pictures: readonly LayoutViewFact[]): Draft {
  const places = pictures.map(({ layout, view }) => `${layout}, ${view}`).sort();
  return {
    identity: { subject: 'pictures' },
    basis: 'estimated',
    severity: 1,
    digest: places.join('\n'),
    occurrence: {
      evidence: pictures[0]!.evidence,
      shown: places[0]!,
      data: { role: 'picture', places },
    },
  };
}
