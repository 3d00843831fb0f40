/**
 * Placeholders in braces as `format` fills them in: Python (*Format String Syntax*), C# (*Composite formatting*), and what
 * gettext calls perl-brace. `{{` and `}}` stand for a brace.
 */
import type { TextFault } from '../../model/catalogue.ts';

interface BracePlaceholder {
  at: number;
  written: string;
  /** Its name or number; of those without either, their place among them. */
  name: string;
  /** Whether that is written out. */
  isNamed: boolean;
}

const PLACEHOLDER =
  /\{([A-Za-z_]\w*|\d+)?((?:\.\w+|\[[^\]{}]*\])*)(?:\s*,\s*-?\d+)?(?:![rsa])?(?::(?:[^{}]|\{\w*\})*)?\}/y;

export function scanBraces(text: string): { placeholders: BracePlaceholder[]; faults: TextFault[] } {
  const placeholders: BracePlaceholder[] = [];
  const faults: TextFault[] = [];
  let next = 0;
  for (let at = text.search(/[{}]/); at >= 0 && at < text.length; ) {
    const char = text[at]!;
    if ((char === '{' || char === '}') && text[at + 1] === char) {
      at += 2;
      continue;
    }
    if (char === '{') {
      PLACEHOLDER.lastIndex = at;
      const match = PLACEHOLDER.exec(text);
      if (match) {
        const [written, name, inside = ''] = match;
        placeholders.push({
          at,
          written,
          name: (name ?? String(next++)) + inside,
          isNamed: name !== undefined,
        });
        at += written.length;
        continue;
      }
      faults.push({ code: 'unclosed-brace', at, excerpt: text.slice(at, at + 12) });
    } else if (char === '}') faults.push({ code: 'unopened-brace', at, excerpt: text.slice(at, at + 12) });
    at += 1;
  }
  return { placeholders, faults };
}
