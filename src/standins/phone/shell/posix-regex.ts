/** Regular expressions of `grep` and `sed` (POSIX.1-2017, *Base Definitions*, section 9) as JavaScript's. */
import { bracketContent } from './patterns.ts';

/** @param extended `grep -E`: braces, parentheses, `+`, `?` and `|` mean something without a backslash */
export function posixSource(pattern: string, extended: boolean): string {
  let source = '';
  for (let i = 0; i < pattern.length; i++) {
    const char = pattern[i]!;
    const next = pattern[i + 1];
    if (char === '[') {
      const end = bracketEnd(pattern, i);
      if (end === undefined) throw new SyntaxError('brackets ([ ]) not balanced');
      const isNegated = pattern[i + 1] === '^';
      source += `[${isNegated ? '^' : ''}${bracketContent(pattern.slice(i + (isNegated ? 2 : 1), end))}]`;
      i = end;
    } else if (char === '\\' && next !== undefined) {
      i += 1;
      if (/[(){}+?|]/.test(next)) source += extended ? `\\${next}` : next;
      else if (/[1-9wWsSbB]/.test(next)) source += `\\${next}`;
      else if (next === '<' || next === '>') source += '\\b';
      else if (next === 'n' || next === 't') source += `\\${next}`;
      else source += next.replace(/[.*^$[\]\\/-]/g, '\\$&');
    } else if (/[(){}+?|]/.test(char)) source += extended ? char : `\\${char}`;
    else if (char === '*' && (source === '' || /(^|[(|])\^?$/.test(source))) source += '\\*';
    else if (char === '^' && !extended && i > 0 && !/\\[(|]$/.test(pattern.slice(0, i))) source += '\\^';
    else if (char === '$' && !extended && i < pattern.length - 1 && !/^\\[)|]/.test(pattern.slice(i + 1)))
      source += '\\$';
    else source += char;
  }
  return source;
}

function bracketEnd(pattern: string, start: number): number | undefined {
  let i = start + 1;
  if (pattern[i] === '^') i += 1;
  if (pattern[i] === ']') i += 1;
  for (; i < pattern.length; i++) {
    const isNamed = pattern.startsWith('[:', i) ? pattern.indexOf(':]', i) : -1;
    if (isNamed >= 0) i = isNamed + 1;
    else if (pattern[i] === ']') return i;
  }
  return undefined;
}
