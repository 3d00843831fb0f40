/**
 * Touch targets: 48 × 48 dp on Android (Android accessibility guidance, *touch target size*), 44 × 44 pt on
 * iOS (Human Interface Guidelines, *Accessibility*). One picture pixel of rounding is allowed.
 */
import type { TargetFact } from '../../model/fact.ts';
import type { Intent } from '../../model/intent.ts';
import { type Assertion, type Check, elementDraft } from '../check.ts';

export const smallTarget = {
  id: 'small-target',
  area: 'accessibility',
  needs: ['capture', 'target'],
  *run(facts, intent) {
    const targets = facts.of('target');
    // a row cut by its scroller is decided by one of its kind that is seen whole
    const seenWhole = new Set(targets.filter((target) => !target.cutBy).map(rowKey));
    for (const target of targets) yield judgeTarget(target, intent.limits, seenWhole);
  },
} satisfies Check;

const rowKey = (target: TargetFact): string => `${target.cell.screen}|${target.element.key}`;

/** Elements of one style are as high as one another, whatever stands in them; or as wide. */
const shortSides = (widthDp: number, heightDp: number, required: number): string =>
  [['wide', widthDp] as const, ['high', heightDp] as const]
    .filter(([, size]) => size < required)
    .map(([side, size]) => `${Math.round(size)} ${side}`)
    .join(', ');

function judgeTarget(
  target: TargetFact,
  limits: Intent['limits'],
  seenWhole: ReadonlySet<string>,
): Assertion {
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
