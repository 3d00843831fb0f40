/**
 * Resource files of .NET (Microsoft Learn, *Work with .resx files programmatically*): XML, a text a `<data>`; what is typed is a
 * file or an object and no text. One file a language, `AppResources.de.resx`; texts are filled in by `String.Format`.
 */
import type { Catalogue, CatalogueEntry, TextSyntax } from '../../model/catalogue.ts';
import { isLocaleTag } from '../../model/locale.ts';
import { escapeXml, readXml } from './xml-events.ts';

const FILLED_IN = /\{\d+[^{}]*\}/;

/** @param locale of the file's name */
export function readResx(xml: string, name: string, locale: string, named?: TextSyntax): Catalogue {
  const entries: CatalogueEntry[] = [];
  let key: string | undefined;
  let value: { at: number; line: number; text: string } | undefined;
  let depth = 0;
  const problems = readXml(xml, name, {
    open: ({ attributes, name: tag }, line, position) => {
      depth += 1;
      const of = attributes as Record<string, string>;
      if (depth === 2 && tag === 'data') {
        const isText = of.type === undefined && of.mimetype === undefined && !of.name?.startsWith('>>');
        key = isText ? of.name : undefined;
      } else if (depth === 3 && tag === 'value' && key !== undefined)
        value = { at: position, line, text: '' };
    },
    text: (text) => {
      if (value && depth === 3) value.text += text;
    },
    close: () => {
      if (depth === 3 && value && key !== undefined) {
        const { at, line, text } = value;
        const syntax = !named && FILLED_IN.test(text) ? ('braces' as const) : undefined;
        entries.push({
          key,
          locale,
          kind: 'text',
          forms: [{ form: '', text, line, at }],
          line,
          ...(syntax && { syntax }),
        });
        value = undefined;
      }
      depth -= 1;
    },
  });
  return { format: 'resx', syntax: named ?? 'plain', entries, problems, original: xml };
}

/** The file as it was, with other texts in the places of its own: comments, order and what is no text stay. */
export function writeResx(original: string, entries: readonly CatalogueEntry[]): string {
  const places = entries
    .flatMap(({ forms }) => forms)
    .filter(({ at }) => at !== undefined)
    .sort((a, b) => a.at! - b.at!);
  let written = '';
  let from = 0;
  for (const { at, text } of places) {
    const end = original.indexOf('</', at);
    if (at! < from || end < 0) continue;
    written += original.slice(from, at) + escapeXml(text);
    from = end;
  }
  return written + original.slice(from);
}

/** `AppResources.pt-BR.resx`; `default` where the name holds none. */
export function localeOfResx(name: string): string {
  const tag = /\.([A-Za-z]{2,3}(?:-[A-Za-z0-9]{2,8})*)\.resx$/i.exec(name)?.[1];
  return tag !== undefined && isLocaleTag(tag) ? tag : 'default';
}
