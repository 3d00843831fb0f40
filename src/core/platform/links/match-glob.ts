/**
 * Patterns of a site association file: `*` is any run of characters, `?` one character, `$(name)` one of the values of
 * a variable (Apple developer documentation, `applinks.Details.Components` and `substitutionVariables`).
 * Never takes longer than pattern times text, whatever stands in the file.
 */
import type { Matches } from './match-pattern.ts';

type Token =
  | { kind: 'char'; char: string }
  /** One character of a kind; `?` takes every one. */
  | { kind: 'one'; takes(char: string): boolean }
  | { kind: 'run' }
  | { kind: 'either'; values: Token[][] };

export function compileGlob(
  pattern: string,
  caseSensitive: boolean,
  variables: Readonly<Record<string, readonly string[]>>,
): Matches {
  const fold = (text: string) => (caseSensitive ? text : text.toLowerCase());
  const tokens = readTokens(pattern, fold, variables);
  const special = tokens.findIndex(({ kind }) => kind !== 'char');
  const plain = special < 0 ? tokens : tokens.slice(0, special);
  const head = plain.map((token) => ('char' in token ? token.char : '')).join('');
  if (special < 0) return (text) => fold(text) === head;
  const rest = tokens.slice(special);
  if (rest.length === 1 && rest[0]!.kind === 'run') return (text) => fold(text).startsWith(head);
  const hasEither = rest.some(({ kind }) => kind === 'either');
  return (given) => {
    const text = fold(given);
    if (!text.startsWith(head)) return false;
    const tail = text.slice(head.length);
    return hasEither ? reaches(rest, tail) : matchesOneWay(rest as OneWay[], tail);
  };
}

function readTokens(
  pattern: string,
  fold: (text: string) => string,
  variables: Readonly<Record<string, readonly string[]>>,
): Token[] {
  return pattern.split(/(\$\([^)]*\))/).flatMap((part): Token[] => {
    const name = /^\$\((.*)\)$/s.exec(part)?.[1];
    if (name === undefined) return readGlob(fold(part));
    const values = variables[name] ?? SYSTEM_VALUES[name]?.();
    if (values) return [{ kind: 'either', values: values.map((value) => readGlob(fold(value))) }];
    const set = SYSTEM_SETS[name];
    return set ? [{ kind: 'one', takes: (char) => set.test(char) }] : readGlob(fold(part));
  });
}

function readGlob(text: string): Token[] {
  const tokens: Token[] = [];
  for (const char of text.split(''))
    if (char === '?') tokens.push({ kind: 'one', takes: () => true });
    else if (char !== '*') tokens.push({ kind: 'char', char });
    else if (tokens.at(-1)?.kind !== 'run') tokens.push({ kind: 'run' });
  return tokens;
}

type OneWay = Exclude<Token, { kind: 'either' }>;

/** Goes back to the last run only: what an earlier one took never has to be taken back. */
function matchesOneWay(tokens: readonly OneWay[], text: string): boolean {
  let [at, i, runAt, runI] = [0, 0, -1, -1];
  while (at < text.length) {
    const token = tokens[i];
    if (token?.kind === 'run') {
      [runI, runAt] = [i++, at];
    } else if (token && takesChar(token, text[at]!)) {
      at++;
      i++;
    } else if (runI < 0) return false;
    else {
      at = ++runAt;
      i = runI + 1;
    }
  }
  while (tokens[i]?.kind === 'run') i++;
  return i === tokens.length;
}

const takesChar = (token: Token, char: string): boolean =>
  token.kind === 'char' ? token.char === char : token.kind === 'one' && token.takes(char);

/** With variables: all places of the text that can be reached, token by token. */
const reaches = (tokens: readonly Token[], text: string): boolean =>
  placesAfter(tokens, text, new Set([0])).has(text.length);

function placesAfter(tokens: readonly Token[], text: string, from: Set<number>): Set<number> {
  let places = from;
  for (const token of tokens) {
    const next = new Set<number>();
    if (token.kind === 'run') {
      let first = text.length;
      for (const at of places) first = Math.min(first, at);
      for (let at = first; at <= text.length; at++) next.add(at);
    } else if (token.kind === 'either') {
      for (const value of token.values) for (const at of placesAfter(value, text, places)) next.add(at);
    } else for (const at of places) if (at < text.length && takesChar(token, text[at]!)) next.add(at + 1);
    if (next.size === 0) return next;
    places = next;
  }
  return places;
}

const SYSTEM_SETS: Record<string, RegExp> = {
  alpha: /^[A-Za-z]$/,
  upper: /^[A-Z]$/,
  lower: /^[a-z]$/,
  alnum: /^[A-Za-z0-9]$/,
  digit: /^[0-9]$/,
  xdigit: /^[0-9A-Fa-f]$/,
};

const SYSTEM_VALUES: Record<string, () => readonly string[]> = {
  lang: () => codesOf('language', 97),
  region: () => codesOf('region', 65),
};

const codes = new Map<string, readonly string[]>();

/** Two-letter codes that have a name: of languages in small letters, of regions in capitals. */
function codesOf(type: 'language' | 'region', firstLetter: number): readonly string[] {
  const before = codes.get(type);
  if (before) return before;
  const names = new Intl.DisplayNames(['en'], { type, fallback: 'none' });
  const letters = Array.from({ length: 26 }, (_, i) => String.fromCharCode(firstLetter + i));
  const named = letters.flatMap((one) =>
    letters.map((two) => one + two).filter((code) => names.of(code) !== undefined),
  );
  codes.set(type, named);
  return named;
}
