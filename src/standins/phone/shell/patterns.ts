/** Patterns of the shell (POSIX.1-2017, section 2.13) as regular expressions. */

/** Unquoted characters have their meaning, quoted ones are themselves. */
export interface PatternPart {
  text: string;
  quoted: boolean;
}

export const hasPattern = (parts: readonly PatternPart[]): boolean =>
  parts.some(({ quoted, text }) => !quoted && /[*?[]/.test(text));

const literal = (text: string): string => text.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&');

/** Of the whole text; one that cannot be read, such as `[z-a]`, fits nothing. */
export function patternRegExp(parts: readonly PatternPart[], any?: string): RegExp {
  try {
    return new RegExp(`^(?:${patternSource(parts, any)})$`, 'u');
  } catch {
    return NOTHING;
  }
}

const NOTHING = /(?!)/;

/** @param any what `*` stands for: in paths no slash */
export function patternSource(parts: readonly PatternPart[], any = '[\\s\\S]'): string {
  const characters = parts.flatMap(({ quoted, text }) => [...text].map((char) => ({ char, quoted })));
  let source = '';
  for (let i = 0; i < characters.length; i++) {
    const { char, quoted } = characters[i]!;
    if (quoted) source += literal(char);
    else if (char === '*') source += `${any}*`;
    else if (char === '?') source += any;
    else if (char === '[') {
      const end = bracketEnd(characters, i);
      if (end === undefined) source += '\\[';
      else {
        source += bracketSource(characters.slice(i + 1, end));
        i = end;
      }
    } else if (char === '\\' && characters[i + 1]) source += literal(characters[++i]!.char);
    else source += literal(char);
  }
  return source;
}

type Characters = readonly { char: string; quoted: boolean }[];

function bracketEnd(characters: Characters, start: number): number | undefined {
  let i = start + 1;
  if (/[!^]/.test(characters[i]?.char ?? '')) i += 1;
  // right behind the opening one it is an ordinary character
  for (i += 1; i < characters.length; i++) {
    const named = characters[i]!.char === '[' && characters[i + 1]?.char === ':';
    if (named) {
      while (i < characters.length && characters[i]!.char !== ']') i += 1;
      continue;
    }
    if (characters[i]!.char === ']' && !characters[i]!.quoted) return i;
  }
  return undefined;
}

function bracketSource(inner: Characters): string {
  const text = inner.map(({ char }) => char).join('');
  const isNegated = /^[!^]/.test(text) && !inner[0]!.quoted;
  return `[${isNegated ? '^' : ''}${bracketContent(isNegated ? text.slice(1) : text)}]`;
}

/** What stands in a bracket expression, its named classes among it. */
export const bracketContent = (text: string): string =>
  text
    .replace(/\\/g, '\\\\')
    .replace(/\[:(\w+):\]/g, (whole, name: string) => CLASSES[name] ?? whole)
    .replace(/^\]/, '\\]')
    .replace(/(?<!\\)\[/g, '\\[')
    .replace(/\^/g, '\\^');

const CLASSES: Readonly<Record<string, string>> = {
  alnum: 'A-Za-z0-9',
  alpha: 'A-Za-z',
  blank: ' \\t',
  digit: '0-9',
  lower: 'a-z',
  punct: '!-\\/:-@\\x5b-`{-~',
  space: '\\s',
  upper: 'A-Z',
  xdigit: '0-9A-Fa-f',
};
