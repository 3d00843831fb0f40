/**
 * Touch targets: 48 × 48 dp on Android (Android accessibility guidance, *touch target size*), 44 × 44 pt on
 * iOS (Human Interface Guidelines, *Accessibility*). One picture pixel of rounding is allowed.
 */

import { z } from 'zod';
import type { TargetFact } from '../../../model/fact.ts';
import type { Limits } from '../../../model/limits.ts';
import { type Assertion, defineCheck, elementDraft } from '../../check.ts';
import { cut, round } from '../../words.ts';

const dataSchema = z.strictObject({
  widthDp: z.number(),
  heightDp: z.number(),
  required: z.number(),
  unit: z.string(),
  cutBy: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const smallTarget = defineCheck({
  id: 'small-target',
  area: 'accessibility',
  priority: 'harder',
  standard:
    'Android accessibility guidance (touch target size) and Human Interface Guidelines (Accessibility)',
  basis: 'either',
  needs: 'capture',
  reads: ['target'],
  limits: ['iosTargetPt', 'androidTargetDp'],
  data: dataSchema,
  words: ({ cutBy, heightDp, required, unit, widthDp }, { identity, occurrences }) => ({
    what: `Touch target ${occurrences[0]!.shown ? `“${cut(occurrences[0]!.shown)}”` : identity.subject} is too small${cutBy ? ', or cut off' : ''}`,
    measured: `${round(widthDp)} × ${round(heightDp)} ${unit}${cutBy ? `, cut by the ${cutBy === 'scroll' ? 'scrolling area' : 'screen edge'}` : ''}`,
    required: `${required} × ${required} ${unit} (${unit === 'pt' ? 'Human Interface Guidelines' : 'Android accessibility guidance'})`,
    why: cutBy
      ? 'Only a part of it is on the screen, so its whole size is not known.'
      : 'Small targets are missed by unsteady hands, and by everyone who is moving.',
    remedy: cutBy
      ? 'Capture the screen scrolled so that all of it shows.'
      : `Enlarge the element or its padding to ${required} ${unit}; what is drawn in it may stay as it is.`,
  }),

  *run(facts, intent) {
    const targets = facts.of('target');
    // a row cut by its scroller is decided by one like it that is seen whole
    const seenWhole = new Set(targets.filter((target) => !target.cutBy).map(rowKey));
    for (const target of targets) yield judgeTarget(target, intent.limits, seenWhole);
  },

  doc: {
    looksAt: 'The size of everything that can be tapped',
    against:
      '48 × 48 dp on Android, 44 × 44 pt on iOS, one pixel of rounding allowed. Estimated where an edge or a scroller cuts it. What lies behind a scrim is left out',
    matters: 'Small targets are missed by unsteady hands, and by everybody who is moving.',
    measured:
      'Width and height of everything that can be tapped, in dp or pt. One pixel of rounding is allowed.',
    errs: 'Where an edge or a scroller cuts the element it is estimated. A touch area that code enlarges is not in the capture.',
    fixes: [
      {
        where: 'Android, layout',
        language: 'xml',
        code: '<ImageButton android:minWidth="48dp" android:minHeight="48dp" />',
      },
      {
        where: 'iOS, SwiftUI',
        language: 'swift',
        code: 'icon.frame(minWidth: 44, minHeight: 44).contentShape(Rectangle())',
      },
    ],
  },
});

const rowKey = (target: TargetFact): string => `${target.cell.screen}|${target.element.key}`;

/** Elements of one style are as high as one another, whatever stands in them; or as wide. */
const shortSides = (widthDp: number, heightDp: number, required: number): string =>
  [['wide', widthDp] as const, ['high', heightDp] as const]
    .filter(([, size]) => size < required)
    .map(([side, size]) => `${Math.round(size)} ${side}`)
    .join(', ');

function judgeTarget(
  target: TargetFact,
  limits: Pick<Limits, 'iosTargetPt' | 'androidTargetDp'>,
  seenWhole: ReadonlySet<string>,
): Assertion<Data> {
  const { cell, cutBy, enabled, heightDp, pixelDp, widthDp } = target;
  const required = target.platform === 'ios' ? limits.iosTargetPt : limits.androidTargetDp;
  const short = required - Math.min(widthDp, heightDp);
  if (short <= pixelDp + 1e-9) return { outcome: 'passed', cell };
  if (!enabled || (cutBy && seenWhole.has(rowKey(target)))) return { outcome: 'inapplicable', cell };
  const draft = elementDraft(target, {
    basis: cutBy ? 'estimated' : 'measured',
    severity: short,
    digest: `${Math.round(widthDp)} × ${Math.round(heightDp)}${cutBy ? ' cut' : ''}`,
    cause: `${shortSides(widthDp, heightDp, required)}${cutBy ? ' cut' : ''}`,
    data: { widthDp, heightDp, required, unit: target.platform === 'ios' ? 'pt' : 'dp', cutBy: cutBy ?? '' },
  });
  return { outcome: cutBy ? 'cantTell' : 'failed', cell, draft };
}
