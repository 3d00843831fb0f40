/** Which toolkit drew a screen, told from how its elements are written down: remedies name its own calls. */
import type { UiNode } from './ui-tree.ts';

/** `surface`: a game or a video, with nothing inside that a tree could name. */
export type Toolkit = 'views' | 'compose' | 'flutter' | 'react-native' | 'web' | 'uikit' | 'surface';

const SURFACE = /(^|\.)(\w*SurfaceView|TextureView|UnityPlayer\w*|MTKView|SKView|GLKView)$/;

export function toolkitOf(tree: UiNode, platform: 'android' | 'ios'): Toolkit {
  const nodes = allOf(tree);
  const has = (pattern: RegExp) => nodes.some(({ className }) => pattern.test(className));
  const says = nodes.filter(({ hint, label, text }) => (text || label || hint).trim() !== '');
  if (says.length === 0 && has(SURFACE)) return 'surface';
  if (has(/Flutter\w*View$/) || isFlutter(says)) return 'flutter';
  if (has(/(^|\.)(RCT|React)\w+$/)) return 'react-native';
  if (platform === 'ios') return 'uikit';
  if (has(/compose\.ui\.platform\.\w+$|(^|\.)ComposeView$/)) return 'compose';
  return has(/(^|\.)(WebView|XWalkView|GeckoView)$/) ? 'web' : 'views';
}

/** Descriptions of plain views, and no text of a text view anywhere. */
const isFlutter = (says: readonly UiNode[]): boolean =>
  says.length >= 3 &&
  !says.some(({ className, text }) => text.trim() !== '' && !/EditText$/.test(className)) &&
  says.filter(({ className, label }) => label.trim() !== '' && /^android\.view\.View$/.test(className))
    .length >=
    says.length / 2;

const allOf = (node: UiNode): UiNode[] => [node, ...node.children.flatMap(allOf)];
