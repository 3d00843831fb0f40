/** `.stringsdict` files (Apple, *Stringsdict File Format*): plural forms, by variable, of a format. */
import type { PlistDict } from '../../model/app-package.ts';
import { isDict, textAt } from './plist.ts';

interface StringsdictText {
  key: string;
  /** Plural category; where a format has several variables, the variable's name before it. */
  form: string;
  text: string;
}

const CATEGORIES = ['zero', 'one', 'two', 'few', 'many', 'other'];

export function readStringsdict(dict: PlistDict): StringsdictText[] {
  return Object.entries(dict).flatMap(([key, entry]) => {
    if (!isDict(entry)) return [];
    const variables = Object.entries(entry).filter((pair): pair is [string, PlistDict] => isDict(pair[1]));
    return variables.flatMap(([name, rules]) =>
      CATEGORIES.filter((category) => category in rules).map((category) => ({
        key,
        form: variables.length > 1 ? `${name}/${category}` : category,
        text: textAt(rules, category),
      })),
    );
  });
}
