/** What checks compare of a text, in the least room: most texts hold nothing of the kind. */
import type { TextFault, TextSyntax } from '../../model/catalogue.ts';
import { type IcuNode, parseIcu } from './icu.ts';
import { findTags, type Tag, tagFaults } from './markup.ts';
import { whereFormatted } from './parse-text.ts';
import { type PrintfPlaceholder, scanPrintf } from './printf.ts';

export interface MeasuredText {
  /** Canonical `position:conversion`, each once, in order of position: `%2$d of %1$s` gives `1:s`, `2:d`. */
  placeholders: string[];
  unnumbered?: true;
  faults?: { code: TextFault['code']; excerpt: string }[];
  tags?: string[];
}

const NONE: string[] = [];
const PLAIN: MeasuredText = { placeholders: NONE };

export function measureText(text: string, syntax: TextSyntax): MeasuredText {
  const hasTags = text.includes('<');
  const mayBeFilled = syntax === 'icu' ? text.includes('{') || text.includes('}') : text.includes('%');
  if (!hasTags && !mayBeFilled) return PLAIN;
  const tags = hasTags ? findTags(text) : [];
  const filled = !mayBeFilled ? PLAIN : syntax === 'icu' ? measureIcu(text) : measurePrintf(text, syntax);
  if (tags.length === 0 && !filled.faults && !filled.unnumbered) return filled as MeasuredText;
  const faults = [...(filled.faults ?? []), ...tagFaults(tags)];
  return {
    placeholders: filled.placeholders,
    ...(filled.unnumbered && { unnumbered: true }),
    ...(faults.length > 0 && { faults: faults.map(({ code, excerpt }) => ({ code, excerpt })) }),
    ...(tags.length > 0 && { tags: tags.map(sayTag) }),
  };
}

interface Filled {
  placeholders: string[];
  unnumbered?: boolean;
  faults?: readonly Pick<TextFault, 'code' | 'excerpt'>[];
}

const sayTag = ({ role, tag }: Tag): string =>
  role === 'close' ? `/${tag}` : role === 'alone' ? `${tag}/` : tag;

function measurePrintf(text: string, syntax: Exclude<TextSyntax, 'icu'>): Filled {
  if (syntax === 'printf-java' && isTimeFormat(text)) return PLAIN;
  const { faults, placeholders } = scanPrintf(text, syntax);
  const canonical = canonicalOf(placeholders);
  const isUnnumbered = placeholders.length > 1 && placeholders.every(({ numbered }) => !numbered);
  return {
    placeholders: canonical,
    ...(isUnnumbered && { unnumbered: true }),
    ...(faults.length > 0 && { faults: whereFormatted(faults, placeholders.length) }),
  };
}

function canonicalOf(placeholders: readonly PrintfPlaceholder[]): string[] {
  if (placeholders.length === 0) return NONE;
  const sorted =
    placeholders.length > 1 ? [...placeholders].sort((a, b) => a.position - b.position) : placeholders;
  const said: string[] = [];
  for (const { conversion, position } of sorted) {
    const canonical = `${position}:${conversion}`;
    if (!said.includes(canonical)) said.push(canonical);
  }
  return said;
}

/** Formats of strftime, `%-d.%m.%Y`, are no texts of java.util.Formatter, which knows none of these letters. */
const isTimeFormat = (text: string): boolean => /%-?[YMIpklmyj]/.test(text) && !/%\d+\$|%s/.test(text);

function measureIcu(text: string): Filled {
  const { faults, nodes } = parseIcu(text);
  const said = new Set<string>();
  const collect = (of: readonly IcuNode[]) => {
    for (const node of of) {
      if (node.kind === 'argument') {
        said.add(`${node.name}:${node.type}`);
        for (const choice of node.choices ?? []) collect(choice.nodes);
      }
    }
  };
  collect(nodes);
  return { placeholders: [...said].sort(), faults };
}
