/** WCAG 2.2, 2.5.8 Target Size (Minimum): 24 × 24 CSS px, or as much room about the centre. */

import { z } from 'zod';
import { defineCheck, elementDraft } from '../../check.ts';
import { quote, round } from '../../words.ts';

const MINIMUM = 24;

const dataSchema = z.strictObject({
  widthDp: z.number(),
  heightDp: z.number(),
  clearanceDp: z.number(),
  unit: z.string(),
});

export const crowdedTarget = defineCheck({
  id: 'crowded-target',
  area: 'accessibility',
  priority: 'harder',
  standard: 'WCAG 2.2, 2.5.8 Target Size (Minimum)',
  basis: 'measured',
  needs: 'capture',
  reads: ['target'],
  data: dataSchema,
  words: ({ clearanceDp, heightDp, unit, widthDp }, { identity, occurrences }) => ({
    what: `${quote(occurrences[0]!.shown || identity.subject)} is small, and others are close by`,
    measured: `${round(widthDp)} × ${round(heightDp)} ${unit}, ${round(clearanceDp)} ${unit} from its centre to the next`,
    required: `24 × 24 ${unit}, or 12 ${unit} of room about the centre (WCAG 2.2, 2.5.8)`,
    why: 'A finger that misses it hits its neighbour.',
    remedy: 'Make it larger, or give it room.',
  }),

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

  doc: {
    looksAt: 'Targets below 24 dp',
    against: 'WCAG 2.2, 2.5.8: 12 dp of room about the centre',
    matters: 'People with unsteady hands, and everybody who taps while walking, hit the neighbour instead.',
    measured:
      'The size of each target, and the distance from its centre to the nearest other target, in dp or pt. One pixel of rounding is allowed.',
    errs: 'A touch area that code enlarges beyond its view is not in the capture, so a target may be larger than it looks here.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'IconButton(onClick = onRemove, modifier = Modifier.size(48.dp)) { RemoveIcon() }',
      },
      {
        where: 'iOS, SwiftUI',
        language: 'swift',
        code: `Button(action: remove) { Image(systemName: "trash") }
    .frame(width: 44, height: 44)
    .contentShape(Rectangle())`,
      },
    ],
  },
});
