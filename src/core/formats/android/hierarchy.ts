/**
 * The OS's UI hierarchy dump: `<hierarchy rotation="0"><node text="" class="" bounds="[l,t][r,b]" …>…`.
 * It carries no headings, live regions, custom actions or traversal links; those are untested on it.
 */
import { SaxesParser, type SaxesTagPlain } from 'saxes';
import type { Box } from '../../model/geometry.ts';
import { attempt, type Result, UnreadableError } from '../../model/problem.ts';
import type { UiNode } from '../../model/ui-tree.ts';

const MAX_NODES = 100_000;
const MAX_DEPTH = 512;

/** Reads a dump; several windows become children of one root that spans them. */
export function readHierarchy(file: string, xml: string): Promise<Result<UiNode>> {
  return attempt(file, () => {
    const windows: UiNode[] = [];
    const open: UiNode[] = [];
    let count = 0;
    let sawHierarchy = false;
    const parser = new SaxesParser();
    const at = () => `line ${parser.line}, column ${parser.column}`;

    parser.on('error', (error) => {
      throw new UnreadableError({
        code: 'hierarchy.xml',
        place: at(),
        found: `XML that cannot be read: ${error.message.replace(/^.*?\d+:\d+: /, '')}`,
        expected: 'a whole UI hierarchy dump',
        remedy: 'Dump the screen again; a dump taken while the screen animates may be cut off.',
      });
    });
    parser.on('opentag', (tag: SaxesTagPlain) => {
      if (tag.name === 'hierarchy') sawHierarchy = true;
      if (tag.name !== 'node') return;
      count += 1;
      if (count > MAX_NODES || open.length >= MAX_DEPTH)
        throw new UnreadableError({
          code: 'hierarchy.too-large',
          place: at(),
          found: `more than ${count > MAX_NODES ? `${MAX_NODES} nodes` : `${MAX_DEPTH} levels`}`,
        });
      const node = nodeOf(tag.attributes as Record<string, string>, at());
      (open.at(-1)?.children ?? windows).push(node);
      open.push(node);
    });
    parser.on('closetag', (tag) => {
      if (tag.name === 'node') open.pop();
    });
    parser.write(withoutToolLine(xml)).close();

    if (!sawHierarchy || windows.length === 0)
      throw new UnreadableError({
        code: 'hierarchy.none',
        found: 'XML without a <hierarchy> of <node> elements',
        expected: 'a UI hierarchy dump',
      });
    return windows.length === 1
      ? windows[0]!
      : { ...nodeOf({}, ''), bounds: span(windows.map((window) => window.bounds)), children: windows };
  });
}

function nodeOf(attributes: Record<string, string>, place: string): UiNode {
  const is = (name: string) => attributes[name] === 'true';
  return {
    className: attributes.class ?? '',
    id: (attributes['resource-id'] ?? '').replace(/^[^:]*:id\//, ''),
    text: attributes.text ?? '',
    label: attributes['content-desc'] ?? '',
    hint: attributes.hint ?? '',
    bounds:
      attributes.bounds === undefined
        ? { x: 0, y: 0, width: 0, height: 0 }
        : boundsOf(attributes.bounds, place),
    clickable: is('clickable'),
    longClickable: is('long-clickable'),
    checkable: is('checkable'),
    checked: is('checked'),
    enabled: attributes.enabled !== 'false',
    focusable: is('focusable'),
    scrollable: is('scrollable'),
    selected: is('selected'),
    focused: is('focused'),
    password: is('password'),
    visible: attributes['visible-to-user'] !== 'false',
    children: [],
  };
}

// dumping to the terminal, the platform's tool says so on the same stream, in its own spelling
const withoutToolLine = (xml: string): string =>
  xml.replace(/(<\/hierarchy>)\s*UI hier\w* dumped to: \S+\s*$/, '$1');

/** `[left,top][right,bottom]` in pixels. The platform itself writes upside-down bounds for what is scrolled away: zero-sized. */
function boundsOf(text: string, place: string): Box {
  const match = /^\[(-?\d+),(-?\d+)\]\[(-?\d+),(-?\d+)\]$/.exec(text);
  if (!match)
    throw new UnreadableError({
      code: 'hierarchy.bounds',
      place,
      found: `bounds ${JSON.stringify(text)}`,
      expected: '"[left,top][right,bottom]" in pixels',
    });
  const [left, top, right, bottom] = match.slice(1).map(Number) as [number, number, number, number];
  return { x: left, y: top, width: Math.max(0, right - left), height: Math.max(0, bottom - top) };
}

function span(boxes: Box[]): Box {
  const right = Math.max(...boxes.map((box) => box.x + box.width));
  const bottom = Math.max(...boxes.map((box) => box.y + box.height));
  const x = Math.min(...boxes.map((box) => box.x));
  const y = Math.min(...boxes.map((box) => box.y));
  return { x, y, width: right - x, height: bottom - y };
}
