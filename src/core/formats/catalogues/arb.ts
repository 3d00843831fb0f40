/**
 * Application Resource Bundles (ARB, *Application Resource Bundle Specification*): JSON, a message of ICU a key; what
 * stands under `@key` describes it, and names the placeholders in their order.
 */
import type { Catalogue, CatalogueEntry, EntryForm, TextPart } from '../../model/catalogue.ts';
import { parseIcu } from '../../platform/text/icu.ts';
import { parseText } from '../../platform/text/parse-text.ts';
import { readJsonLeaves } from './json-events.ts';

/** @param locale where the file does not say it with `@@locale` */
export function readArb(json: string, name: string, locale: string): Catalogue {
  const { leaves, problems } = readJsonLeaves(json, name);
  const said = leaves.find(({ path }) => path.length === 1 && path[0] === '@@locale')?.value;
  const of = typeof said === 'string' ? said.replaceAll('_', '-') : locale;
  const entries = leaves.flatMap(({ line, path, value }): CatalogueEntry[] => {
    const [key] = path;
    if (path.length !== 1 || typeof value !== 'string' || String(key).startsWith('@')) return [];
    return [entryOf(String(key), value, of, line)];
  });
  return { format: 'arb', syntax: 'icu', entries, problems };
}

/** A message that is one plural as a whole is a plural; any other is a text. */
function entryOf(key: string, text: string, locale: string, line: number): CatalogueEntry {
  const [node, ...others] = parseIcu(text).nodes;
  if (node?.kind !== 'argument' || others.length > 0 || !node.choices || !/,\s*plural\s*,/.test(text))
    return { key, locale, kind: 'text', forms: [{ form: '', text, line }], line };
  const forms = node.choices.map(
    (choice): EntryForm => ({
      form: choice.selector,
      text: text.slice(choice.at, choice.end).replaceAll('#', `{${node.name}}`),
      line,
    }),
  );
  return { key, locale, kind: 'plural', forms, argument: node.name, line };
}

const DART_TYPES: Record<string, string> = {
  integer: 'int',
  decimal: 'double',
  date: 'DateTime',
  text: 'String',
};

/** One bundle for one language. */
export function writeArb(entries: readonly CatalogueEntry[], locale: string): string {
  const bundle: Record<string, unknown> = { '@@locale': locale.replaceAll('-', '_') };
  for (const entry of entries) {
    bundle[entry.key] =
      entry.kind === 'plural'
        ? `{${argumentOf(entry)}, plural, ${entry.forms.map(({ form, text }) => `${form}{${text}}`).join(' ')}}`
        : (entry.forms[0]?.text ?? '');
    const placeholders = placeholdersOf(entry);
    if (placeholders.length > 0)
      bundle[`@${entry.key}`] = {
        placeholders: Object.fromEntries(
          placeholders.map(({ name, type }) => [name, { type: DART_TYPES[type] ?? 'Object' }]),
        ),
      };
  }
  return `${JSON.stringify(bundle, null, 2)}\n`;
}

const argumentOf = (entry: CatalogueEntry): string =>
  entry.argument ?? placeholdersOf(entry)[0]?.name ?? 'count';

function placeholdersOf({ forms }: CatalogueEntry): { name: string; type: string }[] {
  const found = new Map<string, string>();
  const isNamed = (part: TextPart) => part.kind === 'placeholder' && part.name !== undefined;
  for (const { text } of forms)
    for (const part of parseText(text, 'icu').parts.filter(isNamed))
      if (part.kind === 'placeholder' && part.type !== 'choice') found.set(part.name!, part.type);
  return [...found].map(([name, type]) => ({ name, type }));
}
