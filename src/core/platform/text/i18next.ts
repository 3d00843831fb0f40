/**
 * Texts of i18next (*Interpolation*, *Nesting*, *Plurals*): `{{name}}`, with `-` before it unescaped, with a format behind a
 * comma; `$t(key)` puts in another text.
 */
import type { TextFault } from '../../model/catalogue.ts';

interface I18nextPlaceholder {
  at: number;
  written: string;
  /** Of what is put in; of another text `$t(key)`. */
  name: string;
}

// As the library looks for them: from the first braces to the next that close.
const PLACEHOLDER = /\{\{(.+?)\}\}|\$t\((.+?)\)/g;

export function scanI18next(text: string): { placeholders: I18nextPlaceholder[]; faults: TextFault[] } {
  const placeholders: I18nextPlaceholder[] = [];
  const faults: TextFault[] = [];
  let rest = text;
  for (const { 0: written, 1: filled, 2: nested, index } of text.matchAll(PLACEHOLDER)) {
    const name = filled === undefined ? `$t(${firstOf(nested!)})` : firstOf(filled.replace(/^-/, ''));
    if (name === '') faults.push({ code: 'empty-argument', at: index, excerpt: written });
    else if (filled !== undefined && /[{}]/.test(name))
      faults.push({ code: 'bad-argument-name', at: index, excerpt: written });
    placeholders.push({ at: index, written, name });
    rest = rest.slice(0, index) + ' '.repeat(written.length) + rest.slice(index + written.length);
  }
  const open = rest.indexOf('{{');
  if (open >= 0) faults.push({ code: 'unclosed-brace', at: open, excerpt: text.slice(open, open + 16) });
  const close = rest.indexOf('}}');
  if (close >= 0) faults.push({ code: 'unopened-brace', at: close, excerpt: text.slice(close, close + 16) });
  return { placeholders, faults };
}

/** What stands before a format or options. */
const firstOf = (inside: string): string => inside.split(',')[0]!.trim();
