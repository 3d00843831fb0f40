/**
 * What a screen reader meets on a screen, in its order: where it stops, and what it has to say there, in parts and not as a
 * claim about one particular reader.
 *
 * A stop is an actionable or explicitly focusable element, or a text that no actionable ancestor speaks for. An actionable
 * container without a name of its own gathers the texts of what is not actionable in it. What is an element on iOS speaks
 * for all that is inside of it. Order: that of the tree, refined by position (rows from top to bottom, each from its start),
 * then by links that say what comes before or after what.
 */
import type { Platform } from '../../model/candidate.ts';
import type { Box } from '../../model/geometry.ts';
import { isActionable, isField, type UiNode, type VisibleNode, visibleNodes } from '../../model/ui-tree.ts';
import { isStateWord } from './name-words.ts';
import { type Role, rolesOf } from './roles.ts';
import { spokenForm } from './spoken-form.ts';

export type NameOrigin = 'label' | 'text' | 'gathered' | 'label-for' | 'hint' | 'none';

export interface Stop {
  key: string;
  node: UiNode;
  ancestors: readonly UiNode[];
  boundsPx: Box;
  actionable: boolean;
  enabled: boolean;
  /** On or off, by itself or by the one switch in its row. */
  isSwitched: boolean;
  name: string;
  nameFrom: NameOrigin;
  /** All that it is said to be; the first is what it does. */
  roles: Role[];
  /** What it stands at: its value, on or off, selected, expanded, dimmed. */
  states: string[];
  heading: boolean;
  /** Texts drawn on it, in reading order. */
  drawn: string[];
  /** In the order of speech: name, states, role, hint. */
  spoken: string[];
  /** An ancestor that is an element, or hidden, keeps readers and switches away from it. */
  shutInBy?: 'element' | 'hidden';
}

export interface Walk {
  /** In reading order. */
  stops: Stop[];
  /** Actionable, and yet no stop. */
  unreachable: Stop[];
}

interface WalkOptions {
  platform: Platform;
  /** Rows are read from the right. */
  rtl: boolean;
}

export function walkStops(
  tree: UiNode,
  picture: { widthPx: number; heightPx: number },
  options: WalkOptions,
): Walk {
  const visible = new Map(visibleNodes(tree, picture).map((item) => [item.node, item]));
  const fieldNames = namesOfFields(tree);
  const all: Stop[] = [];
  const visit = (node: UiNode, shutInBy: Stop['shutInBy'], spokenFor: boolean) => {
    const item = visible.get(node);
    const shut = node.hidden ? 'hidden' : shutInBy;
    const stop = item && stopOf(item, fieldNames, spokenFor);
    if (stop && (!shut || stop.actionable)) all.push(shut ? { ...stop, shutInBy: shut } : stop);
    const inside = options.platform === 'ios' && node.isElement ? (shut ?? 'element') : shut;
    const speaks = spokenFor || isActionable(node) || node.isElement === true;
    for (const child of inReadingOrder(node.children, options.rtl)) visit(child, inside, speaks);
  };
  visit(tree, undefined, false);
  return {
    stops: followLinks(all.filter(({ shutInBy }) => !shutInBy)),
    unreachable: all.filter(({ shutInBy }) => shutInBy),
  };
}

function stopOf(
  { ancestors, key, node, visiblePx: boundsPx }: VisibleNode,
  fieldNames: ReadonlyMap<string, string>,
  spokenFor: boolean,
): Stop | undefined {
  const actionable = isActionable(node);
  const isSilent =
    !spokenFor && node.focusable && !node.scrollable && node.children.length === 0 && speech(node) === '';
  const isText = !spokenFor && node.isElement !== false && speech(node) !== '';
  if (!actionable && !node.isElement && !isText && !isSilent) return undefined;
  const named = nameOf(node, fieldNames);
  const moved = actionable && !node.checkable ? movedBy(node) : undefined;
  const own = rolesOf(node);
  const roles = moved && own.length === 0 ? rolesOf(moved) : own;
  const enabled = node.enabled && ancestors.every((ancestor) => ancestor.enabled);
  const states = statesOf(moved ? { ...node, checkable: true, checked: moved.checked } : node, enabled);
  const hint = node.hint.trim() === named.name ? '' : node.hint.trim();
  const isHeading = node.heading === true || roles.includes('heading');
  const role = roles[0] ?? (isHeading ? 'heading' : undefined);
  return {
    key,
    node,
    ancestors,
    boundsPx,
    actionable,
    enabled,
    isSwitched: node.checkable || moved !== undefined,
    ...named,
    roles,
    states,
    heading: isHeading,
    drawn: drawnTexts(node),
    spoken: [named.name, ...states, role && role !== 'text' ? role : '', hint].filter(Boolean) as string[],
  };
}

/** The switch, box or radio button of a row that cannot be acted on by itself; of several none is the row's. */
function movedBy(row: UiNode): UiNode | undefined {
  const found = row.children.flatMap(function inside(node): UiNode[] {
    if (isActionable(node) || !node.visible) return [];
    return [...(node.checkable ? [node] : []), ...node.children.flatMap(inside)];
  });
  return found.length === 1 ? found[0] : undefined;
}

const speech = (node: UiNode): string => node.label.trim() || node.text.trim();

function nameOf(node: UiNode, fieldNames: ReadonlyMap<string, string>): Pick<Stop, 'name' | 'nameFrom'> {
  if (node.label.trim()) return { name: node.label.trim(), nameFrom: 'label' };
  const labelled = node.id ? fieldNames.get(node.id) : undefined;
  if (labelled) return { name: labelled, nameFrom: 'label-for' };
  if (node.text.trim()) return { name: node.text.trim(), nameFrom: 'text' };
  const gathered = gather(node);
  if (gathered.length > 0) return { name: gathered.join(', '), nameFrom: 'gathered' };
  if (node.hint.trim()) return { name: node.hint.trim(), nameFrom: 'hint' };
  return { name: '', nameFrom: 'none' };
}

/** Texts and labels of descendants that are not actionable themselves, in drawing order. */
function gather(node: UiNode): string[] {
  return node.children.flatMap((child) => {
    if (isActionable(child) || !child.visible || child.hidden) return [];
    const own = speech(child);
    // "On" written in a switch is its state
    if (own && !(child.checkable && isStateWord(spokenForm(own)))) return [own];
    return gather(child);
  });
}

/** What stands on it to be seen; a field's content is not its name. */
function drawnTexts(node: UiNode): string[] {
  if (isField(node)) return [];
  const own = node.text.trim();
  if (own) return [own];
  return node.children.flatMap((child) => (isActionable(child) || !child.visible ? [] : drawnTexts(child)));
}

function namesOfFields(root: UiNode): Map<string, string> {
  const names = new Map<string, string>();
  const visit = (node: UiNode) => {
    if (node.labelFor) names.set(node.labelFor, speech(node));
    node.children.forEach(visit);
  };
  visit(root);
  return names;
}

function statesOf(node: UiNode, enabled: boolean): string[] {
  const states: string[] = [];
  if (node.value?.trim()) states.push(node.value.trim());
  else if (node.checkable) states.push(node.checked ? 'on' : 'off');
  if (node.selected) states.push('selected');
  if (node.expanded !== undefined) states.push(node.expanded ? 'expanded' : 'collapsed');
  if (!enabled) states.push('dimmed');
  return states;
}

/** Siblings in rows: those that overlap in height by half are beside one another, and read from the start of the line. */
function inReadingOrder<T extends { bounds: Box }>(siblings: readonly T[], rtl: boolean): T[] {
  const rows: { top: number; bottom: number; items: T[] }[] = [];
  for (const item of [...siblings].sort((a, b) => a.bounds.y - b.bounds.y)) {
    const { height, y } = item.bounds;
    const row = rows.find(
      ({ bottom, top }) =>
        height > 0 && Math.min(bottom, y + height) - Math.max(top, y) > Math.min(height, bottom - top) * 0.5,
    );
    if (row) row.items.push(item);
    else rows.push({ top: y, bottom: y + height, items: [item] });
  }
  const start = ({ bounds: { width, x } }: T) => (rtl ? -(x + width) : x);
  return rows.flatMap(({ items }) => items.sort((a, b) => start(a) - start(b)));
}

/** Moves what a link places before or after another; a link to what is not there, or to itself, moves nothing. */
function followLinks(stops: Stop[]): Stop[] {
  const ordered = [...stops];
  for (const stop of stops) {
    const { readAfter, readBefore } = stop.node;
    if (!readAfter && !readBefore) continue;
    const target = ordered.find(
      ({ node }) => node !== stop.node && node.id && node.id === (readAfter ?? readBefore),
    );
    if (!target) continue;
    ordered.splice(ordered.indexOf(stop), 1);
    ordered.splice(ordered.indexOf(target) + (readAfter ? 1 : 0), 0, stop);
  }
  return ordered;
}
