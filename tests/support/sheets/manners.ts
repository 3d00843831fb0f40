/** One screen as the toolkits write it down: which nodes, of which class, with what as their text. */
import type { UiNode } from '../../../src/core/model/ui-tree.ts';
import { ui } from '../facts.ts';
import type { Meaning, PlacedSlot, Scene } from './scene.ts';
import { heightPxOf, widthPxOf } from './scene.ts';

export type Manner = 'views' | 'export' | 'flutter' | 'compose' | 'react native' | 'web';
export const manners: readonly Manner[] = ['views', 'export', 'flutter', 'compose', 'react native', 'web'];

type Write = (of: Meaning, at: Place) => UiNode[];
interface Place {
  box: (of: Meaning) => [number, number, number, number];
  index: number;
}

/** All texts in it, in reading order. */
const textsIn = (of: Meaning): string[] => [
  ...(of.text ? [of.text] : []),
  ...(of.label ? [of.label] : []),
  ...(of.children ?? []).flatMap(textsIn),
];
const inside = (of: Meaning, at: Place, write: Write): UiNode[] =>
  (of.children ?? []).flatMap((child) => write(child, at));

const views: Write = (of, at) => {
  const common = { id: `item${at.index}_${of.role.replace(' ', '_')}` };
  const known = { text: of.text ?? '', label: of.label ?? '', hint: of.hint ?? '' };
  const children = inside(of, at, views);
  switch (of.role) {
    case 'text':
      return [ui(at.box(of), { ...common, ...known, className: 'android.widget.TextView' })];
    case 'image':
      return [ui(at.box(of), { ...common, ...known, className: 'android.widget.ImageView' })];
    case 'icon button':
      return [
        ui(
          at.box(of),
          {
            ...common,
            ...known,
            clickable: true,
            focusable: true,
            className: children.length > 0 ? 'android.widget.FrameLayout' : 'android.widget.ImageButton',
          },
          ...children,
        ),
      ];
    case 'button':
      return [
        ui(at.box(of), {
          ...common,
          ...known,
          clickable: true,
          focusable: true,
          className: 'android.widget.Button',
        }),
      ];
    case 'chip':
      return [
        ui(at.box(of), {
          ...common,
          ...known,
          clickable: true,
          checkable: true,
          focusable: true,
          className: 'android.widget.CompoundButton',
        }),
      ];
    case 'field':
      // the OS's dump gives a hint as the text
      return [
        ui(at.box(of), {
          ...common,
          text: of.hint ?? '',
          clickable: true,
          focusable: true,
          className: 'android.widget.EditText',
        }),
      ];
    case 'row':
    case 'group':
      return [
        ui(
          at.box(of),
          {
            ...common,
            clickable: of.role === 'row',
            focusable: of.role === 'row',
            className: 'android.widget.LinearLayout',
          },
          ...children,
        ),
      ];
  }
};

/** A richer capture, which carries sizes and weights. */
const exported: Write = (of, at) => {
  const withSizes = (node: UiNode, meaning: Meaning): UiNode => ({
    ...node,
    ...(meaning.sizeDp !== undefined && { textSizeDp: meaning.sizeDp, bold: (meaning.weight ?? 400) >= 700 }),
    children: node.children.map((child, i) => withSizes(child, meaning.children![i]!)),
  });
  return views(of, at).map((node) => withSizes(node, of));
};

/** Plain views whose description is what is drawn; what is gathered under something that can be tapped is one node. */
const flutter: Write = (of, at) => {
  const node = (className: string, more: Partial<UiNode>, ...children: UiNode[]) => [
    ui(at.box(of), { className, ...more }, ...children),
  ];
  const all = textsIn(of).join('\n');
  switch (of.role) {
    case 'text':
      return node('android.view.View', { label: of.text });
    case 'image':
      return of.label ? node('android.widget.ImageView', { label: of.label }) : [];
    case 'icon button':
    case 'button':
      return node('android.widget.Button', { label: all, clickable: true, focusable: true });
    case 'chip':
      return node('android.view.View', { label: all, clickable: true, checkable: true, focusable: true });
    case 'field':
      return node('android.widget.EditText', { hint: of.hint, clickable: true, focusable: true });
    case 'row':
      return node('android.view.View', { label: all, clickable: true, focusable: true });
    case 'group':
      return inside(of, at, flutter);
  }
};

const compose: Write = (of, at) => {
  const children = inside(of, at, compose);
  const node = (className: string, more: Partial<UiNode>, ...within: UiNode[]) => [
    ui(at.box(of), { className, ...more }, ...within),
  ];
  switch (of.role) {
    case 'text':
      return node('android.widget.TextView', { text: of.text });
    case 'image':
      return of.label ? node('android.view.View', { label: of.label }) : [];
    case 'icon button':
      return node(
        'android.view.View',
        { clickable: true, focusable: true },
        ...(children.length > 0
          ? children
          : [...node('android.view.View', { label: of.label }), ...node('android.widget.Button', {})]),
      );
    case 'button':
    case 'chip':
      return node(
        'android.view.View',
        { clickable: true, focusable: true, checkable: of.role === 'chip' },
        ...node('android.widget.TextView', { text: of.text }),
      );
    case 'field':
      return node(
        'android.widget.EditText',
        { clickable: true, focusable: true },
        ...node('android.widget.TextView', { text: of.hint }),
      );
    case 'row':
      return node('android.view.View', { clickable: true, focusable: true }, ...children);
    case 'group':
      return children;
  }
};

const reactNative: Write = (of, at) => {
  const children = inside(of, at, reactNative);
  const node = (className: string, more: Partial<UiNode>, ...within: UiNode[]) => [
    ui(at.box(of), { className, ...more }, ...within),
  ];
  switch (of.role) {
    case 'text':
      return node('android.widget.TextView', { text: of.text });
    case 'image':
      return node('android.widget.ImageView', { label: of.label ?? '' });
    case 'icon button':
      return node(
        'android.view.ViewGroup',
        { label: of.label, clickable: true, focusable: true, id: `button-${at.index}` },
        ...children,
      );
    case 'button':
    case 'chip':
      return node(
        'android.view.ViewGroup',
        { label: of.text, clickable: true, focusable: true, checkable: of.role === 'chip' },
        ...node('android.widget.TextView', { text: of.text }),
      );
    case 'field':
      return node('android.widget.EditText', { text: of.hint, clickable: true, focusable: true });
    case 'row':
      return node(
        'android.view.ViewGroup',
        { label: textsIn(of).join(', '), clickable: true, focusable: true },
        ...children,
      );
    case 'group':
      return node('android.view.ViewGroup', {}, ...children);
  }
};

const web: Write = (of, at) => {
  const children = inside(of, at, web);
  const node = (className: string, more: Partial<UiNode>, ...within: UiNode[]) => [
    ui(at.box(of), { className, ...more }, ...within),
  ];
  switch (of.role) {
    case 'text':
      return node('android.widget.TextView', { text: of.text });
    case 'image':
      return of.label ? node('android.widget.Image', { text: of.label }) : [];
    case 'icon button':
      return node('android.widget.Button', { text: of.label, clickable: true, focusable: true });
    case 'button':
      return node('android.widget.Button', { text: of.text, clickable: true, focusable: true });
    case 'chip':
      return node('android.widget.CheckBox', {
        text: of.text,
        clickable: true,
        checkable: true,
        focusable: true,
      });
    case 'field':
      return node('android.widget.EditText', { hint: of.hint, clickable: true, focusable: true });
    case 'row':
      return node('android.view.View', { text: '', clickable: true, focusable: true }, ...children);
    case 'group':
      return node('android.view.View', {}, ...children);
  }
};

const WRITERS: Record<Manner, Write> = {
  views,
  export: exported,
  flutter,
  compose,
  'react native': reactNative,
  web,
};

export function treeOf(scene: Scene, manner: Manner): UiNode {
  const { scale } = scene;
  const boxOf =
    (slot: PlacedSlot): Place['box'] =>
    ({ box: [x, y, width, height] }) => {
      const [left, top] = [Math.floor((slot.x + x) * scale), Math.floor((slot.y + y) * scale)];
      return [
        left,
        top,
        Math.ceil((slot.x + x + width) * scale) - left,
        Math.ceil((slot.y + y + height) * scale) - top,
      ];
    };
  const root = manner === 'flutter' ? 'android.view.View' : 'android.widget.FrameLayout';
  return ui(
    [0, 0, widthPxOf(scene), heightPxOf(scene)],
    { className: root },
    ...scene.slots.flatMap((slot, index) =>
      slot.meaning.flatMap((of) => WRITERS[manner](of, { box: boxOf(slot), index })),
    ),
  );
}
