/** Targets that lie over one another: a tap on what they share goes to one of them. */

import { z } from 'zod';
import { defineCheck, elementDraft } from '../../check.ts';
import { quote, round } from '../../words.ts';

// Rounding to pixels, and hairlines that rows share.
const ALLOWED_DP = 2;

const dataSchema = z.strictObject({
  other: z.string(),
  widthDp: z.number(),
  heightDp: z.number(),
  unit: z.string(),
});

export const overlappingTargets = defineCheck({
  id: 'overlapping-targets',
  area: 'accessibility',
  priority: 'harder',
  standard: 'Android accessibility guidance and Human Interface Guidelines, touch targets',
  basis: 'measured',
  needs: 'capture',
  reads: ['target'],
  data: dataSchema,
  words: ({ heightDp, other, unit, widthDp }, { identity, occurrences }) => ({
    what: `${quote(occurrences[0]!.shown || identity.subject)} and ${quote(other)} lie over one another`,
    measured: `${round(widthDp)} × ${round(heightDp)} ${unit} in common`,
    required: 'targets that do not overlap',
    why: 'A tap on what they share goes to one of them, and nobody knows to which.',
    remedy: 'Move them apart, or let one touch area end where the other begins.',
  }),

  *run(facts) {
    for (const target of facts.of('target')) {
      const { cell } = target;
      const [worst] = target.overlaps
        .filter(({ heightDp, widthDp }) => Math.min(heightDp, widthDp) > ALLOWED_DP)
        .sort((a, b) => b.widthDp * b.heightDp - a.widthDp * a.heightDp);
      // of a pair, one reports both
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

  doc: {
    looksAt: 'Everything that can be tapped, unless one lies within the other',
    against: 'No more than 2 dp in common',
    matters: 'A tap on what two targets share goes to one of them, and nobody can know to which.',
    measured:
      'The area that two targets have in common, in dp or pt; up to 2 are allowed for rounding and hairlines.',
    errs: 'What lies within another target, such as a button in a row, is no overlap and left out; so is what scrolls under a bar or a floating button. A swipe mostly brings it out; where it cannot, the overlap is not found.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'Row(horizontalArrangement = Arrangement.spacedBy(8.dp)) { /* the two buttons */ }',
      },
      { where: 'iOS, SwiftUI', language: 'swift', code: 'HStack(spacing: 8) { first; second }' },
    ],
  },
});
