/**
 * Patterns of paths, queries and fragments in a manifest (Android developers, *<data>*; android.os.PatternMatcher).
 * Neither kind of pattern goes back once it has taken characters, which is where it differs from regular expressions.
 */
import { UnreadableError } from '../../model/problem.ts';

export type Matches = (text: string) => boolean;

export interface CompiledPattern {
  matches: Matches;
  /** What every text that matches begins with. */
  head: string;
  /** Only the head itself matches. */
  isExact: boolean;
}

/** @param declared attribute and value: `pathPrefix=/sailings`. @throws UnreadableError for a malformed advanced pattern */
export function compilePattern(declared: string): CompiledPattern {
  const at = declared.indexOf('=');
  const kind = declared.slice(0, at);
  const value = declared.slice(at + 1);
  const pattern = (matches: Matches, head = '', isExact = false) => ({ matches, head, isExact });
  if (kind.endsWith('AdvancedPattern')) return pattern(advancedPattern(value));
  if (kind.endsWith('Pattern')) return simplePattern(value);
  if (kind.endsWith('Prefix')) return pattern((text) => text.startsWith(value), value);
  if (kind.endsWith('Suffix')) return pattern((text) => text.endsWith(value));
  return pattern((text) => text === value, value, true);
}

/** What a simple pattern asks for, one after another. */
type Step =
  /** One character; a dot takes any, also with a backslash before it. */
  | { kind: 'one'; char: string }
  /** `x*`: as many of them as there are. */
  | { kind: 'repeat'; char: string }
  /** `.*x`: on to the next x, and past it. */
  | { kind: 'seek'; char: string }
  /** `.*` at the end. */
  | { kind: 'rest' };

function simplePattern(pattern: string): CompiledPattern {
  const steps = readSteps(pattern);
  const special = steps.findIndex((step) => step.kind !== 'one' || step.char === '.');
  const plain = special < 0 ? steps : steps.slice(0, special);
  const head = plain.map((step) => ('char' in step ? step.char : '')).join('');
  const rest = special < 0 ? [] : steps.slice(special);
  return {
    head,
    isExact: special < 0,
    matches: (text) => text.startsWith(head) && follow(rest, text, head.length),
  };
}

function follow(steps: readonly Step[], text: string, from: number): boolean {
  let at = from;
  for (let i = 0; i < steps.length; i++) {
    const step = steps[i]!;
    if (step.kind === 'rest') return true;
    // the text has ended before the pattern
    if (at >= text.length) return false;
    const { char } = step;
    if (step.kind === 'one') {
      if (char !== '.' && text[at] !== char) return false;
      at++;
    } else if (step.kind === 'seek') {
      at = text.indexOf(char, at) + 1;
      if (at === 0) return false;
    } else while (at < text.length && text[at] === char) at++;
  }
  return at >= text.length;
}

function readSteps(pattern: string): Step[] {
  const steps: Step[] = [];
  let i = 0;
  const next = (): { char: string; escaped: boolean } => {
    const escaped = pattern[i] === '\\';
    if (escaped) i++;
    return { char: pattern[i++] ?? '\0', escaped };
  };
  while (i < pattern.length) {
    const { char, escaped } = next();
    if (pattern[i] !== '*') steps.push({ kind: 'one', char });
    else if (char !== '.' || escaped) {
      i++;
      steps.push({ kind: 'repeat', char });
    } else {
      i++;
      if (i >= pattern.length) steps.push({ kind: 'rest' });
      // what follows is taken as it stands, a dot or a star too
      else steps.push({ kind: 'seek', char: next().char });
    }
  }
  return steps;
}

/** One token of an advanced pattern, and how often it stands. */
interface Token {
  takes(char: string): boolean;
  least: number;
  most: number;
}

function advancedPattern(pattern: string): Matches {
  const tokens = readTokens(pattern);
  return (text) => {
    let at = 0;
    for (const { least, most, takes } of tokens) {
      const end = Math.min(text.length, at + most);
      const from = at;
      while (at < end && takes(text[at]!)) at++;
      if (at - from < least) return false;
    }
    return at >= text.length;
  };
}

// As long as the platform's own store for them.
const LONGEST_PATTERN = 2048;

function readTokens(pattern: string): Token[] {
  const tokens: Token[] = [];
  let i = 0;
  let isCounted = true;
  const wrong = (found: string) =>
    new UnreadableError({
      code: 'link.pattern',
      place: `pathAdvancedPattern "${pattern}", character ${i + 1}`,
      found,
      expected: 'characters, sets such as [a-z], and *, + or {2,3} after them',
    });
  const count = (least: number, most: number) => {
    const last = tokens.at(-1);
    if (!last || isCounted) throw wrong('a count without anything before it');
    last.least = least;
    last.most = most;
    isCounted = true;
  };
  const token = (takes: Token['takes']) => {
    tokens.push({ takes, least: 1, most: 1 });
    isCounted = false;
  };
  if (pattern.length > LONGEST_PATTERN) throw wrong(`${pattern.length} characters`);
  while (i < pattern.length) {
    const char = pattern[i]!;
    if (char === '[') {
      const set = readSet(pattern, i + 1);
      if (!set) throw wrong('a set that is empty or does not end');
      token(set.takes);
      i = set.end;
      continue;
    }
    if (char === '{') {
      const range = /^\{(\d+)(,?)(\d*)\}/.exec(pattern.slice(i));
      if (!range) throw wrong('a count that is no number or does not end');
      const least = Number(range[1]);
      const most = range[2] ? (range[3] ? Number(range[3]) : Number.POSITIVE_INFINITY) : least;
      if (least > most) throw wrong('a count that is higher at first than at last');
      count(least, most);
      i += range[0].length;
      continue;
    }
    if (char === '*') count(0, Number.POSITIVE_INFINITY);
    else if (char === '+') count(1, Number.POSITIVE_INFINITY);
    else if (char === '.') token(() => true);
    else if (char === '\\') {
      const literal = pattern[++i];
      if (literal === undefined) throw wrong('a backslash at the end');
      token((one) => one === literal);
      // a closing brace by itself stands for nothing
    } else if (char !== '}') token((one) => one === char);
    i++;
  }
  return tokens;
}

/** From behind its bracket to behind its closing one. */
function readSet(pattern: string, from: number): { takes: Token['takes']; end: number } | undefined {
  const isInverse = pattern[from] === '^';
  const ranges: [string, string][] = [];
  for (let i = from + (isInverse ? 1 : 0); i < pattern.length; i++) {
    if (pattern[i] === ']') {
      if (ranges.length === 0) return undefined;
      const within = (char: string) => ranges.some(([low, high]) => char >= low && char <= high);
      return { takes: isInverse ? (char) => !within(char) : within, end: i + 1 };
    }
    if (pattern[i] === '\\') i++;
    const low = pattern[i];
    if (low === undefined) return undefined;
    const isRange = pattern[i + 1] === '-' && i + 2 < pattern.length && pattern[i + 2] !== ']';
    if (!isRange) {
      ranges.push([low, low]);
      continue;
    }
    i += 2;
    if (pattern[i] === '\\') i++;
    ranges.push([low, pattern[i] ?? '']);
  }
  return undefined;
}
