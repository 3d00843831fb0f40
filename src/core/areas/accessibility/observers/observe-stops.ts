import type { StopFact } from '../../../model/fact.ts';
import { isLocaleTag, isRightToLeft } from '../../../model/locale.ts';
import { toolkitOf } from '../../../model/toolkit.ts';
import { cutBy, isField, isPicture } from '../../../model/ui-tree.ts';
import type { CaptureObserver } from '../../observer.ts';
import { type Stop, walkStops } from '../walk-stops.ts';

/** Where a screen reader stops, in its order, and what keeps it from actions. */
export const observeStops = {
  id: 'stops',
  reads: 'capture',
  *observe({ capture, digest, tree, pixels }) {
    const { carries, cell, platform } = capture;
    const rtl = isLocaleTag(cell.locale) && isRightToLeft(cell.locale);
    const toolkit = toolkitOf(tree, platform);
    const { stops, unreachable } = walkStops(tree, pixels, { platform, rtl });
    for (const [i, stop] of [...stops, ...unreachable].entries()) {
      const { actionable, boundsPx, enabled, key, name, nameFrom, node, shutInBy } = stop;
      yield {
        kind: 'stop',
        cell,
        evidence: digest,
        platform,
        element: { key, className: node.className, shown: name || stop.drawn.join(', '), boundsPx },
        toolkit,
        order: i + 1,
        actionable,
        enabled,
        name,
        nameFrom,
        roles: stop.roles,
        states: stop.states,
        drawn: stop.drawn,
        isField: isField(node),
        isPicture: isPicture(node),
        hasState: stop.isSwitched || node.selected || node.expanded !== undefined || !!node.value?.trim(),
        ...(node.longClickable && { longPress: true as const }),
        ...(shutInBy && { shutInBy }),
        ...(nameFrom === 'none' && isStrip(stop, pixels) && { cutBy: 'scroll' as const }),
        ...carried(stop, carries),
      } satisfies StopFact;
    }
  },
} satisfies CaptureObserver;

/** A row of which the edge of its scroller leaves so little that nothing of what it holds is in the tree. */
const isStrip = ({ ancestors, node, roles }: Stop, picture: { widthPx: number; heightPx: number }): boolean =>
  node.children.length === 0 &&
  !isPicture(node) &&
  roles.length === 0 &&
  cutBy({ node, ancestors }, picture) === 'scroll';

/** What is only known where the source carries it; left out, it is untested. */
const carried = ({ heading, node }: Stop, carries: readonly string[]) => ({
  ...(carries.includes('headings') && { heading }),
  ...(carries.includes('traits') && { traits: node.traits ?? [] }),
  ...(carries.includes('values') && { value: node.value?.trim() ?? '' }),
  ...(carries.includes('label-for') && { knowsLabels: true as const }),
  ...(carries.includes('actions') && { actions: node.actions ?? [] }),
  ...(carries.includes('gestures') && { swipeable: node.swipeable ?? false }),
});
