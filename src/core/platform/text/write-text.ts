/** Texts of one syntax written in another, as far as both can say the same. */
import type { ArgumentType, TextPart, TextSyntax } from '../../model/catalogue.ts';
import { quoteIcu, unquoteIcu } from './icu.ts';
import type { PrintfSyntax } from './printf.ts';

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
  if (syntax === 'plain' || syntax === 'i18next') return written;
  if (syntax === 'braces') return written.replace(/([{}])\1/g, '$1');
  return isFormatted ? written.replaceAll('%%', '%') : written;
}

function asLiteral(text: string, syntax: TextSyntax, isFormatted: boolean): string {
  if (syntax === 'icu') return quoteIcu(text);
  if (syntax === 'plain' || syntax === 'i18next') return text;
  if (syntax === 'braces') return text.replace(/[{}]/g, '$&$&');
  return isFormatted ? text.replaceAll('%', '%%') : text;
}

const CONVERSION: Record<PrintfSyntax, Partial<Record<ArgumentType, string>>> = {
  'printf-java': { text: 's', integer: 'd', decimal: 'f', character: 'c', boolean: 'b' },
  'printf-apple': { text: '@', integer: 'd', decimal: 'f', character: 'C' },
  'printf-c': { text: 's', integer: 'd', decimal: 'f', character: 'c' },
  'percent-python': { text: 's', integer: 'd', decimal: 'f', character: 'c' },
};

function writePlaceholder(
  { name, position, type, written }: Extract<TextPart, { kind: 'placeholder' }>,
  to: TextSyntax,
): string {
  if (to === 'plain') return written;
  if (to === 'i18next') return `{{${name ?? argumentName(position)}}}`;
  if (to === 'icu' || to === 'braces') return `{${name ?? argumentName(position)}}`;
  const letter = CONVERSION[to][type] ?? CONVERSION[to].text;
  return to === 'percent-python' ? `%(${name ?? argumentName(position)})${letter}` : `%${position}$${letter}`;
}

/** For arguments that have only a position. */
const argumentName = (position: number): string => `arg${position}`;
