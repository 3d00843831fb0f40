/** Targets that lie over one another: a tap on what they share goes to one of them. */
import { type Check, elementDraft } from '../check.ts';

// Rounding to pixels, and hairlines that rows share.
const ALLOWED_DP = 2;

export const overlappingTargets = {
  id: 'overlapping-targets',
  area: 'accessibility',
  needs: ['capture', 'target'],
  *run(facts) {
    for (const target of facts.of('target')) {
      const { cell } = target;
      const [worst] = target.overlaps
        .filter(({ heightDp, widthDp }) => Math.min(heightDp, widthDp) > ALLOWED_DP)
        .sort((a, b) => b.widthDp * b.heightDp - a.widthDp * a.heightDp);
      // of a pair, one tells of both
      if (!worst || !target.enabled) yield { outcome: 'passed', cell };
      else if (worst.key < target.element.key) yield { outcome: 'inapplicable', cell };
      else
        yield {
          outcome: 'failed',
          cell,
          draft: elementDraft(target, {
            basis: 'measured',
            severity: Math.min(worst.widthDp, worst.heightDp),
            digest: `${worst.key} ${Math.round(worst.widthDp)} × ${Math.round(worst.heightDp)}`,
            data: {
              other: worst.shown || worst.key,
              widthDp: worst.widthDp,
              heightDp: worst.heightDp,
              unit: target.platform === 'ios' ? 'pt' : 'dp',
            },
          }),
        };
    }
  },
} satisfies Check;
