/**
 * Placeholders of formatted texts: java.util.Formatter, which `getString` fills in (Java SE 17, *Format String Syntax*),
 * NSString (Apple, *String Format Specifiers*), with `%@` and lengths such as `ll`; and of catalogues of gettext those of C
 * (C17, 7.21.6.1, with glibc's `%m` and what `<inttypes.h>` defines) and Python (*printf-style String Formatting*).
 */
import type { ArgumentType, TextFault } from '../../model/catalogue.ts';

export type PrintfSyntax = 'printf-java' | 'printf-apple' | 'printf-c' | 'percent-python';

export interface PrintfPlaceholder {
  at: number;
  written: string;
  position: number;
  /** Where it is found by a name. */
  name?: string;
  /** Whether its position, or its name, is written out. */
  numbered: boolean;
  /** In lower case, the letters that mean the same made one. */
  conversion: string;
  type: ArgumentType;
}

// A blank is a flag in both, but in running text "5 % of" is no placeholder, so it is not taken for one.
const PLACEHOLDER: Record<PrintfSyntax, string> = {
  'printf-java': String.raw`%(?:(\d+)\$)?([-#+0,(]*\d*(?:\.\d+)?)([tT][A-Za-z]|[a-zA-Z%])`,
  'printf-apple': String.raw`%(?:(\d+)\$)?([-#+0']*\d*(?:\.\d+)?)(?:hh|h|ll|l|q|z|t|j|L)?(arg\b|#@\w+@|[a-zA-Z@%])`,
  // what is formatted for certain may have a blank for a flag, and a width from an argument
  'printf-c': String.raw`%(?:(\d+)\$)?([-#+0' I]*(?:\*|\d*)(?:\.(?:\*|\d*))?)((?:hh|h|ll|l|q|z|t|j|L|Z)?(?:<PRI[a-zA-Z0-9]+>|[a-zA-Z%]))`,
  'percent-python': String.raw`%(?:\(([^()]*)\))?([-#+0 ]*(?:\*|\d*)(?:\.(?:\*|\d*))?)[hlL]?([a-zA-Z%])`,
};

type Conversion = [conversion: string, type: ArgumentType];

/** @param rows the letters that mean the same, the one that stands for them, and what they print */
const conversions = (rows: [letters: string, ...Conversion][]): ReadonlyMap<string, Conversion> =>
  new Map(
    rows.flatMap(([letters, ...conversion]) => [...letters].map((letter) => [letter, conversion] as const)),
  );

const CONVERSIONS: Record<PrintfSyntax, ReadonlyMap<string, Conversion>> = {
  'printf-java': conversions([
    ['sS', 's', 'text'],
    ['hH', 'h', 'text'],
    ['d', 'd', 'integer'],
    ['o', 'o', 'integer'],
    ['xX', 'x', 'integer'],
    ['f', 'f', 'decimal'],
    ['eE', 'e', 'decimal'],
    ['gG', 'g', 'decimal'],
    ['aA', 'a', 'decimal'],
    ['cC', 'c', 'character'],
    ['bB', 'b', 'boolean'],
  ]),
  'printf-apple': conversions([
    ['@', '@', 'text'],
    ['sS', 's', 'text'],
    ['dDi', 'd', 'integer'],
    ['uU', 'u', 'integer'],
    ['xX', 'x', 'integer'],
    ['oO', 'o', 'integer'],
    ['p', 'p', 'integer'],
    ['fF', 'f', 'decimal'],
    ['eE', 'e', 'decimal'],
    ['gG', 'g', 'decimal'],
    ['aA', 'a', 'decimal'],
    ['cC', 'c', 'character'],
  ]),
  'printf-c': conversions([
    ['sS', 's', 'text'],
    ['di', 'd', 'integer'],
    ['uxXo', 'u', 'integer'],
    ['p', 'p', 'integer'],
    ['fFeEgGaA', 'f', 'decimal'],
    ['cC', 'c', 'character'],
  ]),
  'percent-python': conversions([
    ['sra', 's', 'text'],
    ['diuxXo', 'd', 'integer'],
    ['fFeEgG', 'f', 'decimal'],
    ['c', 'c', 'character'],
  ]),
};

const AT_PERCENT: Record<PrintfSyntax, RegExp> = {
  'printf-java': new RegExp(PLACEHOLDER['printf-java'], 'y'),
  'printf-apple': new RegExp(PLACEHOLDER['printf-apple'], 'y'),
  'printf-c': new RegExp(PLACEHOLDER['printf-c'], 'y'),
  'percent-python': new RegExp(PLACEHOLDER['percent-python'], 'y'),
};

interface PrintfScan {
  /** In the order of the text; `%%` and Java's `%n` take no argument and are none. */
  placeholders: PrintfPlaceholder[];
  /** Percent signs that begin a placeholder and do not end it as one. */
  faults: TextFault[];
}

export function scanPrintf(text: string, syntax: PrintfSyntax): PrintfScan {
  const placeholders: PrintfPlaceholder[] = [];
  const faults: TextFault[] = [];
  const pattern = AT_PERCENT[syntax];
  let next = 1;
  for (let at = text.indexOf('%'); at >= 0; at = text.indexOf('%', at)) {
    pattern.lastIndex = at;
    const match = pattern.exec(text);
    if (!match) {
      const excerpt = text.slice(at, at + 12);
      faults.push({ code: /^%\d+\$/.test(excerpt) ? 'unclosed-placeholder' : 'bare-percent', at, excerpt });
      at += 1;
      continue;
    }
    const written = match[0];
    const ending = match[3]!;
    const known = syntax === 'printf-c' ? conversionOfC(ending) : conversionOf(ending, syntax);
    if (known) {
      const numbered = match[1] !== undefined;
      const name = syntax === 'percent-python' ? match[1] : undefined;
      // widths and precisions that are arguments come before it
      if (!numbered) next += match[2]!.split('*').length - 1;
      const position = name === undefined && numbered ? Number(match[1]) : next++;
      const [conversion, type] = known;
      placeholders.push({ at, written, position, ...(name && { name }), numbered, conversion, type });
    } else if (ending !== '%' && !TAKES_NOTHING[syntax]?.includes(ending))
      faults.push({ code: 'unknown-conversion', at, excerpt: written });
    at += written.length;
  }
  return { placeholders, faults };
}

/** Letters that end a placeholder and take no argument. */
const TAKES_NOTHING: Partial<Record<PrintfSyntax, string>> = { 'printf-java': 'n', 'printf-c': 'm' };

/** In C the width of a number counts: what is printed for a long one reads beyond a short one. */
function conversionOfC(ending: string): Conversion | undefined {
  const fixed = /^<PRI([dioxXu])(\w+)>$/.exec(ending);
  const letter = fixed?.[1] ?? ending.at(-1)!;
  const known = conversionOf(letter, 'printf-c');
  return known && [(fixed?.[2] ?? ending.slice(0, -1)) + known[0], known[1]];
}

function conversionOf(letter: string, syntax: PrintfSyntax): Conversion | undefined {
  if (letter.length > 1)
    return letter === 'arg' || letter.startsWith('#@') ? ['d', 'integer'] : ['t', 'date'];
  return CONVERSIONS[syntax].get(letter);
}
