/** Rows of a list share their key; which of them an element is in, counted from its top. */
import type { FactIndex } from '../areas/check.ts';
import type { Occurrence } from '../model/finding.ts';
import type { Box } from '../model/geometry.ts';
import type { Intent } from '../model/intent.ts';

interface ListRows {
  /** From 1. */
  rowOf(key: string, occurrence: Pick<Occurrence, 'boundsPx' | 'evidence'>): number;
}

// What observers tell about elements, whether anything is wrong with them or not.
const KINDS = ['stop', 'target', 'text-contrast', 'icon-contrast', 'screen-text'] as const;

/** Use with `facts.once`. */
export function listRows(facts: FactIndex, _intent: Intent): ListRows {
  const places = new Map<string, Map<string, Box>>();
  for (const kind of KINDS)
    for (const { element, evidence } of facts.of(kind)) {
      const of = places.get(`${evidence}|${element.key}`) ?? new Map<string, Box>();
      of.set(placeOf(element.boundsPx), element.boundsPx);
      places.set(`${evidence}|${element.key}`, of);
    }
  const sorted = new Map<string, string[]>();
  const inOrder = (name: string): string[] => {
    const known = sorted.get(name);
    if (known) return known;
    const boxes = [...(places.get(name)?.values() ?? [])].sort((a, b) => a.y - b.y || a.x - b.x);
    const order = boxes.map(placeOf);
    sorted.set(name, order);
    return order;
  };
  return {
    rowOf: (key, { boundsPx, evidence }) =>
      boundsPx ? inOrder(`${evidence}|${key}`).indexOf(placeOf(boundsPx)) + 1 || 1 : 1,
  };
}

const placeOf = ({ height, width, x, y }: Box): string => `${x} ${y} ${width} ${height}`;
