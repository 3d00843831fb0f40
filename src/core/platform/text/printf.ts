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
const PLACEHOLDER: Record<PrintfSyntax, RegExp> = {
  'printf-java': /%(?:(\d+)\$)?([-#+0,(]*\d*(?:\.\d+)?)([tT][A-Za-z]|[a-zA-Z%])/g,
  'printf-apple': /%(?:(\d+)\$)?([-#+0']*\d*(?:\.\d+)?)(?:hh|h|ll|l|q|z|t|j|L)?(arg\b|#@\w+@|[a-zA-Z@%])/g,
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

/** Every placeholder of a text, in its order; `%%` and Java's `%n` take no argument and are none. */
export function printfPlaceholders(text: string, syntax: PrintfSyntax): PrintfPlaceholder[] {
  if (!text.includes('%')) return [];
  const found: PrintfPlaceholder[] = [];
  let next = 1;
  for (const match of text.matchAll(PLACEHOLDER[syntax])) {
    const [written, number, , letter] = match as unknown as [string, string | undefined, string, string];
    const known = conversionOf(letter, syntax);
    if (!known) continue;
    const position = number ? Number(number) : next++;
    const [conversion, type] = known;
    found.push({ at: match.index, written, position, numbered: number !== undefined, conversion, type });
  }
  return found;
}

function conversionOf(letter: string, syntax: PrintfSyntax): [string, ArgumentType] | undefined {
  if (letter.length > 1)
    return letter === 'arg' || letter.startsWith('#@') ? ['d', 'integer'] : ['t', 'date'];
  return Object.hasOwn(CONVERSIONS[syntax], letter) ? CONVERSIONS[syntax][letter] : undefined;
}

/** Percent signs that begin a placeholder and do not end it as one. */
export function printfFaults(text: string, syntax: PrintfSyntax): TextFault[] {
  const faults: TextFault[] = [];
  for (let at = text.indexOf('%'); at >= 0; at = text.indexOf('%', at + 1)) {
    const rest = text.slice(at);
    const whole = new RegExp(`^(?:${PLACEHOLDER[syntax].source})`).exec(rest);
    if (whole) {
      const letter = whole[3]!;
      const takesNone = letter === '%' || (letter === 'n' && syntax === 'printf-java');
      if (!takesNone && !conversionOf(letter, syntax))
        faults.push({ code: 'unknown-conversion', at, excerpt: whole[0] });
      at += whole[0].length - 1;
    } else if (/^%\d+\$/.test(rest))
      faults.push({ code: 'unclosed-placeholder', at, excerpt: rest.slice(0, 12) });
  }
  return faults;
}
