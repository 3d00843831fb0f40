/**
 * Android's `strings.xml` (Android developers, *String resources*): string, plurals, string-array; quoting and escapes
 * as the platform's packer resolves them (AOSP aapt2, `ResourceUtils.cpp`, `StringBuilder`).
 *
 *     <string name="k">It\'s <b>%1$s</b></string>     "  kept  "     \n \t \u00e9 \@ \?     <xliff:g>%1$s</xliff:g>
 */
import type { SaxesTagPlain } from 'saxes';
import {
  type Catalogue,
  type CatalogueEntry,
  type EntryForm,
  type PluralCategory,
  pluralCategories,
} from '../../model/catalogue.ts';
import type { Problem } from '../../model/problem.ts';
import { findTags } from '../../platform/text/markup.ts';
import { escapeXml, escapeXmlAttribute, readXml } from './xml-events.ts';

const KINDS: Record<string, CatalogueEntry['kind']> = {
  string: 'text',
  plurals: 'plural',
  'string-array': 'list',
};

/** @param locale of the folder that the file lies in */
export function readAndroidStrings(xml: string, name: string, locale: string): Catalogue {
  const entries: CatalogueEntry[] = [];
  const problems: Problem[] = [];
  let depth = 0;
  let entry: CatalogueEntry | undefined;
  let collected: Collected | undefined;
  const begin = (tag: SaxesTagPlain, line: number) => {
    const attributes = tag.attributes as Record<string, string>;
    const kind = Object.hasOwn(KINDS, tag.name) ? KINDS[tag.name]! : undefined;
    if (depth === 1 && kind && attributes.name) {
      entry = { key: attributes.name, locale, kind, forms: [], line };
      if (attributes.translatable === 'false') entry.translatable = false;
      // of several the packer keeps one
      if (attributes.product && attributes.product !== 'default') entry.product = attributes.product;
      if (kind === 'text') collected = collect('', line);
    } else if (depth === 2 && tag.name === 'item' && entry) {
      const form = entry.kind === 'plural' ? (attributes.quantity ?? '') : String(entry.forms.length);
      if (entry.kind === 'plural' && !pluralCategories.includes(form as PluralCategory))
        problems.push({
          code: 'catalogue.quantity',
          place: `${name}, line ${line}, ${entry.key}`,
          found: `quantity "${form}"`,
          expected: pluralCategories.join(', '),
        });
      else collected = collect(form, line);
    } else if (collected) openTag(collected, tag);
  };
  const broken = readXml(xml, name, {
    open: (tag, line) => {
      begin(tag, line);
      depth += 1;
    },
    text: (text) => collected?.addText(text),
    close: (tag) => {
      depth -= 1;
      const ends = entry?.kind === 'text' ? depth === 1 : depth === 2;
      if (collected && ends) {
        entry!.forms.push(collected.end());
        collected = undefined;
      } else if (collected) closeTag(collected, tag);
      if (depth === 1 && entry) {
        if (entry.forms.length > 0) entries.push(entry);
        entry = undefined;
      }
    },
  });
  followReferences(entries);
  return { format: 'android-strings', syntax: 'printf-java', entries, problems: [...problems, ...broken] };
}

const MAX_STEPS = 8;

/** A text that refers to another of the file is that one's. */
function followReferences(entries: readonly CatalogueEntry[]): void {
  const texts = new Map(
    entries.filter(({ kind }) => kind === 'text').map(({ forms, key }) => [`@string/${key}`, forms[0]!]),
  );
  for (const { forms } of entries)
    for (const form of forms) {
      let target = form.reference === undefined ? undefined : texts.get(form.reference);
      for (let step = 0; target?.reference !== undefined && step < MAX_STEPS; step++)
        target = texts.get(target.reference);
      if (target && target.reference === undefined) form.text = target.text;
    }
}

interface Collected {
  addText(text: string): void;
  addTag(written: string): void;
  end(): EntryForm;
}

// Marks what must stay as it is for a translator; nothing of it is shown.
const isProtection = (tag: string): boolean => /(^|:)g$/.test(tag);

function openTag(collected: Collected, { attributes, name }: SaxesTagPlain): void {
  if (isProtection(name)) return;
  const written = Object.entries(attributes).map(
    ([key, value]) => ` ${key}="${escapeXmlAttribute(String(value))}"`,
  );
  collected.addTag(`<${name}${written.join('')}>`);
}

const closeTag = (collected: Collected, name: string): void => {
  if (!isProtection(name)) collected.addTag(`</${name}>`);
};

const ESCAPES: Record<string, string> = {
  n: '\n',
  t: '\t',
  '"': '"',
  "'": "'",
  '@': '@',
  '?': '?',
  '#': '#',
  '\\': '\\',
};

// What the packer takes for another resource or an attribute of the theme, and not for text.
const REFERENCE = /^\s*([@?](?:[\w.]+:)?(?:[a-z]+\/)?[\w.]+)\s*$/;

/** Blanks outside double quotes count once, and not at all at the edges. */
function collect(form: string, line: number): Collected {
  let text = '';
  let blank = false;
  let quoted = false;
  let styled = false;
  const swallowed = new Set<string>();
  const put = (piece: string) => {
    if (blank && text !== '') text += ' ';
    blank = false;
    text += piece;
  };
  let written = '';
  const addText = (raw: string) => {
    written += raw;
    for (let i = 0; i < raw.length; i++) {
      const char = raw[i]!;
      if (char === '\\') {
        const unicode = /^u([0-9a-f]{4})/i.exec(raw.slice(i + 1, i + 6));
        const next = raw[i + 1] ?? '';
        if (unicode) put(String.fromCharCode(Number.parseInt(unicode[1]!, 16)));
        else if (Object.hasOwn(ESCAPES, next)) put(ESCAPES[next]!);
        else {
          swallowed.add(`\\${next}`);
          put(next);
        }
        i += unicode ? 5 : 1;
      } else if (char === '"') quoted = !quoted;
      else if (!quoted && char === "'") swallowed.add("'");
      else if (!quoted && /[ \t\r\n]/.test(char)) blank = true;
      else put(char);
    }
  };
  return {
    addText,
    addTag: (written) => {
      styled = true;
      // a blank before a tag belongs to what comes before it
      if (blank && text !== '') text += ' ';
      blank = false;
      text += written;
    },
    end: () => ({
      form,
      text,
      line,
      ...referenceOf(written, styled),
      ...(styled && { styled }),
      ...(swallowed.size > 0 && { swallowed: [...swallowed] }),
    }),
  };
}

function referenceOf(written: string, styled: boolean): Pick<EntryForm, 'reference'> {
  const reference = styled ? undefined : REFERENCE.exec(written)?.[1];
  // "@" alone, and an attribute without its kind, are text
  return reference?.includes('/') ? { reference } : {};
}

/** A whole `strings.xml` of one language. */
export function writeAndroidStrings(entries: readonly CatalogueEntry[]): string {
  const lines = entries.map((entry) => {
    const attributes = [
      ` name="${escapeXml(entry.key)}"`,
      entry.product && ` product="${escapeXml(entry.product)}"`,
      entry.translatable === false && ' translatable="false"',
      entry.kind === 'text' && isLoose(entry.forms[0]!.text) && ' formatted="false"',
    ]
      .filter(Boolean)
      .join('');
    if (entry.kind === 'text') return `    <string${attributes}>${writeForm(entry.forms[0]!)}</string>`;
    const element = entry.kind === 'plural' ? 'plurals' : 'string-array';
    const items = entry.forms.map((form) => {
      const quantity = entry.kind === 'plural' ? ` quantity="${form.form}"` : '';
      return `        <item${quantity}>${writeForm(form)}</item>\n`;
    });
    return `    <${element}${attributes}>\n${items.join('')}    </${element}>`;
  });
  return `<?xml version="1.0" encoding="utf-8"?>\n<resources>\n${lines.join('\n')}\n</resources>\n`;
}

/** The packer takes no text of several placeholders, unless each has a position, or it is told that nothing is filled in. */
function isLoose(text: string): boolean {
  const placeholders: string[] = text.replaceAll('%%', '').match(/%(?!n)(?:\d+\$)?/g) ?? [];
  return placeholders.length > 1 && placeholders.includes('%');
}

function writeForm({ reference, styled, text }: EntryForm): string {
  if (reference !== undefined) return escapeXml(reference);
  if (!styled) return quote(text);
  const pieces: string[] = [];
  let from = 0;
  for (const { at, written } of findTags(text)) {
    pieces.push(quote(text.slice(from, at)), written);
    from = at + written.length;
  }
  return [...pieces, quote(text.slice(from))].join('');
}

/** In quotes where blanks would be lost. */
function quote(text: string): string {
  const escaped = escapeXml(
    text
      .replace(/[\\'"]/g, '\\$&')
      .replace(/^[@?]/, '\\$&')
      .replaceAll('\n', '\\n')
      .replaceAll('\t', '\\t')
      .replace(
        /[\u0000-\u001f\u007f\ufffe\uffff]/g,
        (char) => `\\u${char.charCodeAt(0).toString(16).padStart(4, '0')}`,
      ),
  ).replaceAll('&quot;', '"');
  return /^ | $| {2}/.test(text) ? `"${escaped}"` : escaped;
}
