/** What a lookout says of the screen in front (docs/ios.md): a tree in points, as a UI test sees it. */
import { z } from 'zod';
import { boxSchema } from '../../model/geometry.ts';
import type { Trait, UiNode } from '../../model/ui-tree.ts';
import { parseJson } from '../parse-json.ts';

export interface LookoutNode {
  kind: string;
  identifier?: string;
  label?: string;
  value?: string;
  placeholder?: string;
  frame: { x: number; y: number; width: number; height: number };
  enabled?: boolean;
  selected?: boolean;
  focused?: boolean;
  children?: LookoutNode[];
}

const nodeSchema: z.ZodType<LookoutNode> = z.looseObject({
  /** Name of the element's type (XCUIElement.ElementType): `button`, `staticText`, `other` … */
  kind: z.string(),
  identifier: z.string().optional(),
  label: z.string().optional(),
  value: z.string().optional(),
  placeholder: z.string().optional(),
  /** In points. */
  frame: boxSchema,
  enabled: z.boolean().optional(),
  selected: z.boolean().optional(),
  focused: z.boolean().optional(),
  get children(): z.ZodOptional<z.ZodArray<z.ZodType<LookoutNode>>> {
    return z.array(nodeSchema).optional();
  },
});

const lookoutScreenSchema = z.looseObject({
  /** The app in front; empty where none is. */
  front: z.string(),
  /** Whose window the tree is: the app's, or that of the system above it. */
  owner: z.string(),
  /** Pixels of the picture a point. */
  scale: z.number().positive(),
  tree: nodeSchema,
});
export type LookoutScreen = z.infer<typeof lookoutScreenSchema>;

/** What a UI test is told of an element beyond its kind. */
export const LOOKOUT_CARRIES = ['values'] as const;

const TRAITS: Readonly<Record<string, Trait>> = {
  button: 'button',
  link: 'link',
  image: 'image',
  staticText: 'text',
  textField: 'field',
  secureTextField: 'field',
  textView: 'field',
  searchField: 'searchField',
  switch: 'switch',
  toggle: 'switch',
  checkBox: 'checkbox',
  radioButton: 'radio',
  tab: 'tab',
  slider: 'slider',
  progressIndicator: 'progress',
  activityIndicator: 'progress',
  stepper: 'adjustable',
  picker: 'adjustable',
  table: 'list',
  collectionView: 'list',
  alert: 'dialog',
  sheet: 'dialog',
  menu: 'menu',
};

const CLASSES: Readonly<Record<string, string>> = {
  button: 'UIButton',
  image: 'UIImageView',
  staticText: 'UILabel',
  textField: 'UITextField',
  secureTextField: 'UITextField',
  textView: 'UITextView',
  searchField: 'UISearchTextField',
  switch: 'UISwitch',
  slider: 'UISlider',
  progressIndicator: 'UIProgressView',
  activityIndicator: 'UIActivityIndicatorView',
  scrollView: 'UIScrollView',
  table: 'UITableView',
  collectionView: 'UICollectionView',
  cell: 'UITableViewCell',
  navigationBar: 'UINavigationBar',
  tabBar: 'UITabBar',
  toolbar: 'UIToolbar',
};

const TOUCHED = new Set([
  'button',
  'link',
  'cell',
  'switch',
  'toggle',
  'checkBox',
  'radioButton',
  'tab',
  'menuItem',
  'textField',
  'secureTextField',
  'textView',
  'searchField',
]);
const SCROLLED = new Set(['scrollView', 'table', 'collectionView', 'textView']);
const CHECKED = new Set(['switch', 'toggle', 'checkBox', 'radioButton']);
const FIELDS = new Set(['textField', 'secureTextField', 'textView', 'searchField']);

/** @throws UnreadableError */
export const parseLookoutScreen = (file: string, text: string): LookoutScreen =>
  parseJson(file, text, lookoutScreenSchema, 'a screen as a lookout tells it (docs/ios.md)');

/** In pixels of the picture. */
export const treeOfLookout = ({ scale, tree }: LookoutScreen): UiNode => nodeOf(tree, scale);

/** An app's tree begins with the app itself, which has its name; no reader stops at it. */
export const nameOfApp = ({ tree }: LookoutScreen): string | undefined =>
  tree.kind === 'application' ? tree.label : undefined;

function nodeOf(node: LookoutNode, scale: number): UiNode {
  const { children = [], enabled = true, focused = false, frame, identifier = '', kind, label = '' } = node;
  const isText = kind === 'staticText';
  const isField = FIELDS.has(kind);
  const isBar = kind === 'navigationBar';
  const [x, y] = [Math.round(frame.x * scale), Math.round(frame.y * scale)];
  return {
    className: CLASSES[kind] ?? 'UIView',
    // the bar is called by its title, which is another one in each language, and no reader stops at it
    id: isBar ? '' : identifier,
    text: isText ? label : isField ? (node.value ?? '') : '',
    label: isText || isBar || kind === 'application' ? '' : label,
    hint: node.placeholder ?? '',
    bounds: {
      x,
      y,
      width: Math.max(0, Math.round((frame.x + frame.width) * scale) - x),
      height: Math.max(0, Math.round((frame.y + frame.height) * scale) - y),
    },
    clickable: TOUCHED.has(kind),
    longClickable: false,
    // UIKit gives a switch the values "1" and "0"; one without a value tells no state
    checkable: CHECKED.has(kind) && (node.value === '1' || node.value === '0'),
    checked: CHECKED.has(kind) && node.value === '1',
    enabled,
    focusable: TOUCHED.has(kind),
    scrollable: SCROLLED.has(kind),
    selected: node.selected ?? false,
    focused,
    password: kind === 'secureTextField',
    visible: true,
    ...(TRAITS[kind] && { traits: [TRAITS[kind]] }),
    ...(isBar ? { value: label || identifier } : !isField && node.value && { value: node.value }),
    children: children.map((child) => nodeOf(child, scale)),
  };
}
