/**
 * Views of the layouts of a package, with what their own attributes, styles and themes say of texts, names, sizes and sides.
 * Layouts that are included are looked at by themselves; what code or data binding sets cannot be seen here.
 */
import type { LayoutView } from '../../model/app-package.ts';
import { type Problem, tryRead } from '../../model/problem.ts';
import { libraryOf } from '../../platform/android/library-resources.ts';
import type { OpenedAndroid } from './apk.ts';
import { MAX_XML_BYTES, type XmlElement } from './binary-xml.ts';
import type { ResValue } from './res-value.ts';
import type { Resource } from './resource-table.ts';
import { attributeValue, MAX_DEPTH, merged, ThemeLook, type Values } from './theme-look.ts';

// Ids of the platform's public attributes (`android.R.attr`).
const ATTR = {
  theme: 0x01010000,
  textSize: 0x01010095,
  id: 0x010100d0,
  clickable: 0x010100e5,
  layoutHeight: 0x010100f5,
  text: 0x0101014f,
  hint: 0x01010150,
  onClick: 0x0101026f,
  contentDescription: 0x01010273,
  importantForAccessibility: 0x010103aa,
  labelFor: 0x010103c6,
  autoSizeTextType: 0x01010535,
} as const;

// Each with the one that follows the direction of the text.
const SIDES: readonly (readonly [name: string, side: number, follows: number])[] = [
  ['paddingLeft', 0x010100d6, 0x010103b3],
  ['paddingRight', 0x010100d8, 0x010103b4],
  ['layout_marginLeft', 0x010100f7, 0x010103b5],
  ['layout_marginRight', 0x010100f9, 0x010103b6],
  ['layout_toLeftOf', 0x01010182, 0x010103b7],
  ['layout_toRightOf', 0x01010183, 0x010103b8],
  ['layout_alignLeft', 0x01010187, 0x010103b9],
  ['layout_alignRight', 0x01010189, 0x010103ba],
  ['layout_alignParentLeft', 0x0101018b, 0x010103bb],
  ['layout_alignParentRight', 0x0101018d, 0x010103bc],
  ['drawableLeft', 0x0101016f, 0x01010392],
  ['drawableRight', 0x01010170, 0x01010393],
];
const GRAVITIES = [
  ['gravity', 0x010100af],
  ['layout_gravity', 0x010100b3],
] as const;
// `Gravity.LEFT` and `RIGHT`; with the relative bit they mean start and end, together they fill.
const GRAVITY = { left: 0x03, right: 0x05, fill: 0x07, relative: 0x00800000 } as const;
// `View.IMPORTANT_FOR_ACCESSIBILITY_NO`, and with what it holds.
const UNIMPORTANT = new Set([2, 4]);

const ROLES: readonly (readonly [RegExp, LayoutView['role']])[] = [
  [/(EditText|AutoCompleteTextView|SearchView)$/, 'field'],
  [/(ImageButton|FloatingActionButton)$/, 'button'],
  [/ImageView$/, 'picture'],
  [/(Button|CheckBox|Switch|SwitchMaterial|SwitchCompat|Chip)$/, 'button'],
  [/TextView$/, 'text'],
];
const PICTURE_BUTTON = /(ImageButton|FloatingActionButton)$/;
// It shows the hint of the field inside as its label.
const FIELD_HOLDER = /TextInputLayout$/;

const MAX_VIEWS = 20_000;

/** @returns the app's own; layouts that cannot be read are left out */
export async function findLayoutViews({ modules, zip }: OpenedAndroid): Promise<LayoutView[]> {
  const look = new LayoutLook(modules, (file) => zip.read(file, MAX_XML_BYTES), false);
  const theme = look.appTheme();
  const views: LayoutView[] = [];
  const unread: Problem[] = [];
  for (const layout of look.layouts()) {
    if (libraryOf(`layout/${layout.name}`) !== undefined || views.length >= MAX_VIEWS) continue;
    const found = await tryRead(unread, () => look.viewsOf(layout, theme));
    views.push(...(found ?? []));
  }
  return views;
}

class LayoutLook extends ThemeLook {
  async viewsOf(layout: Resource, theme: Values): Promise<LayoutView[]> {
    const root = await this.xmlOf(layout);
    const views: LayoutView[] = [];
    if (root) {
      const labelled = new Set<number>();
      this.collectLabels(root, labelled, 0);
      this.walk(root, theme, { labelled, holdsHint: false, layout: `layout/${layout.name}` }, views, 0);
    }
    return views;
  }

  private collectLabels(element: XmlElement, labelled: Set<number>, depth: number): void {
    const target = attributeValue(element, ATTR.labelFor);
    if (target?.kind === 'reference') labelled.add(target.id);
    if (depth < MAX_DEPTH)
      for (const child of element.children) this.collectLabels(child, labelled, depth + 1);
  }

  private walk(element: XmlElement, outer: Values, around: Around, views: LayoutView[], depth: number): void {
    if (depth > MAX_DEPTH) return;
    const overlay = attributeValue(element, ATTR.theme);
    const theme = overlay?.kind === 'reference' ? merged(outer, this.style(overlay.id)) : outer;
    const role = ROLES.find(([pattern]) => pattern.test(element.name))?.[1];
    if (role) views.push(this.describe(element, role, theme, around));
    const inside = FIELD_HOLDER.test(element.name) ? { ...around, holdsHint: true } : around;
    for (const child of element.children) this.walk(child, theme, inside, views, depth + 1);
  }

  private describe(element: XmlElement, role: LayoutView['role'], theme: Values, around: Around): LayoutView {
    const values = this.valuesOf(element, theme);
    const own = (id: number) => attributeValue(element, id);
    const size = values.get(ATTR.textSize) && this.resolve(values.get(ATTR.textSize)!, theme);
    const height = own(ATTR.layoutHeight) && this.resolve(own(ATTR.layoutHeight)!, theme);
    const id = own(ATTR.id);
    const importance = own(ATTR.importantForAccessibility);
    const isDecoration = importance?.kind === 'integer' && UNIMPORTANT.has(importance.value);
    const isLabelled = id?.kind === 'reference' && around.labelled.has(id.id);
    // a description that is set to nothing says that there is nothing to say
    const names = role === 'field' ? [ATTR.hint, ATTR.contentDescription] : [ATTR.contentDescription];
    const showsText = role === 'text' || (role === 'button' && !PICTURE_BUTTON.test(element.name));
    const clickable = own(ATTR.clickable);
    return {
      layout: around.layout,
      view: this.nameOf(element),
      role,
      fixedTexts: (
        [
          ['text', ATTR.text],
          ['hint', ATTR.hint],
          ['description', ATTR.contentDescription],
        ] as const
      ).flatMap(([part, attribute]) => {
        const value = own(attribute);
        return value?.kind === 'string' ? [{ part, text: value.text }] : [];
      }),
      isNamed:
        showsText ||
        isDecoration ||
        isLabelled ||
        (role === 'field' && around.holdsHint) ||
        names.some((name) => values.has(name)),
      isActionable:
        role === 'button' ||
        role === 'field' ||
        own(ATTR.onClick) !== undefined ||
        (clickable?.kind === 'boolean' && clickable.value),
      ...(size?.kind === 'dimension' && { textSize: { value: size.value, unit: size.unit } }),
      ...(height?.kind === 'dimension' &&
        height.unit === 'dp' &&
        height.value > 0 &&
        !values.has(ATTR.autoSizeTextType) && { heightDp: height.value }),
      sideAttributes: sidesOf(element),
    };
  }
}

interface Around {
  layout: string;
  /** Ids of views that another one is the label of. */
  labelled: ReadonlySet<number>;
  /** Inside of something that shows the hint of a field. */
  holdsHint: boolean;
}

function sidesOf(element: XmlElement): string[] {
  const value = (id: number) => attributeValue(element, id);
  const named = SIDES.filter(
    ([, side, follows]) => value(side) !== undefined && value(follows) === undefined,
  );
  // the same on both sides is the same in both directions
  const isEven = ([name, side]: (typeof SIDES)[number]) => {
    const counterpart = SIDES.find(([other]) => other !== name && sideless(other) === sideless(name));
    return counterpart !== undefined && sameValue(value(side), value(counterpart[1]));
  };
  const gravities = GRAVITIES.filter(([, id]) => {
    const gravity = value(id);
    if (gravity?.kind !== 'integer' || gravity.value & GRAVITY.relative) return false;
    const side = gravity.value & GRAVITY.fill;
    return side === GRAVITY.left || side === GRAVITY.right;
  });
  return [...named.filter((of) => !isEven(of)).map(([name]) => name), ...gravities.map(([name]) => name)];
}

const sideless = (name: string): string => name.replace(/Left|Right/, '');

const sameValue = (a: ResValue | undefined, b: ResValue | undefined): boolean =>
  a !== undefined && JSON.stringify(a) === JSON.stringify(b);
