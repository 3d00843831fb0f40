/** A laid-out screen as a UI test on iOS would write it into a capture: classes and traits of UIKit, bounds in picture pixels. */
import type { UiNode } from '../../../core/model/ui-tree.ts';
import type { Element } from '../app-model.ts';
import type { Placed } from './layout.ts';

/** What such a tree carries beyond an Android dump. */
export const TREE_CARRIES = ['traits', 'values', 'headings', 'label-for', 'actions', 'gestures'] as const;

export function dumpTree({ boundsPx, children, element }: Placed): UiNode {
  const isText = element.kind === 'text';
  const shown = element.scrollable
    ? children.filter(({ boundsPx: b }) => b.y < boundsPx.y + boundsPx.height && b.y + b.height > boundsPx.y)
    : children;
  return {
    className: classOf(element),
    id: element.id ?? '',
    text: isText && element.hint !== element.text ? element.text : '',
    label: element.contentDescription ?? '',
    hint: element.hint ?? '',
    bounds: boundsPx,
    clickable: element.clickable ?? false,
    longClickable: element.longClickable ?? false,
    checkable: element.checkable ?? false,
    checked: element.checked ?? false,
    enabled: element.enabled ?? true,
    focusable: element.clickable ?? false,
    scrollable: element.scrollable ?? false,
    selected: element.selected ?? false,
    focused: element.focused ?? false,
    password: false,
    visible: true,
    traits: element.traits ? [...element.traits] : [],
    ...(element.value !== undefined && { value: element.value }),
    ...(element.heading && { heading: true }),
    ...(element.labelFor && { labelFor: element.labelFor }),
    ...(element.actions && { actions: [...element.actions] }),
    ...(element.swipeable && { swipeable: true }),
    ...(element.isElement && { isElement: true }),
    ...(element.hidden && { hidden: true }),
    ...(isText && { bold: element.weight >= 700 }),
    children: shown.map(dumpTree),
  };
}

const IOS_CLASSES: Record<string, string> = {
  EditText: 'UITextField',
  Button: 'UIButton',
  ImageButton: 'UIButton',
  Switch: 'UISwitch',
  RadioButton: 'UIControl',
  RecyclerView: 'UITableView',
  ScrollView: 'UIScrollView',
};

function classOf({ className, kind }: Element): string {
  const android = className?.slice(className.lastIndexOf('.') + 1);
  if (android) return IOS_CLASSES[android] ?? android;
  return { box: 'UIView', text: 'UILabel', picture: 'UIImageView' }[kind];
}
