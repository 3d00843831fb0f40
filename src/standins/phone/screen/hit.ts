/** What lies under a finger. */
import type { Box } from '../../../core/model/geometry.ts';
import type { Placed } from './layout.ts';

export const contains = ({ height, width, x, y }: Box, px: number, py: number): boolean =>
  px >= x && px < x + width && py >= y && py < y + height;

export const isScroller = ({ element }: Placed): boolean => element.scrolls !== undefined;

/** From the root to the innermost element at a point, the topmost where several lie there. */
export function pathTo(root: Placed, x: number, y: number): Placed[] {
  if (!contains(root.boundsPx, x, y)) return [];
  for (const child of [...root.children].reverse()) {
    const path = pathTo(child, x, y);
    if (path.length > 0) return [root, ...path];
  }
  return [root];
}

export const hitAt = (root: Placed, x: number, y: number): Placed | undefined =>
  pathTo(root, x, y).findLast(({ element }) => element.clickable);

export function indexOf(root: Placed, wanted: Placed): number {
  const same: Placed[] = [];
  const walk = (placed: Placed) => {
    if (placed.element.id === wanted.element.id) same.push(placed);
    placed.children.forEach(walk);
  };
  walk(root);
  return same.indexOf(wanted);
}
