/** The OS's UI hierarchy dump of a laid-out screen, attribute for attribute as the platform writes it. */
import type { Orientation } from '../../../core/model/cell.ts';
import type { Box } from '../../../core/model/geometry.ts';
import type { Element } from '../app-model.ts';
import type { Placed } from './layout.ts';

export function dumpHierarchy(root: Placed, appId: string, orientation: Orientation): string {
  const rotation = orientation === 'landscape' ? 1 : 0;
  const lines = [
    "<?xml version='1.0' encoding='UTF-8' standalone='yes' ?>",
    `<hierarchy rotation="${rotation}">`,
  ];
  dumpNode(root, 0, appId, 1, lines);
  return [...lines, '</hierarchy>', ''].join('\n');
}

function dumpNode(
  { element, boundsPx, children }: Placed,
  index: number,
  appId: string,
  depth: number,
  lines: string[],
): void {
  const attributes: [string, string | number | boolean][] = [
    ['index', index],
    ['text', element.kind === 'text' ? element.text : ''],
    ['resource-id', element.id ? `${appId}:id/${element.id}` : ''],
    ['class', element.className ?? defaultClass(element)],
    ['package', appId],
    ['content-desc', element.contentDescription ?? ''],
    ['checkable', element.checkable ?? false],
    ['checked', element.checked ?? false],
    ['clickable', element.clickable ?? false],
    ['enabled', element.enabled ?? true],
    ['focusable', element.focusable ?? element.clickable ?? false],
    ['focused', element.focused ?? false],
    ['scrollable', element.scrollable ?? false],
    ['long-clickable', element.longClickable ?? false],
    ['password', element.password ?? false],
    ['selected', element.selected ?? false],
    ['bounds', formatBounds(boundsPx)],
  ];
  if (element.hint !== undefined) attributes.splice(2, 0, ['hint', element.hint]);
  const head = `${'  '.repeat(depth)}<node ${attributes.map(([name, value]) => `${name}="${escapeAttribute(String(value))}"`).join(' ')}`;
  if (children.length === 0) {
    lines.push(`${head} />`);
    return;
  }
  lines.push(`${head}>`);
  // what has no size, or lies wholly outside its scroller, is not on the screen, and the platform leaves it out
  const shown = children
    .filter(({ boundsPx: { height, width } }) => height > 0 && width > 0)
    .filter((child) => !element.scrollable || overlaps(child.boundsPx, boundsPx));
  shown.forEach((child, i) => {
    dumpNode(child, i, appId, depth + 1, lines);
  });
  lines.push(`${'  '.repeat(depth)}</node>`);
}

const defaultClass = (element: Element): string =>
  ({ box: 'android.view.ViewGroup', text: 'android.widget.TextView', picture: 'android.widget.ImageView' })[
    element.kind
  ];

const formatBounds = ({ x, y, width, height }: Box): string => `[${x},${y}][${x + width},${y + height}]`;

const overlaps = (a: Box, b: Box): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

const ESCAPES: Record<string, string> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  '\n': '&#10;',
};
const escapeAttribute = (text: string): string => text.replace(/[&<>"\n]/g, (c) => ESCAPES[c]!);
