/** Where the focus of a hardware keyboard goes, as the platform moves it (AOSP, android.view.FocusFinder). */
import type { Element } from '../app-model.ts';
import type { Placed } from '../screen/layout.ts';

export type FocusMove = 'forward' | 'backward' | 'up' | 'down' | 'left' | 'right';

/** Which of an element's children, on the way down from the window's root: `0.2.1`. */
type ElementPath = string;

interface Focusable {
  path: ElementPath;
  placed: Placed;
  /** The innermost scroller that holds it. */
  scroller: Placed | undefined;
}

/** All that takes the focus, by rows from the top, each from its start. */
export function focusablesOf(root: Placed, rtl: boolean): Focusable[] {
  const found: Focusable[] = [];
  const walk = (placed: Placed, path: string, scroller: Placed | undefined) => {
    const { clickable, enabled, focusable, scrolls } = placed.element;
    const { height, width } = placed.boundsPx;
    if ((focusable ?? clickable) && enabled !== false && height > 0 && width > 0)
      found.push({ path, placed, scroller });
    const inner = scrolls === undefined ? scroller : placed;
    placed.children.forEach((child, i) => {
      walk(child, path === '' ? String(i) : `${path}.${i}`, inner);
    });
  };
  walk(root, '', undefined);
  const start = ({ placed: { boundsPx: b } }: Focusable): number => (rtl ? -(b.x + b.width) : b.x);
  return found.sort((a, b) => a.placed.boundsPx.y - b.placed.boundsPx.y || start(a) - start(b));
}

/** Undefined where it stays. */
export function nextFocus(
  all: readonly Focusable[],
  from: ElementPath | undefined,
  move: FocusMove,
): Focusable | undefined {
  const at = all.findIndex(({ path }) => path === from);
  const current = all[at];
  if (!current) return all[0];
  if (current.placed.element.takesKeys) return undefined;
  if (move === 'forward') return all[(at + 1) % all.length];
  if (move === 'backward') return all[(at - 1 + all.length) % all.length];
  const own = current.placed.boundsPx;
  const beyond: Record<typeof move, (b: Placed['boundsPx']) => boolean> = {
    up: (b) => b.y + b.height <= own.y,
    down: (b) => b.y >= own.y + own.height,
    left: (b) => b.x + b.width <= own.x,
    right: (b) => b.x >= own.x + own.width,
  };
  const [x, y] = [own.x + own.width / 2, own.y + own.height / 2];
  const far = ({ placed: { boundsPx: b } }: Focusable) =>
    Math.hypot(b.x + b.width / 2 - x, b.y + b.height / 2 - y);
  return all.filter(({ placed }) => beyond[move](placed.boundsPx)).sort((a, b) => far(a) - far(b))[0];
}

/** The window with that element in focus; the platform shows it, unless the app says otherwise. */
export function withKeyFocus(element: Element, path: ElementPath | undefined): Element {
  if (path === undefined) return element;
  if (path === '') return { ...element, focused: true, showsFocus: element.focusHighlight !== false };
  if (element.kind !== 'box') return element;
  const [head, ...rest] = path.split('.');
  return {
    ...element,
    children: element.children.map((child, i) =>
      i === Number(head) ? withKeyFocus(child, rest.join('.')) : child,
    ),
  };
}
