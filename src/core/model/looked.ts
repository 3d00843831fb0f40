/**
 * What a judgement looked at, kept with it so that a later one can be compared: a finding that is gone was fixed only where
 * somebody looked again, and one that is there now is new only where somebody looked before.
 */
import { z } from 'zod';
import { cellSchema } from './cell.ts';

/** Positions in `cells`, as ascending spans: `0-3,7`. Empty where there are none. */
const spansSchema = z
  .string()
  .regex(/^(\d+(-\d+)?(,\d+(-\d+)?)*)?$/, 'ascending spans of positions, such as "0-3,7"');

export const lookedSchema = z.strictObject({
  /** Where captures and runs were made; the other fields name them by their position. */
  cells: z.array(cellSchema),
  /** Cells that hold a capture. */
  captured: spansSchema,
  checks: z.array(
    z.strictObject({
      check: z.string(),
      /** The kinds of fact that it goes by. */
      reads: z.array(z.string()),
      /** Where it decided on something. */
      decided: spansSchema,
      /** Where the evidence lacked something that it needs. */
      lacking: spansSchema,
      /** What kept it from seeing all of the package or of the runs. */
      because: z.array(z.string()),
      /** The limits that it went by. */
      limits: z.record(z.string(), z.union([z.number(), z.string()])),
    }),
  ),
  /** Elements by screen and key; by kind of fact the cells in which it was measured. */
  elements: z.array(
    z.strictObject({ screen: z.string(), key: z.string(), measured: z.record(z.string(), spansSchema) }),
  ),
  /** What the package names: keys of texts, drawables and other resources. */
  names: z.array(z.string()),
});
export type Looked = z.infer<typeof lookedSchema>;

export function formatSpans(positions: Iterable<number>): string {
  const sorted = [...new Set(positions)].sort((a, b) => a - b);
  const spans: [number, number][] = [];
  for (const at of sorted) {
    const last = spans.at(-1);
    if (last && at === last[1] + 1) last[1] = at;
    else spans.push([at, at]);
  }
  return spans.map(([first, last]) => (first === last ? `${first}` : `${first}-${last}`)).join(',');
}

/** Positions as spans have them, read when they are first asked for: of many only a few are. */
export class Spans {
  readonly #text: string;
  #spans: [first: number, last: number][] | undefined;

  constructor(text: string) {
    this.#text = text;
  }

  has(position: number): boolean {
    this.#spans ??= this.#text === '' ? [] : this.#text.split(',').map(spanOf);
    let [low, high] = [0, this.#spans.length - 1];
    while (low <= high) {
      const middle = (low + high) >> 1;
      const [first, last] = this.#spans[middle]!;
      if (position < first) high = middle - 1;
      else if (position > last) low = middle + 1;
      else return true;
    }
    return false;
  }
}

const spanOf = (text: string): [number, number] => {
  const [first, last = first] = text.split('-').map(Number) as [number, number?];
  return [first, last];
};
