/**
 * Where a screen reader stops and what it has to say there. A stop is an actionable element,
 * or a text that no actionable ancestor speaks for; an actionable element without a label or text of its
 * own gathers those of its non-actionable descendants.
 */
import type { StopFact } from '../../model/fact.ts';
import { isActionable, type UiNode, visibleNodes } from '../../model/ui-tree.ts';
import type { CaptureObserver } from '../observer.ts';

export const observeStops = {
  id: 'stops',
  version: 1,
  reads: 'capture',
  *observe({ capture, digest, tree, pixels }) {
    for (const { ancestors, key, node, visiblePx } of visibleNodes(tree, pixels)) {
      const actionable = isActionable(node);
      if (!actionable && !(speech(node) && !ancestors.some(isActionable))) continue;
      yield {
        kind: 'stop',
        cell: capture.cell,
        evidence: digest,
        platform: capture.platform,
        element: {
          key,
          className: node.className,
          shown: speech(node) || gather(node).join(', '),
          boundsPx: visiblePx,
        },
        actionable,
        enabled: node.enabled,
        ...nameOf(node),
      } satisfies StopFact;
    }
  },
} satisfies CaptureObserver;

const speech = (node: UiNode): string => node.label.trim() || node.text.trim();

function nameOf(node: UiNode): Pick<StopFact, 'name' | 'nameFrom'> {
  if (node.label.trim()) return { name: node.label.trim(), nameFrom: 'label' };
  if (node.text.trim()) return { name: node.text.trim(), nameFrom: 'text' };
  const gathered = gather(node);
  if (gathered.length > 0) return { name: gathered.join(', '), nameFrom: 'gathered' };
  if (node.hint.trim()) return { name: node.hint.trim(), nameFrom: 'hint' };
  return { name: '', nameFrom: 'none' };
}

/** Texts and labels of descendants that are not actionable themselves, in drawing order. */
function gather(node: UiNode): string[] {
  return node.children.flatMap((child) => {
    if (isActionable(child) || !child.visible) return [];
    const own = speech(child);
    return own ? [own] : gather(child);
  });
}
