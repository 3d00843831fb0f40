/** From an app's element tree to boxes in picture pixels: flexbox by yoga, lines broken between words. */
import {
  Align,
  Direction,
  Edge,
  FlexDirection,
  Gutter,
  Justify,
  loadYoga,
  MeasureMode,
  type Node,
  type Yoga,
} from 'yoga-layout/load';
import type { Box } from '../../../core/model/geometry.ts';
import type { Edges, Element, Style, TextElement } from '../app-model.ts';
import type { PhoneShape } from '../shapes.ts';
import type { FontWeight, Typeface } from './typeface.ts';

/** One element with its place on the screen. */
export interface Placed {
  element: Element;
  boundsPx: Box;
  /** The bounds without the padding: where text is drawn. */
  contentPx: Box;
  /** Lines of a text element, as broken for its width. */
  lines: string[];
  /** Of a scroller: how far it can be scrolled, in dp. */
  scrollRangeDp?: number;
  children: Placed[];
}

export interface LayoutSettings {
  shape: PhoneShape;
  typeface: Typeface;
  rtl: boolean;
  textScale: number;
  /** Where text does not grow by the scale alone: its size for one at 100 %. */
  sizeOf?: ((sizeSp: number) => number) | undefined;
  /** What bold text adds to every weight. */
  extraWeight: number;
}

export const LINE_HEIGHT = 1.35;

let yogaLoading: Promise<Yoga> | undefined;

/** A whole screen, or what lies over one: in the middle, or at its lower edge. */
export type Window = 'screen' | 'dialog' | 'sheet';

const MARGIN_DP: Readonly<Record<Window, number>> = { screen: 0, dialog: 28, sheet: 8 };
const WIDEST_DIALOG_DP = 560;

/** Lays a screen out under the status bar and above the navigation bar; a dialog or a sheet as high as it wants. */
export async function layOut(
  root: Element,
  settings: LayoutSettings,
  window: Window = 'screen',
): Promise<Placed> {
  yogaLoading ??= loadYoga();
  const yoga = await yogaLoading;
  const { shape, rtl } = settings;
  const scale = shape.densityDpi / 160;
  const widthDp = shape.widthPx / scale;
  const heightDp = shape.heightPx / scale - shape.statusBarDp - shape.navigationBarDp;
  const node = nodeOf(yoga, root, settings);
  const leastDp = MARGIN_DP[window];
  const marginDp = window === 'screen' ? 0 : Math.max(leastDp, (widthDp - WIDEST_DIALOG_DP) / 2);
  node.setWidth(widthDp - 2 * marginDp);
  if (window === 'screen') node.setHeight(heightDp);
  node.calculateLayout(undefined, undefined, rtl ? Direction.RTL : Direction.LTR);
  const freeDp = window === 'screen' ? 0 : Math.max(0, heightDp - node.getComputedHeight());
  const topDp = window === 'sheet' ? freeDp : freeDp / 2;
  const placed = place(root, node, marginDp, shape.statusBarDp + topDp, settings);
  node.freeRecursive();
  return placed;
}

function nodeOf(yoga: Yoga, element: Element, settings: LayoutSettings): Node {
  const node = yoga.Node.create();
  applyStyle(node, element.style);
  if (element.kind === 'text') {
    node.setMeasureFunc((width, mode) => {
      const lines = breakLines(
        element,
        mode === MeasureMode.Undefined ? Number.POSITIVE_INFINITY : width,
        settings,
      );
      const widest = Math.max(0, ...lines.map((line) => lineWidth(line, element, settings)));
      // a hair wider than the glyphs, so that rounding never breaks a line that fits
      return {
        width: mode === MeasureMode.Exactly ? width : Math.ceil(widest) + 0.5,
        height: lines.length * lineHeight(element, settings),
      };
    });
  } else if (element.kind === 'box') {
    element.children.forEach((child, i) => {
      const inside = nodeOf(yoga, child, settings);
      // a scroller gives its content the height that it wants
      if (element.scrollable) inside.setFlexShrink(0);
      node.insertChild(inside, i);
    });
  }
  return node;
}

const FLEX_ALIGN = {
  start: Align.FlexStart,
  center: Align.Center,
  end: Align.FlexEnd,
  stretch: Align.Stretch,
};
const FLEX_JUSTIFY = {
  start: Justify.FlexStart,
  center: Justify.Center,
  end: Justify.FlexEnd,
  between: Justify.SpaceBetween,
};

function applyStyle(node: Node, style: Style): void {
  node.setFlexDirection(style.direction === 'row' ? FlexDirection.Row : FlexDirection.Column);
  node.setAlignItems(FLEX_ALIGN[style.align ?? 'stretch']);
  node.setJustifyContent(FLEX_JUSTIFY[style.justify ?? 'start']);
  if (style.leftToRight) node.setDirection(Direction.LTR);
  if (style.width === 'fill') node.setWidthPercent(100);
  else if (style.width !== undefined) node.setWidth(style.width);
  if (style.height !== undefined) node.setHeight(style.height);
  if (style.minHeight !== undefined) node.setMinHeight(style.minHeight);
  if (style.grow !== undefined) {
    node.setFlexGrow(style.grow);
    node.setFlexBasis(0);
  }
  // only text gives way when a row is too narrow
  node.setFlexShrink(
    style.width === undefined && style.height === undefined && style.minHeight === undefined ? 1 : 0,
  );
  if (style.gap !== undefined) node.setGap(Gutter.All, style.gap);
  for (const [edge, value] of edgesOf(style.padding)) node.setPadding(edge, value);
  for (const [edge, value] of edgesOf(style.margin)) node.setMargin(edge, value);
}

function edgesOf(value: number | [number, number] | Edges | undefined): [Edge, number][] {
  if (value === undefined) return [];
  if (typeof value === 'number') return [[Edge.All, value]];
  if (Array.isArray(value))
    return [
      [Edge.Vertical, value[0]],
      [Edge.Horizontal, value[1]],
    ];
  return [
    [Edge.Top, value.top],
    [Edge.End, value.end],
    [Edge.Bottom, value.bottom],
    [Edge.Start, value.start],
  ];
}

function place(
  element: Element,
  node: Node,
  leftDp: number,
  topDp: number,
  settings: LayoutSettings,
): Placed {
  const scale = settings.shape.densityDpi / 160;
  const left = leftDp + node.getComputedLeft();
  const top = topDp + node.getComputedTop();
  const x = Math.round(left * scale);
  const y = Math.round(top * scale);
  const boundsPx = {
    x,
    y,
    width: Math.round((left + node.getComputedWidth()) * scale) - x,
    height: Math.round((top + node.getComputedHeight()) * scale) - y,
  };
  const contentPx = withoutPadding(boundsPx, node, scale);
  if (element.kind === 'text')
    return {
      element,
      boundsPx,
      contentPx,
      lines: breakLines(element, contentPx.width / scale + 0.5, settings),
      children: [],
    };
  if (element.kind !== 'box') return { element, boundsPx, contentPx, lines: [], children: [] };
  const scrollRangeDp = element.scrollable ? rangeOf(node) : undefined;
  const scrolledDp = Math.min(element.scrolledDp ?? 0, scrollRangeDp ?? 0);
  const children = element.children.map((child, i) =>
    place(child, node.getChild(i), left, top - scrolledDp, settings),
  );
  return { element, boundsPx, contentPx, lines: [], scrollRangeDp, children };
}

/** What of the content lies below the lower edge. */
function rangeOf(node: Node): number {
  const last = node.getChildCount() > 0 ? node.getChild(node.getChildCount() - 1) : undefined;
  if (!last) return 0;
  const bottom = last.getComputedTop() + last.getComputedHeight() + node.getComputedPadding(Edge.Bottom);
  return Math.max(0, Math.ceil(bottom - node.getComputedHeight()));
}

function withoutPadding({ x, y, width, height }: Box, node: Node, scale: number): Box {
  const [left, top, right, bottom] = [Edge.Left, Edge.Top, Edge.Right, Edge.Bottom].map(
    (edge) => node.getComputedPadding(edge) * scale,
  ) as [number, number, number, number];
  return { x: x + left, y: y + top, width: width - left - right, height: height - top - bottom };
}

export const sizeDp = (
  { fixedSize, sizeSp }: TextElement,
  { sizeOf, textScale }: Pick<LayoutSettings, 'sizeOf' | 'textScale'>,
): number => (fixedSize ? sizeSp : sizeOf ? sizeOf(sizeSp) : sizeSp * textScale);

export const weightOf = ({ weight }: TextElement, extraWeight: number): FontWeight =>
  Math.min(700, weight + extraWeight) as FontWeight;

export const lineHeight = (element: TextElement, settings: LayoutSettings): number =>
  sizeDp(element, settings) * LINE_HEIGHT;

export const lineWidth = (line: string, element: TextElement, settings: LayoutSettings): number =>
  settings.typeface.width(line, sizeDp(element, settings), weightOf(element, settings.extraWeight));

function breakLines(element: TextElement, widthDp: number, settings: LayoutSettings): string[] {
  const lines: string[] = [];
  let line = '';
  for (const word of element.text.split(' ')) {
    const longer = line ? `${line} ${word}` : word;
    if (line && lineWidth(longer, element, settings) > widthDp) {
      lines.push(line);
      line = word;
    } else line = longer;
  }
  const all = [...lines, line];
  const { maxLines = all.length } = element;
  return all.length > maxLines ? ellipsize(all, maxLines, element, widthDp, settings) : all;
}

/** The last line that there is room for, shortened until an ellipsis fits behind it. */
function ellipsize(
  lines: readonly string[],
  maxLines: number,
  element: TextElement,
  widthDp: number,
  settings: LayoutSettings,
): string[] {
  let last = lines.slice(maxLines - 1).join(' ');
  while (last && lineWidth(`${last}…`, element, settings) > widthDp) last = last.slice(0, -1).trimEnd();
  return [...lines.slice(0, maxLines - 1), `${last}…`];
}
