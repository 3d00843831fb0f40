/** What lies over the app and takes its touches: the scrim of a sheet or a dialog. */
import { area, type Box, intersect } from './geometry.ts';
import type { VisibleNode } from './ui-tree.ts';

// Of the screen: bars and the sheet itself may leave a little of it free.
const LEAST_SCREEN = 0.75;
// Of an element: what sticks out further is in front of nothing.
const LEAST_COVERED = 0.5;

/** Those that nobody can act on, and whose colours are not the app's, while something lies over them. */
export function behindCurtains(
  nodes: readonly VisibleNode[],
  picture: { widthPx: number; heightPx: number },
): Set<VisibleNode> {
  const screenPx = picture.widthPx * picture.heightPx;
  const curtains = nodes.filter((node) => isScrim(node, screenPx));
  const behind = new Set<VisibleNode>();
  for (const curtain of curtains) for (const item of nodes) if (isBehind(item, curtain)) behind.add(item);
  return behind;
}

/** Over almost the whole screen, to be tapped, and with nothing to show of its own: a tap on it closes what lies on it. */
const isScrim = ({ node, visiblePx }: VisibleNode, screenPx: number): boolean =>
  area(visiblePx) >= screenPx * LEAST_SCREEN &&
  node.clickable &&
  !node.scrollable &&
  node.text.trim() === '' &&
  !/WebView|SurfaceView|Image/.test(node.className);

function isBehind(item: VisibleNode, curtain: VisibleNode): boolean {
  if (item.order >= curtain.order || curtain.ancestors.includes(item.node)) return false;
  const covered: Box = intersect(item.visiblePx, curtain.visiblePx);
  return area(covered) >= area(item.visiblePx) * LEAST_COVERED;
}
