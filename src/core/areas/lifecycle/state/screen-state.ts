/**
 * The state of a screen, as a person would miss it: typed and shown texts, what is checked, chosen and focused, how far lists are
 * scrolled. Elements have keys that hold no text, so that the same one is found again.
 */
import type { Box } from '../../../model/geometry.ts';
import { isField, type PlacedNode, placeNodes, type UiNode } from '../../../model/ui-tree.ts';

export interface ElementState {
  key: string;
  /** Among those of the same key and scroller, in drawing order. */
  ordinal: number;
  text: string;
  checked: boolean;
  selected: boolean;
  focused: boolean;
  isField: boolean;
  bounds: Box;
}

export interface Scroller {
  key: string;
  bounds: Box;
  elements: ElementState[];
}

export interface ScreenState {
  /** Outside of every scroller. */
  fixed: ElementState[];
  scrollers: Scroller[];
}

export function screenState(root: UiNode): ScreenState {
  const placed = placeNodes(root).filter(({ node }) => node.visible);
  const byScroller = new Map<UiNode, { key: string; elements: ElementState[] }>();
  for (const { key, node } of placed) if (node.scrollable) byScroller.set(node, { key, elements: [] });
  const fixed: ElementState[] = [];
  const counts = new Map<string, number>();
  for (const one of placed) {
    const scroller = one.ancestors.findLast(({ scrollable }) => scrollable);
    const home = scroller ? byScroller.get(scroller)! : { key: '', elements: fixed };
    const counted = `${home.key}|${one.key}`;
    const ordinal = counts.get(counted) ?? 0;
    counts.set(counted, ordinal + 1);
    home.elements.push(stateOf(one, ordinal));
  }
  return {
    fixed,
    scrollers: [...byScroller].map(([node, { elements, key }]) => ({ key, bounds: node.bounds, elements })),
  };
}

const stateOf = ({ key, node }: PlacedNode, ordinal: number): ElementState => ({
  key,
  ordinal,
  // a field that shows its hint holds nothing
  text: isField(node) && node.text === node.hint ? '' : node.text,
  checked: node.checked,
  selected: node.selected,
  focused: node.focused,
  isField: isField(node),
  bounds: node.bounds,
});

// Before a text in an outline, which no id begins with.
const TEXT = '"';
const MARK = `${TEXT}${TEXT}`;

/**
 * The elements that make the screen what it is, whatever is done on it: those with ids that do not scroll, and the scrollers.
 * Where few have ids, the texts that stand around the scrollers tell it, the first of them and those that are chosen above all.
 */
export function screenOutline(root: UiNode): string[] {
  const fixed = placeNodes(root).filter(
    ({ ancestors, node }) => node.visible && !ancestors.some(({ scrollable }) => scrollable),
  );
  const ids = fixed.flatMap(({ node: { id } }) => (id ? [id] : []));
  const said = fixed.filter(({ node }) => !isField(node) && (node.text || node.label));
  const texts = said.flatMap(({ node: { label, selected, text } }, i) => [
    `${TEXT}${text || label}`,
    ...(i === 0 ? [`${TEXT}first ${text || label}`] : []),
    ...(selected ? [`${TEXT}chosen ${text || label}`] : []),
  ]);
  return [...new Set([...ids, ...texts, ...marksOn(root)])].sort();
}

/** What names a screen where the system gives it no name: the title in its navigation bar, the tab that is chosen. */
function marksOn(root: UiNode): string[] {
  return placeNodes(root).flatMap(({ ancestors, node }) => {
    if (node.className === 'UINavigationBar' && node.value) return [`${MARK}${node.value}`];
    const isTab = node.selected && ancestors.some(({ className }) => className === 'UITabBar');
    return isTab && node.label ? [`${MARK}tab ${node.label}`] : [];
  });
}

/** Of the navigation bar, or the tab that is chosen; empty where nothing says. */
export const titleIn = (outline: readonly string[]): string => {
  const marks = outline.filter((one) => one.startsWith(MARK)).map((one) => one.slice(MARK.length));
  return marks.find((mark) => !mark.startsWith('tab ')) ?? marks[0] ?? '';
};

/** What a screen would be called by its user: the title in its bar, else the first text on it. */
export const headlineOf = (root: UiNode): string =>
  titleIn(marksOn(root)) || (placeNodes(root).find(({ node }) => node.text)?.node.text ?? '');

/** From here on two outlines are of one screen: they share most where a dialog or a hint has come or gone. */
export const SAME_SCREEN = 0.6;

/** An outline without its texts. */
export const idsIn = (outline: readonly string[]): string[] => outline.filter((one) => !one.startsWith(TEXT));

// With fewer ids than that, texts count as well.
const ENOUGH_IDS = 4;

/** 0 where two outlines share nothing, 1 where they are the same (Jaccard). Two screens that are named otherwise are not the same. */
export function similarity(a: readonly string[], b: readonly string[]): number {
  const hasIds = Math.min(idsIn(a).length, idsIn(b).length) >= ENOUGH_IDS;
  const [inA, inB] = hasIds ? [new Set(idsIn(a)), new Set(idsIn(b))] : [new Set(a), new Set(b)];
  const shared = [...inA].filter((one) => inB.has(one)).length;
  const all = inA.size + inB.size - shared;
  const shares = all === 0 ? 1 : shared / all;
  return areNamedApart(a, b) ? Math.min(shares, LESS_THAN_SAME) : shares;
}

const LESS_THAN_SAME = SAME_SCREEN - 0.1;

function areNamedApart(a: readonly string[], b: readonly string[]): boolean {
  const [inA, inB] = [a, b].map((outline) => outline.filter((one) => one.startsWith(MARK)));
  return inA!.length > 0 && inB!.length > 0 && !inA!.some((mark) => inB!.includes(mark));
}
