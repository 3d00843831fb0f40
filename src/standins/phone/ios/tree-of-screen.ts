/** A laid-out screen as a UI test on iOS sees it: types of elements, labels, values, frames in points. */
import type { Element } from '../app-model.ts';
import type { Placed } from '../screen/layout.ts';

export interface TreeNode {
  kind: string;
  identifier?: string;
  label?: string;
  value?: string;
  placeholder?: string;
  frame: { x: number; y: number; width: number; height: number };
  enabled?: boolean;
  selected?: boolean;
  focused?: boolean;
  children?: TreeNode[];
}

/** Under the app, which has its name, and its window. */
export const treeOfScreen = (root: Placed, { name, scale }: { name: string; scale: number }): TreeNode => ({
  kind: 'application',
  ...(name && { label: name }),
  frame: frameOf(root, scale),
  children: [{ kind: 'window', frame: frameOf(root, scale), children: [nodeOf(root, scale)] }],
});

function nodeOf(placed: Placed, scale: number): TreeNode {
  const { boundsPx, element } = placed;
  const kind = kindOf(element);
  const isEmptyField = element.kind === 'text' && element.hint !== undefined && element.hint === element.text;
  const text = element.kind === 'text' && !isEmptyField ? element.text : '';
  const isField = kind === 'textField';
  // what scrolled away is not in the tree
  const children = element.scrollable
    ? placed.children.filter(
        ({ boundsPx: b }) => b.y < boundsPx.y + boundsPx.height && b.y + b.height > boundsPx.y,
      )
    : placed.children;
  const label = isField ? '' : labelOf(placed, kind, text);
  // a navigation bar is called by its title (XCUIElement, `navigationBars`)
  const identifier = kind === 'navigationBar' ? titleOf(placed) : element.id;
  const value = isField ? text : stateOf(element, kind);
  return {
    kind,
    ...(identifier && { identifier }),
    ...(label && { label }),
    ...(value && { value }),
    ...(element.hint && { placeholder: element.hint }),
    frame: frameOf(placed, scale),
    ...(element.enabled === false && { enabled: false }),
    ...(element.selected && { selected: true }),
    ...(element.focused && { focused: true }),
    ...(children.length > 0 && { children: children.map((child) => nodeOf(child, scale)) }),
  };
}

/** A control without words of its own is called by what stands inside of it. */
function labelOf(placed: Placed, kind: string, text: string): string {
  const { contentDescription = '' } = placed.element;
  if (contentDescription || text) return contentDescription || text;
  return SPEAKS_FOR_ITS_CONTENT.has(kind) ? textsIn(placed).join(', ') : '';
}

const SPEAKS_FOR_ITS_CONTENT = new Set(['button', 'switch', 'link', 'cell']);

const textsIn = ({ children, element }: Placed): string[] =>
  element.kind === 'text' ? [element.text] : children.flatMap(textsIn);

/** What of a bar is no button. */
const titleOf = ({ children, element }: Placed): string | undefined =>
  element.kind === 'text'
    ? element.text
    : children.flatMap((child) => (child.element.clickable ? [] : (titleOf(child) ?? [])))[0];

function stateOf({ checkable, checked, value }: Element, kind: string): string | undefined {
  // what tells its state does so in the system's own words for a switch
  if (kind === 'switch' && checkable) return checked ? '1' : '0';
  return value;
}

function kindOf(element: Element): string {
  const { bar, className = '', clickable, scrollable, traits = [] } = element;
  if (bar) return bar === 'tabs' ? 'tabBar' : 'navigationBar';
  if (traits.includes('dialog')) return 'alert';
  if (className.endsWith('EditText')) return 'textField';
  if (className === 'SBIconView') return 'icon';
  if (traits.includes('switch')) return 'switch';
  if (traits.includes('link')) return 'link';
  if (clickable || traits.includes('button') || traits.includes('tab')) return 'button';
  if (scrollable) return 'scrollView';
  return { box: 'other', text: 'staticText', picture: 'image' }[element.kind];
}

const frameOf = ({ boundsPx: { height, width, x, y } }: Placed, scale: number): TreeNode['frame'] => ({
  x: x / scale,
  y: y / scale,
  width: width / scale,
  height: height / scale,
});
