import { z } from 'zod';
import { type BoxIndex, indexBoxes } from './box-index.ts';
import { area, type Box, boxSchema, intersect } from './geometry.ts';

const traitSchema = z.enum([
  'button',
  'link',
  'heading',
  'image',
  'text',
  'field',
  'searchField',
  'switch',
  'checkbox',
  'radio',
  'tab',
  'slider',
  'progress',
  'adjustable',
  'list',
  'dialog',
  'menu',
]);
export type Trait = z.infer<typeof traitSchema>;

const nodeFields = {
  /** The toolkit's class or role name, as the source wrote it. */
  className: z.string().default(''),
  /** Resource id or accessibility identifier, without package prefix. */
  id: z.string().default(''),
  text: z.string().default(''),
  /** Accessibility label given in so many words (content description). */
  label: z.string().default(''),
  hint: z.string().default(''),
  bounds: boxSchema,
  clickable: z.boolean().default(false),
  longClickable: z.boolean().default(false),
  checkable: z.boolean().default(false),
  checked: z.boolean().default(false),
  enabled: z.boolean().default(true),
  focusable: z.boolean().default(false),
  scrollable: z.boolean().default(false),
  selected: z.boolean().default(false),
  focused: z.boolean().default(false),
  password: z.boolean().default(false),
  visible: z.boolean().default(true),

  // What only richer sources carry; a capture names in `carries` which of it was looked for.
  /** What kind of thing it is and does, as the platform's accessibility layer is told. */
  traits: z.array(traitSchema).optional(),
  /** What it stands at now, as spoken: "3 of 5", "on". */
  value: z.string().optional(),
  heading: z.boolean().optional(),
  /** Id of the field that this text names. */
  labelFor: z.string().optional(),
  /** Named actions besides activating it. */
  actions: z.array(z.string()).optional(),
  /** A swipe on it does something. */
  swipeable: z.boolean().optional(),
  /** Id of the element that is read right after, or right before, this one. */
  readBefore: z.string().optional(),
  readAfter: z.string().optional(),
  /** Whether assistive technology is to stop at it: its whole content then speaks as one. */
  isElement: z.boolean().optional(),
  /** Hidden from assistive technology, with all that is inside. */
  hidden: z.boolean().optional(),
  expanded: z.boolean().optional(),
  /** In sp, which is points on iOS. */
  textSizeDp: z.number().positive().optional(),
  bold: z.boolean().optional(),
};

/** One element of a screen, bounds in picture pixels; children in drawing order. */
export interface UiNode extends z.infer<z.ZodObject<typeof nodeFields>> {
  children: UiNode[];
}

export const uiNodeSchema: z.ZodType<UiNode> = z
  .strictObject({
    ...nodeFields,
    get children(): z.ZodDefault<z.ZodArray<z.ZodType<UiNode>>> {
      return z.array(uiNodeSchema).default([]);
    },
  })
  .meta({ id: 'UiNode' });

export const isField = (node: UiNode): boolean =>
  /EditText|TextField|TextInput|SearchField/.test(node.className) ||
  has(node, 'field') ||
  has(node, 'searchField');
export const isPicture = (node: UiNode): boolean => /Image/.test(node.className) || has(node, 'image');

const has = (node: UiNode, trait: Trait): boolean => node.traits?.includes(trait) ?? false;

/** What is drawn as text: its own, or the hint of an empty field; web content gives the words for a picture as its text. */
export const shownText = (node: UiNode): string =>
  node.className === WEB_IMAGE ? '' : node.text.trim() || (isField(node) ? node.hint.trim() : '');
const WEB_IMAGE = 'android.widget.Image';

/** A container that repeats what is drawn by an element inside of it. */
export const isShownByChild = (node: UiNode, text: string): boolean =>
  node.children.some(
    (child) => (child.text.trim() !== '' && text.includes(child.text.trim())) || isShownByChild(child, text),
  );

export const isActionable = (node: UiNode): boolean =>
  node.clickable ||
  node.longClickable ||
  (node.checkable && !isInert(node)) ||
  isAdjustable(node) ||
  isField(node);

/** A switch or a box that its row moves: the OS's dump gives it neither a click nor the focus. */
const isInert = (node: UiNode): boolean => !node.clickable && !node.focusable && node.traits === undefined;

/** Moved by swipes or keys, with no click of its own. */
const isAdjustable = (node: UiNode): boolean =>
  has(node, 'slider') ||
  has(node, 'adjustable') ||
  (node.focusable && /(^|\.)(SeekBar|RatingBar|Slider|RangeSlider|UISlider)$/.test(node.className));

/** A node on its way from the root, with what its place in the tree says about it. */
export interface PlacedNode {
  node: UiNode;
  ancestors: readonly UiNode[];
  /** Position in drawing order; later ones lie on top. */
  order: number;
  /** Stays the same in every language: see `placeNodes`. */
  key: string;
}

/**
 * All nodes in drawing order. The key is the resource id where there is one; otherwise the nearest
 * ancestor's id (or `root`), then class and position among siblings of that class on the way down.
 * It holds no text, so that it is the same in each language, and rows of a list share theirs.
 */
export function placeNodes(root: UiNode): PlacedNode[] {
  const placed: PlacedNode[] = [];
  const walk = (node: UiNode, ancestors: readonly UiNode[], key: string) => {
    placed.push({ node, ancestors, order: placed.length, key });
    const inside = [...ancestors, node];
    const seen = new Map<string, number>();
    for (const child of node.children) {
      const name = shortClass(child.className);
      const position = (seen.get(name) ?? 0) + 1;
      seen.set(name, position);
      walk(child, inside, child.id || `${key} > ${name}[${position}]`);
    }
  };
  walk(root, [], root.id || 'root');
  return placed;
}

const shortClass = (className: string): string =>
  className.slice(className.lastIndexOf('.') + 1) || 'element';

/** A node of which something can be seen, and where. */
export interface VisibleNode extends PlacedNode {
  visiblePx: Box;
}

/** What a person can see of a tree: hidden nodes, and those wholly cut away, are left out. */
export function visibleNodes(root: UiNode, picture: { widthPx: number; heightPx: number }): VisibleNode[] {
  const screen = { x: 0, y: 0, width: picture.widthPx, height: picture.heightPx };
  return placeNodes(root)
    .map((placed) => ({ ...placed, visiblePx: visibleBounds(placed, screen) }))
    .filter(({ node, visiblePx }) => node.visible && area(visiblePx) > 0);
}

/** The part of a node that can be seen: cut by the screen and by every scrolling ancestor. */
export function visibleBounds(placed: PlacedNode, screen: Box): Box {
  let box = intersect(placed.node.bounds, screen);
  for (const ancestor of placed.ancestors) if (ancestor.scrollable) box = intersect(box, ancestor.bounds);
  return box;
}

/** What hides a part of a node. The OS reports bounds already cut, so what touches the edge of its scroller may go on beyond it. */
export function cutBy(
  { node, ancestors }: Pick<PlacedNode, 'node' | 'ancestors'>,
  picture: { widthPx: number; heightPx: number },
): 'screen' | 'scroll' | undefined {
  const screen = { x: 0, y: 0, width: picture.widthPx, height: picture.heightPx };
  const { x, y, width, height } = node.bounds;
  const reaches = (outer: Box) => y <= outer.y || y + height >= outer.y + outer.height;
  const sticksOut = (outer: Box) => x < outer.x || x + width > outer.x + outer.width;
  const isCut = (outer: Box) => reaches(outer) || sticksOut(outer);
  if (ancestors.some((ancestor) => ancestor.scrollable && isCut(ancestor.bounds))) return 'scroll';
  return isCut(screen) ? 'screen' : undefined;
}

/** What is drawn over a part of the element: later in drawing order, with something to show, not inside it. */
export function coversOf({ node, order, visiblePx }: VisibleNode, nodes: readonly VisibleNode[]): Box[] {
  return coveringOf(nodes)
    .near(visiblePx)
    .filter((other) => other.order > order && !other.ancestors.includes(node))
    .map((other) => intersect(other.visiblePx, visiblePx))
    .filter((box) => area(box) > 0);
}

// Each element of a screen is asked about, one after another.
const covering = new WeakMap<readonly VisibleNode[], BoxIndex<VisibleNode>>();

function coveringOf(nodes: readonly VisibleNode[]): BoxIndex<VisibleNode> {
  const known = covering.get(nodes);
  if (known) return known;
  const index = indexBoxes(
    nodes.filter(({ node }) => node.text || node.clickable || /Image/.test(node.className)),
    ({ visiblePx }) => visiblePx,
  );
  covering.set(nodes, index);
  return index;
}
