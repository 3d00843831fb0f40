/** Plural categories that a language needs (CLDR, Unicode Technical Standard 35, part 3, *Language Plural Rules*). */
import { type PluralCategory, pluralCategories } from '../../model/catalogue.ts';

export interface PluralNeeds {
  /** For whole numbers below a million: what an app counts. */
  whole: PluralCategory[];
  /** Only for fractions, or from a million on. */
  rest: PluralCategory[];
  /** The least whole numbers of each category, a few of each. */
  examples: ReadonlyMap<PluralCategory, readonly number[]>;
}

/** Rules go by the last two or three digits, so that these show every category of whole numbers. */
export const ORDINARY_NUMBERS = [...Array.from({ length: 1001 }, (_, n) => n), 2000, 10_000, 100_000];
const EXAMPLES = 4;

/** @throws RangeError where the tag is no locale */
export function pluralNeeds(locale: string): PluralNeeds {
  const rules = new Intl.PluralRules(locale);
  const examples = new Map<PluralCategory, number[]>();
  for (const n of ORDINARY_NUMBERS) {
    const category = rules.select(n);
    const list = examples.get(category) ?? [];
    if (list.length < EXAMPLES) list.push(n);
    examples.set(category, list);
  }
  const all = rules.resolvedOptions().pluralCategories as PluralCategory[];
  const inOrder = (categories: readonly PluralCategory[]) =>
    pluralCategories.filter((category) => categories.includes(category));
  return {
    whole: inOrder([...examples.keys()]),
    rest: inOrder(all.filter((category) => !examples.has(category))),
    examples,
  };
}
