/** A text of a catalogue, taken apart: what stands there, what is filled in, what styles it. */
import type { ArgumentType, TextFault, TextPart, TextSyntax } from '../../model/catalogue.ts';
import { scanBraces } from './braces.ts';
import { scanI18next } from './i18next.ts';
import { type IcuNode, parseIcu } from './icu.ts';
import { findTags, tagFaults } from './markup.ts';
import { type PrintfSyntax, scanPrintf } from './printf.ts';

interface ParsedText {
  parts: TextPart[];
  faults: TextFault[];
}

interface Mark {
  at: number;
  part: TextPart;
}

/**
 * @param text as the app's formatter gets it
 * @param order of ICU argument names where the catalogue declares one; otherwise that of first use
 */
export function parseText(text: string, syntax: TextSyntax, order: readonly string[] = []): ParsedText {
  const tags = findTags(text);
  const { faults, marks } = marksOf(text, syntax, order);
  const tagMarks = tags.map(
    ({ at, role, tag, written }): Mark => ({ at, part: { kind: 'markup', written, tag, role } }),
  );
  // a placeholder in an attribute belongs to its tag
  const outside = marks.filter(
    ({ at }) => !tags.some((tag) => at > tag.at && at < tag.at + tag.written.length),
  );
  return {
    parts: withLiterals(
      text,
      [...outside, ...tagMarks].sort((a, b) => a.at - b.at),
    ),
    faults: [...faults, ...tagFaults(tags)],
  };
}

function withLiterals(text: string, marks: readonly Mark[]): TextPart[] {
  const parts: TextPart[] = [];
  let from = 0;
  for (const { at, part } of marks) {
    if (at > from) parts.push({ kind: 'literal', written: text.slice(from, at) });
    parts.push(part);
    from = at + part.written.length;
  }
  if (from < text.length) parts.push({ kind: 'literal', written: text.slice(from) });
  return parts;
}

interface Marks {
  marks: Mark[];
  faults: TextFault[];
}

function marksOf(text: string, syntax: TextSyntax, order: readonly string[]): Marks {
  if (syntax === 'plain') return { marks: [], faults: [] };
  if (syntax === 'icu') return icuMarks(text, order);
  if (syntax === 'i18next') return namedMarks(scanI18next(text));
  return syntax === 'braces' ? namedMarks(scanBraces(text)) : printfMarks(text, syntax);
}

interface NamedScan {
  placeholders: readonly { at: number; name: string; written: string }[];
  faults: TextFault[];
}

function namedMarks({ faults, placeholders }: NamedScan): Marks {
  const names = [...new Set(placeholders.map(({ name }) => name))];
  return {
    marks: placeholders.map(({ at, name, written }) => ({
      at,
      part: { kind: 'placeholder', written, position: names.indexOf(name) + 1, type: 'text', name },
    })),
    faults,
  };
}

function printfMarks(text: string, syntax: PrintfSyntax): Marks {
  const { faults, placeholders } = scanPrintf(text, syntax);
  return {
    marks: placeholders.map(({ at, name, position, type, written }) => ({
      at,
      part: { kind: 'placeholder', written, position, type, ...(name && { name }) },
    })),
    faults: whereFormatted(faults, placeholders.length, syntax),
  };
}

/** Without a placeholder the text may never be formatted, and a percent sign is one; a catalogue may say that it is. */
export const whereFormatted = (
  faults: TextFault[],
  placeholderCount: number,
  syntax: PrintfSyntax,
): TextFault[] =>
  placeholderCount > 0 || SAID_TO_BE_FORMATTED.has(syntax)
    ? faults
    : faults.filter(({ code }) => code === 'unclosed-placeholder');

const SAID_TO_BE_FORMATTED: ReadonlySet<PrintfSyntax> = new Set(['printf-c', 'percent-python']);

function icuMarks(text: string, order: readonly string[]): Marks {
  if (!/[{}]/.test(text)) return { marks: [], faults: [] };
  const { faults, nodes } = parseIcu(text);
  const names = [...order];
  const positionOf = (name: string) => {
    if (!names.includes(name)) names.push(name);
    return names.indexOf(name) + 1;
  };
  const marks = nodes
    .filter((node): node is Exclude<IcuNode, { kind: 'literal' }> => node.kind !== 'literal')
    .map((node): Mark => {
      const type: ArgumentType = node.kind === 'number' ? 'integer' : node.type;
      const written = text.slice(node.at, node.end);
      return {
        at: node.at,
        part: { kind: 'placeholder', written, position: positionOf(node.name), type, name: node.name },
      };
    });
  return { marks, faults };
}
