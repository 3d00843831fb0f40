import type { ScreenTextFact } from '../../../model/fact.ts';
import { isLocaleTag, isRightToLeft } from '../../../model/locale.ts';
import { coversOf, cutBy, isField, type UiNode, visibleNodes } from '../../../model/ui-tree.ts';
import type { CaptureObserver } from '../../observer.ts';
import { endsInEllipsis } from '../screens/find-ellipsis.ts';

/** How many texts each node holds. */
function countTexts(root: UiNode): Map<UiNode, number> {
  const counts = new Map<UiNode, number>();
  const count = (node: UiNode): number => {
    const sum = node.children.reduce((all, child) => all + (child.text.trim() ? 1 : 0) + count(child), 0);
    counts.set(node, sum);
    return sum;
  };
  count(root);
  return counts;
}

/** iOS calls a control by the texts inside of it, one after another: those are told by themselves. */
function isMadeOfInside(node: UiNode): boolean {
  const inside = textsIn(node);
  if (inside.length < 2) return false;
  let rest = node.label;
  for (const text of inside.toSorted((a, b) => b.length - a.length)) rest = rest.replace(text, '');
  return !/[\p{L}\p{N}]/u.test(rest);
}

const textsIn = ({ children }: UiNode): string[] =>
  children.flatMap((child) => [...(child.text.trim() ? [child.text.trim()] : []), ...textsIn(child)]);

/** Every text that a capture shows or that a screen reader speaks there. */
export const observeScreenTexts = {
  id: 'screen-texts',
  reads: 'capture',
  *observe({ capture, digest, pixels, tree }) {
    const nodes = visibleNodes(tree, pixels);
    const counts = countTexts(tree);
    const { locale } = capture.cell;
    const rtl = isLocaleTag(locale) && isRightToLeft(locale);
    for (const item of nodes) {
      const { key, node, visiblePx: boundsPx } = item;
      const scroller = item.ancestors.findLast((ancestor) => ancestor.scrollable);
      const holder = item.ancestors.findLast((ancestor) => counts.get(ancestor)! > 1);
      const fact = (text: string, from: ScreenTextFact['from']): ScreenTextFact => ({
        kind: 'screen-text',
        cell: capture.cell,
        evidence: digest,
        platform: capture.platform,
        element: { key, className: node.className, shown: text, boundsPx },
        text,
        from,
        isField: isField(node),
        order: item.order,
        ...(scroller && { scrollerPx: scroller.bounds }),
        ...(holder && holder !== scroller && { holderPx: holder.bounds }),
      });
      if (node.text.trim()) {
        const isCut =
          !/(…|\.\.\.)\s*$/.test(node.text) &&
          !cutBy(item, pixels) &&
          endsInEllipsis(pixels, boundsPx, coversOf(item, nodes), rtl);
        yield { ...fact(node.text, 'text'), ...(isCut && { ellipsized: true }) };
      }
      if (node.label.trim() && node.label !== node.text && !isMadeOfInside(node))
        yield fact(node.label, 'label');
    }
  },
} satisfies CaptureObserver;
