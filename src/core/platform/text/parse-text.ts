/** A text of a catalogue, taken apart: what stands there, what is filled in, what styles it. */
import type { ArgumentType, TextFault, TextPart, TextSyntax } from '../../model/catalogue.ts';
import { type IcuNode, parseIcu } from './icu.ts';
import { findTags, tagFaults } from './markup.ts';
import { scanPrintf } from './printf.ts';

export interface ParsedText {
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
  const { faults, marks } = syntax === 'icu' ? icuMarks(text, order) : printfMarks(text, syntax);
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

function printfMarks(
  text: string,
  syntax: Exclude<TextSyntax, 'icu'>,
): { marks: Mark[]; faults: TextFault[] } {
  const { faults, placeholders } = scanPrintf(text, syntax);
  return {
    marks: placeholders.map(({ at, position, type, written }) => ({
      at,
      part: { kind: 'placeholder', written, position, type },
    })),
    faults: whereFormatted(faults, placeholders.length),
  };
}

/** Without a placeholder the text may never be formatted, and a percent sign is one. */
export const whereFormatted = (faults: TextFault[], placeholderCount: number): TextFault[] =>
  placeholderCount > 0 ? faults : faults.filter(({ code }) => code === 'unclosed-placeholder');

function icuMarks(text: string, order: readonly string[]): { marks: Mark[]; faults: TextFault[] } {
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
