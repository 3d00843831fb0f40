import type { Checklist, Item } from '../model/checklist.ts';
import { UnreadableError } from '../model/problem.ts';
import { nearest } from '../platform/text/nearest.ts';

export interface AssembledChecklist {
  name: string;
  items: Item[];
  switchedOff: { item: string; why: string }[];
}

/**
 * The shipped list with a team's own list laid over it: items added, switched off with a reason, levels changed.
 *
 * @param checkIds ids of the checks that exist; an item that names another is refused
 * @throws UnreadableError where an id is twice, or names nothing
 */
export function assembleChecklist(
  base: Checklist,
  own: Checklist | undefined,
  checkIds: readonly string[],
): AssembledChecklist {
  const items = new Map<string, Item>();
  for (const list of own ? [base, own] : [base])
    for (const item of list.items) {
      if (items.has(item.id))
        throw problem(
          list.name,
          `item ${item.id} twice`,
          'each id once',
          'Give the added item another id, or switch the shipped one off.',
        );
      for (const check of item.by.checks)
        if (!checkIds.includes(check))
          throw problem(
            list.name,
            `item ${item.id} is shown by check "${check}", which does not exist`,
            `one of ${checkIds.join(', ')}`,
            suggest(check, checkIds),
          );
      items.set(item.id, item);
    }
  const demand = (id: string) => {
    const item = items.get(id);
    if (!item)
      throw problem(own!.name, `no item "${id}"`, 'the id of an item', suggest(id, [...items.keys()]));
    return item;
  };
  for (const { item, level } of own?.levels ?? []) items.set(item, { ...demand(item), level });
  for (const { item } of own?.off ?? []) {
    demand(item);
    items.delete(item);
  }
  return {
    name: own ? `${base.name} + ${own.name}` : base.name,
    items: [...items.values()],
    switchedOff: own?.off ?? [],
  };
}

const problem = (file: string, found: string, expected: string, remedy?: string) =>
  new UnreadableError({ code: 'checklist.item', file, found, expected, remedy });

const suggest = (word: string, known: readonly string[]): string | undefined => {
  const close = nearest(word, known);
  return close && `Did you mean "${close}"?`;
};
