/** What can be touched on a screen, each kind once: of many rows with one id the first stands for all. */
import type { Step } from '../../core/model/intent-parts.ts';
import type { RoamScreen } from '../../core/model/roam-map.ts';
import { isField, placeNodes, type UiNode } from '../../core/model/ui-tree.ts';

type Action = RoamScreen['actions'][number];

// What a walk must not do by itself, in the words of ids and of English labels.
const AVOIDED = [
  'pay',
  'buy',
  'purchase',
  'subscribe',
  'order',
  'delete',
  'remove',
  'sign out',
  'sign_out',
  'log out',
  'logout',
  'call',
  'send',
  'uninstall',
  'erase',
  'continue',
];

/** @param avoid words of the intent file, besides those that are always avoided */
export function findActions(root: UiNode, avoid: readonly string[]): Action[] {
  const actions = new Map<string, Action>();
  for (const { node } of placeNodes(root)) {
    if (!node.visible || !node.enabled || !(node.clickable || node.checkable) || isField(node)) continue;
    const shown = wordsOf(node);
    const name = node.id || node.label || node.text || shown;
    if (!name || actions.has(name)) continue;
    const isAvoided = [...AVOIDED, ...avoid].some((word) => holds(`${node.id} ${shown}`, word));
    actions.set(name, { name, shown, outcome: isAvoided ? 'avoided' : 'untried' });
  }
  return [...actions.values()];
}

/** The inputs that belong to fields of this screen, typed before anything is tapped. */
export function findInputs(root: UiNode, inputs: Readonly<Record<string, string>>): Step[] {
  return placeNodes(root).flatMap(({ node }) => {
    const text = isField(node) ? inputs[node.id] : undefined;
    return text === undefined || node.text === text ? [] : [{ type: text, into: node.id }];
  });
}

/** A word of its own: `pay` is in "Pay now" and `pay_button`, and not in "Payments overview". */
const holds = (text: string, word: string): boolean =>
  new RegExp(`(?<![\\p{L}])${word.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}(?![\\p{L}])`, 'iu').test(text);

function wordsOf(node: UiNode): string {
  const own = node.label || node.text;
  if (own) return own;
  const inside = placeNodes(node)
    .map((placed) => placed.node.text)
    .filter(Boolean);
  return inside.slice(0, 2).join(' ');
}
