/**
 * gettext's plural forms (GNU gettext manual, *Additional functions for plural forms*): an expression of C over `n` gives
 * the number of the form. Forms are matched with CLDR's categories by trying numbers.
 */
import type { PluralCategory } from '../../model/catalogue.ts';
import { ORDINARY_NUMBERS } from './plural-categories.ts';

type Evaluate = (n: number) => number;

const TOKEN = /\s*(\d+|n|&&|\|\||==|!=|<=|>=|[<>+\-*/%!?:()])/y;
const BINARY: Record<string, [precedence: number, apply: (a: number, b: number) => number]> = {
  '||': [1, (a, b) => Number(a !== 0 || b !== 0)],
  '&&': [2, (a, b) => Number(a !== 0 && b !== 0)],
  '==': [3, (a, b) => Number(a === b)],
  '!=': [3, (a, b) => Number(a !== b)],
  '<': [4, (a, b) => Number(a < b)],
  '<=': [4, (a, b) => Number(a <= b)],
  '>': [4, (a, b) => Number(a > b)],
  '>=': [4, (a, b) => Number(a >= b)],
  '+': [5, (a, b) => a + b],
  '-': [5, (a, b) => a - b],
  '*': [6, (a, b) => a * b],
  '/': [6, (a, b) => (b === 0 ? 0 : Math.trunc(a / b))],
  '%': [6, (a, b) => (b === 0 ? 0 : a % b)],
};
const MAX_TOKENS = 400;

/** The expression as a function; undefined where it is none. */
export function parsePluralExpression(source: string): Evaluate | undefined {
  const tokens = tokenize(source);
  if (!tokens) return undefined;
  let at = 0;
  const ternary = (): Evaluate | undefined => {
    const condition = binary(1);
    if (tokens[at] !== '?') return condition;
    at += 1;
    const yes = ternary();
    if (tokens[at++] !== ':') return undefined;
    const no = ternary();
    return condition && yes && no && ((n) => (condition(n) !== 0 ? yes(n) : no(n)));
  };
  const binary = (least: number): Evaluate | undefined => {
    let left = unary();
    for (let operator = BINARY[tokens[at] ?? '']; operator && operator[0] >= least; ) {
      at += 1;
      const [precedence, apply] = operator;
      const [a, b] = [left, binary(precedence + 1)];
      left = a && b && ((n) => apply(a(n), b(n)));
      operator = BINARY[tokens[at] ?? ''];
    }
    return left;
  };
  const unary = (): Evaluate | undefined => {
    const token = tokens[at++];
    if (token === 'n') return (n) => n;
    if (token === '!') {
      const of = unary();
      return of && ((n) => Number(of(n) === 0));
    }
    if (token === '(') {
      const inner = ternary();
      return tokens[at++] === ')' ? inner : undefined;
    }
    const number = token === undefined ? Number.NaN : Number(token);
    return Number.isNaN(number) ? undefined : () => number;
  };
  const whole = ternary();
  return at === tokens.length ? whole : undefined;
}

function tokenize(source: string): string[] | undefined {
  const tokens: string[] = [];
  TOKEN.lastIndex = 0;
  const trimmed = source.trim();
  while (TOKEN.lastIndex < trimmed.length) {
    const match = TOKEN.exec(trimmed);
    if (!match || tokens.length >= MAX_TOKENS) return undefined;
    tokens.push(match[1]!);
  }
  return tokens;
}

const TRIED = Array.from({ length: 201 }, (_, n) => n);

/**
 * The category of each form, by the numbers that it stands for.
 *
 * @returns undefined where the expression tells numbers apart otherwise than the language does
 */
export function categoriesOfForms(
  expression: Evaluate,
  locale: string,
): Map<number, PluralCategory> | undefined {
  const rules = new Intl.PluralRules(locale);
  const categories = new Map<number, PluralCategory>();
  for (const n of TRIED) {
    const form = expression(n);
    const category = rules.select(n);
    const known = categories.get(form);
    if (known !== undefined && known !== category) return undefined;
    categories.set(form, category);
  }
  return new Set(categories.values()).size === categories.size ? categories : undefined;
}

const EXAMPLES = 4;

interface NamedForms {
  /** Of each form that a number leads to: a category of CLDR, or its number in brackets. */
  labels: Map<number, string>;
  /** Of each, the least whole numbers that it stands for. */
  numbers: Map<number, number[]>;
  /** What must be filled in. */
  needed: string[];
}

// Where gettext's own table (*Plural forms*) tells fewer apart than CLDR, and people do not miss it.
const FEWER_IS_USUAL = new Set(['he', 'iw']);

/**
 * Names the forms of an expression by the categories that most of their numbers belong to. Needed is each form that a number
 * leads to; but where an expression makes one of what three and more categories tell apart, these categories are.
 */
export function nameForms(expression: Evaluate, locale = 'en'): NamedForms {
  const rules = new Intl.PluralRules(locale);
  const counts = new Map<number, Map<string, number>>();
  const numbers = new Map<number, number[]>();
  const categories = new Set<string>();
  for (const n of ORDINARY_NUMBERS) {
    const form = expression(n);
    const category = rules.select(n);
    categories.add(category);
    const of = counts.get(form) ?? new Map<string, number>();
    counts.set(form, of.set(category, (of.get(category) ?? 0) + 1));
    const examples = numbers.get(form) ?? [];
    if (examples.length < EXAMPLES) numbers.set(form, [...examples, n]);
  }
  const total = (of: ReadonlyMap<string, number>) => [...of.values()].reduce((sum, count) => sum + count, 0);
  const labels = new Map<number, string>();
  const taken = new Set<string>();
  for (const [form, of] of [...counts].sort(([, a], [, b]) => total(b) - total(a))) {
    const free = [...of].sort(([, a], [, b]) => b - a).find(([category]) => !taken.has(category))?.[0];
    const label = free ?? `[${form}]`;
    taken.add(label);
    labels.set(form, label);
  }
  const { language } = new Intl.Locale(locale);
  const isShort = categories.size >= 3 && labels.size < 3 && !FEWER_IS_USUAL.has(language);
  const needed = isShort ? [...categories] : [...labels].sort(([a], [b]) => a - b).map(([, label]) => label);
  return { labels, numbers, needed };
}

// The expressions in use, of which one partitions the numbers as each language does.
const EXPRESSIONS = [
  '0',
  'n != 1',
  'n > 1',
  'n%10==1 && n%100!=11 ? 0 : n%10>=2 && n%10<=4 && (n%100<10 || n%100>=20) ? 1 : 2',
  'n==1 ? 0 : n%10>=2 && n%10<=4 && (n%100<10 || n%100>=20) ? 1 : 2',
  'n==1 ? 0 : n>=2 && n<=4 ? 1 : 2',
  'n==0 ? 0 : n==1 ? 1 : n==2 ? 2 : n%100>=3 && n%100<=10 ? 3 : n%100>=11 ? 4 : 5',
  'n==1 ? 0 : n==2 ? 1 : 2',
  'n%100==1 ? 0 : n%100==2 ? 1 : n%100==3 || n%100==4 ? 2 : 3',
  'n==1 ? 0 : n==0 || (n%100>=1 && n%100<=19) ? 1 : 2',
  'n%10==1 && (n%100<11 || n%100>19) ? 0 : n%10>=2 && n%10<=9 && (n%100<11 || n%100>19) ? 1 : 2',
  'n%10==0 || (n%100>=11 && n%100<=19) ? 0 : n%10==1 && n%100!=11 ? 1 : 2',
  'n==0 ? 0 : n==1 ? 1 : n==2 ? 2 : n==3 ? 3 : n==6 ? 4 : 5',
  'n==1 ? 0 : n==2 ? 1 : n>=3 && n<=6 ? 2 : n>=7 && n<=10 ? 3 : 4',
  'n%10==1 && n%100!=11 ? 0 : 1',
];

/** The expression for a language, and the categories of its forms in order; undefined where none is known. */
export function pluralFormsOf(
  locale: string,
): { expression: string; categories: PluralCategory[] } | undefined {
  for (const expression of EXPRESSIONS) {
    const forms = categoriesOfForms(parsePluralExpression(expression)!, locale);
    if (forms)
      return { expression, categories: [...forms].sort(([a], [b]) => a - b).map(([, category]) => category) };
  }
  return undefined;
}
