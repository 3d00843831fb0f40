/** What checks compare of a text, in the least room: most texts hold nothing of the kind. */
import type { TextFault, TextSyntax } from '../../model/catalogue.ts';
import { scanBraces } from './braces.ts';
import { scanI18next } from './i18next.ts';
import { type IcuNode, parseIcu } from './icu.ts';
import { findTags, type Tag, tagFaults } from './markup.ts';
import { whereFormatted } from './parse-text.ts';
import { type PrintfPlaceholder, type PrintfSyntax, scanPrintf } from './printf.ts';

interface MeasuredText {
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
  const mayBeFilled = MAY_BE_FILLED[kindOfSyntax(syntax)](text);
  if (!hasTags && !mayBeFilled) return PLAIN;
  const tags = hasTags ? findTags(text) : [];
  const filled = mayBeFilled ? measureFilled(text, syntax) : PLAIN;
  if (tags.length === 0 && !filled.faults && !filled.unnumbered) return filled as MeasuredText;
  const faults = [...(filled.faults ?? []), ...tagFaults(tags)];
  return {
    placeholders: filled.placeholders,
    ...(filled.unnumbered && { unnumbered: true }),
    ...(faults.length > 0 && { faults: faults.map(({ code, excerpt }) => ({ code, excerpt })) }),
    ...(tags.length > 0 && { tags: tags.map(formatTag) }),
  };
}

interface Filled {
  placeholders: string[];
  unnumbered?: boolean;
  faults?: readonly Pick<TextFault, 'code' | 'excerpt'>[];
}

const formatTag = ({ role, tag }: Tag): string =>
  role === 'close' ? `/${tag}` : role === 'alone' ? `${tag}/` : tag;

const hasBraces = (text: string): boolean => text.includes('{') || text.includes('}') || text.includes('$t(');
const MAY_BE_FILLED: Record<'braces' | 'percent' | 'none', (text: string) => boolean> = {
  braces: hasBraces,
  percent: (text) => text.includes('%'),
  none: () => false,
};

const IN_BRACES: ReadonlySet<TextSyntax> = new Set(['icu', 'braces', 'i18next']);

const kindOfSyntax = (syntax: TextSyntax): keyof typeof MAY_BE_FILLED =>
  syntax === 'plain' ? 'none' : IN_BRACES.has(syntax) ? 'braces' : 'percent';

function measureFilled(text: string, syntax: TextSyntax): Filled {
  if (syntax === 'plain') return PLAIN;
  if (syntax === 'icu') return measureIcu(text);
  if (syntax === 'i18next') return measureI18next(text);
  return syntax === 'braces' ? measureBraces(text) : measurePrintf(text, syntax);
}

function measureBraces(text: string): Filled {
  const { faults, placeholders } = scanBraces(text);
  const names = [...new Set(placeholders.map(({ name }) => `${name}:text`))].sort();
  const isUnnumbered = placeholders.length > 1 && placeholders.every(({ isNamed }) => !isNamed);
  return { placeholders: names, ...(isUnnumbered && { unnumbered: true }), faults };
}

function measureI18next(text: string): Filled {
  const { faults, placeholders } = scanI18next(text);
  return { placeholders: [...new Set(placeholders.map(({ name }) => `${name}:text`))].sort(), faults };
}

function measurePrintf(text: string, syntax: PrintfSyntax): Filled {
  if (syntax === 'printf-java' && isTimeFormat(text)) return PLAIN;
  const { faults, placeholders } = scanPrintf(text, syntax);
  const canonical = canonicalOf(placeholders);
  const isUnnumbered = placeholders.length > 1 && placeholders.every(({ numbered }) => !numbered);
  return {
    placeholders: canonical,
    ...(isUnnumbered && { unnumbered: true }),
    ...(faults.length > 0 && { faults: whereFormatted(faults, placeholders.length, syntax) }),
  };
}

function canonicalOf(placeholders: readonly PrintfPlaceholder[]): string[] {
  if (placeholders.length === 0) return NONE;
  const sorted =
    placeholders.length > 1 ? [...placeholders].sort((a, b) => a.position - b.position) : placeholders;
  const said: string[] = [];
  for (const { conversion, name, position } of sorted) {
    const canonical = `${name ?? position}:${conversion}`;
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
