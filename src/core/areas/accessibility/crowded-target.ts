/** WCAG 2.2, 2.5.8 Target Size (Minimum): 24 × 24 CSS px, or as much room about the centre. */
import { type Check, elementDraft } from '../check.ts';

const MINIMUM = 24;

export const crowdedTarget = {
  id: 'crowded-target',
  area: 'accessibility',
  needs: ['capture', 'target'],
  *run(facts) {
    for (const target of facts.of('target')) {
      const { cell, clearanceDp, heightDp, pixelDp, widthDp } = target;
      const isBig = Math.min(widthDp, heightDp) + pixelDp >= MINIMUM;
      if (isBig || !target.enabled || target.cutBy)
        yield { outcome: isBig ? 'passed' : 'inapplicable', cell };
      else if (clearanceDp + pixelDp >= MINIMUM / 2) yield { outcome: 'passed', cell };
      else
        yield {
          outcome: 'failed',
          cell,
          draft: elementDraft(target, {
            basis: 'measured',
            severity: MINIMUM / 2 - clearanceDp,
            digest: `${Math.round(widthDp)} × ${Math.round(heightDp)}, ${Math.round(clearanceDp)}`,
            data: { widthDp, heightDp, clearanceDp, unit: target.platform === 'ios' ? 'pt' : 'dp' },
          }),
        };
    }
  },
} satisfies Check;
