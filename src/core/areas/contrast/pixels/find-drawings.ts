/** What is drawn beside a text: marks that lie together, as boxes of the picture. */
import type { Box } from '../../../model/geometry.ts';
import { type Mark, markHeight, markWidth } from './find-ink.ts';
import type { Area } from './sample-area.ts';

const LEAST_PX = 8;
const LEAST_INK = 16;
// Of the smaller one's size: parts of one drawing lie nearer to one another.
const TOGETHER = 0.6;

export function drawingsOf(marks: readonly Mark[], { left, top }: Area): Box[] {
  const groups: Mark[] = [];
  for (const mark of [...marks].sort((a, b) => b.count - a.count)) {
    const group = groups.find((other) => lieTogether(mark, other));
    if (group) join(group, mark);
    else groups.push({ ...mark });
  }
  return groups
    .filter((group) => Math.max(markWidth(group), markHeight(group)) >= LEAST_PX && group.count >= LEAST_INK)
    .map((group) => ({
      x: left + group.left,
      y: top + group.top,
      width: markWidth(group),
      height: markHeight(group),
    }));
}

function lieTogether(mark: Mark, group: Mark): boolean {
  const reach = Math.max(3, TOGETHER * Math.max(markHeight(group), markWidth(group)) * 0.5);
  const across = Math.max(group.left - mark.right, mark.left - group.right);
  const down = Math.max(group.top - mark.bottom, mark.top - group.bottom);
  return across <= reach && down <= reach;
}

function join(group: Mark, mark: Mark): void {
  group.left = Math.min(group.left, mark.left);
  group.right = Math.max(group.right, mark.right);
  group.top = Math.min(group.top, mark.top);
  group.bottom = Math.max(group.bottom, mark.bottom);
  group.count += mark.count;
}
