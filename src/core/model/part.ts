/** One of several equal parts of work that is divided over machines: `{ index: 2, of: 4 }` is the second of four. */
export interface Part {
  /** From 1. */
  index: number;
  of: number;
}

/** What of a list falls into a part: what stands together stays together, and each falls into one part alone. */
export const partOf = <T>(list: readonly T[], { index, of }: Part): T[] =>
  list.slice(Math.ceil(((index - 1) * list.length) / of), Math.ceil((index * list.length) / of));
