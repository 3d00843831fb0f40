/**
 * Texts of layouts that do not grow with the user's text size, or cannot (WCAG 2.2, 1.4.4: up to 200 %): sizes in another unit
 * than sp, and heights that hold the text at its plain size alone. Code may set either, so it is always an estimate.
 */
import type { LayoutViewFact } from '../../model/fact.ts';
import type { Assertion, Check } from '../check.ts';

const GROWTH = 2;
// What the platform's own font needs for a line, in parts of its size.
const LINE_HEIGHT = 1.17;

export const fixedTextSize = {
  id: 'fixed-text-size',
  area: 'accessibility',
  needs: ['package', 'layout-view'],
  *run(facts): Iterable<Assertion> {
    for (const view of facts.of('layout-view')) {
      if (!view.textSize || view.role === 'picture') continue;
      const { unit, value } = view.textSize;
      const neededDp = GROWTH * LINE_HEIGHT * value;
      if (unit !== 'sp') yield { outcome: 'cantTell', draft: draftOf(view, 'unit', neededDp) };
      else if (view.heightDp !== undefined && view.heightDp < neededDp)
        yield { outcome: 'cantTell', draft: draftOf(view, 'height', neededDp) };
      else yield { outcome: 'passed' };
    }
  },
} satisfies Check;

const draftOf = (fact: LayoutViewFact, flaw: 'unit' | 'height', neededDp: number) => {
  const { evidence, heightDp = 0, layout, view } = fact;
  const { unit, value } = fact.textSize!;
  const size = `${Math.round(value * 10) / 10} ${unit}`;
  return {
    identity: { subject: `${layout} ${view}`, aspect: flaw },
    basis: 'estimated' as const,
    severity: flaw === 'unit' ? 2 : neededDp / heightDp,
    digest: `${size} ${heightDp}`,
    cause: flaw,
    occurrence: {
      evidence,
      shown: `${layout}, ${view}`,
      data: { flaw, heightDp, layout, neededDp: Math.ceil(neededDp), size, unit, view },
    },
  };
};
