/** What a lookout tells of the system's own screens (docs/ios.md): messages that it shows, numbers on icons. */
import type { LookoutNode, LookoutScreen } from './lookout-tree.ts';

/**
 * Messages of an app, as the system reads each out: `Name, when, title, text`, beginning with the name of the app.
 *
 * @returns each as it is read out; the outermost element counts
 */
export function messagesOf({ tree }: LookoutScreen, name: string): string[] {
  const isOfApp = ({ kind, label = '' }: LookoutNode) =>
    kind !== 'icon' && label.toLowerCase().startsWith(`${name.toLowerCase()}, `);
  const below = (node: LookoutNode): string[] =>
    isOfApp(node) ? [node.label!] : (node.children ?? []).flatMap(below);
  return below(tree);
}

/** @returns the number on the icon of an app, 0 where it has none; undefined where the icon is not in sight */
export function badgeOn({ tree }: LookoutScreen, name: string): number | undefined {
  const isIcon = ({ identifier, kind, label = '' }: LookoutNode) =>
    kind === 'icon' && (label === name || identifier === name || label.startsWith(`${name}, `));
  const find = (node: LookoutNode): LookoutNode | undefined =>
    isIcon(node) ? node : (node.children ?? []).map(find).find((one) => one !== undefined);
  const icon = find(tree);
  if (!icon) return undefined;
  // "3 new items", in the language of the system, as its value or behind its name
  const told = icon.value ?? icon.label?.slice(name.length) ?? '';
  return Number(/\d+/.exec(told)?.[0] ?? 0);
}
