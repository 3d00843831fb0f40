/**
 * Placeholders of formatted texts: java.util.Formatter, which `getString` fills in (Java SE 17, *Format String Syntax*),
 * and NSString (Apple, *String Format Specifiers*), with `%@` and lengths such as `ll`.
 */
import type { ArgumentType, TextFault } from '../../model/catalogue.ts';

export type PrintfSyntax = 'printf-java' | 'printf-apple';

export interface PrintfPlaceholder {
  at: number;
  written: string;
  position: number;
  /** Whether its position is written out. */
  numbered: boolean;
  /** In lower case, the letters that mean the same made one. */
  conversion: string;
  type: ArgumentType;
}

// A blank is a flag in both, but in running text "5 % of" is no placeholder, so it is not taken for one.
const PLACEHOLDER: Record<PrintfSyntax, string> = {
  'printf-java': String.raw`%(?:(\d+)\$)?([-#+0,(]*\d*(?:\.\d+)?)([tT][A-Za-z]|[a-zA-Z%])`,
  'printf-apple': String.raw`%(?:(\d+)\$)?([-#+0']*\d*(?:\.\d+)?)(?:hh|h|ll|l|q|z|t|j|L)?(arg\b|#@\w+@|[a-zA-Z@%])`,
};

const CONVERSIONS: Record<PrintfSyntax, Record<string, [conversion: string, type: ArgumentType]>> = {
  'printf-java': {
    s: ['s', 'text'],
    S: ['s', 'text'],
    h: ['h', 'text'],
    H: ['h', 'text'],
    d: ['d', 'integer'],
    o: ['o', 'integer'],
    x: ['x', 'integer'],
    X: ['x', 'integer'],
    f: ['f', 'decimal'],
    e: ['e', 'decimal'],
    E: ['e', 'decimal'],
    g: ['g', 'decimal'],
    G: ['g', 'decimal'],
    a: ['a', 'decimal'],
    A: ['a', 'decimal'],
    c: ['c', 'character'],
    C: ['c', 'character'],
    b: ['b', 'boolean'],
    B: ['b', 'boolean'],
  },
  'printf-apple': {
    '@': ['@', 'text'],
    s: ['s', 'text'],
    S: ['s', 'text'],
    d: ['d', 'integer'],
    D: ['d', 'integer'],
    i: ['d', 'integer'],
    u: ['u', 'integer'],
    U: ['u', 'integer'],
    x: ['x', 'integer'],
    X: ['x', 'integer'],
    o: ['o', 'integer'],
    O: ['o', 'integer'],
    p: ['p', 'integer'],
    f: ['f', 'decimal'],
    F: ['f', 'decimal'],
    e: ['e', 'decimal'],
    E: ['e', 'decimal'],
    g: ['g', 'decimal'],
    G: ['g', 'decimal'],
    a: ['a', 'decimal'],
    A: ['a', 'decimal'],
    c: ['c', 'character'],
    C: ['c', 'character'],
  },
};

const AT_PERCENT: Record<PrintfSyntax, RegExp> = {
  'printf-java': new RegExp(PLACEHOLDER['printf-java'], 'y'),
  'printf-apple': new RegExp(PLACEHOLDER['printf-apple'], 'y'),
};

export interface PrintfScan {
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
    const letter = match[3]!;
    const known = conversionOf(letter, syntax);
    if (known) {
      const numbered = match[1] !== undefined;
      const position = numbered ? Number(match[1]) : next++;
      placeholders.push({ at, written, position, numbered, conversion: known[0], type: known[1] });
    } else if (letter !== '%' && !(letter === 'n' && syntax === 'printf-java'))
      faults.push({ code: 'unknown-conversion', at, excerpt: written });
    at += written.length;
  }
  return { placeholders, faults };
}

function conversionOf(letter: string, syntax: PrintfSyntax): [string, ArgumentType] | undefined {
  if (letter.length > 1)
    return letter === 'arg' || letter.startsWith('#@') ? ['d', 'integer'] : ['t', 'date'];
  return Object.hasOwn(CONVERSIONS[syntax], letter) ? CONVERSIONS[syntax][letter] : undefined;
}
