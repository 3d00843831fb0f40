/** Texts of one syntax written in another, as far as both can say the same. */
import type { ArgumentType, TextPart, TextSyntax } from '../../model/catalogue.ts';
import { quoteIcu, unquoteIcu } from './icu.ts';

/** Joins parts in the syntax that they were read in, or another. */
export function writeText(parts: readonly TextPart[], from: TextSyntax, to: TextSyntax = from): string {
  if (from === to) return parts.map(({ written }) => written).join('');
  const hasPlaceholder = parts.some(({ kind }) => kind === 'placeholder');
  return parts
    .map((part) => {
      if (part.kind === 'markup') return part.written;
      if (part.kind === 'placeholder') return writePlaceholder(part, to);
      return asLiteral(plainLiteral(part.written, from, hasPlaceholder), to, hasPlaceholder);
    })
    .join('');
}

/** What a person reads there: no quoting, no doubled signs. */
export function plainLiteral(written: string, syntax: TextSyntax, isFormatted: boolean): string {
  if (syntax === 'icu') return unquoteIcu(written);
  return isFormatted ? written.replaceAll('%%', '%') : written;
}

function asLiteral(text: string, syntax: TextSyntax, isFormatted: boolean): string {
  if (syntax === 'icu') return quoteIcu(text);
  return isFormatted ? text.replaceAll('%', '%%') : text;
}

const CONVERSION: Record<Exclude<TextSyntax, 'icu'>, Partial<Record<ArgumentType, string>>> = {
  'printf-java': { text: 's', integer: 'd', decimal: 'f', character: 'c', boolean: 'b' },
  'printf-apple': { text: '@', integer: 'd', decimal: 'f', character: 'C' },
};

function writePlaceholder(
  { name, position, type }: Extract<TextPart, { kind: 'placeholder' }>,
  to: TextSyntax,
): string {
  if (to !== 'icu') return `%${position}$${CONVERSION[to][type] ?? CONVERSION[to].text}`;
  return `{${name ?? argumentName(position)}}`;
}

/** For arguments that have only a position. */
const argumentName = (position: number): string => `arg${position}`;
