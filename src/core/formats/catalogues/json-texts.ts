/**
 * JSON catalogues of cross-platform teams: a tree of texts, nested or with flat keys, one file or one folder a language. What
 * they are for is told by what they hold: `{{name}}` and plural suffixes are i18next's (*JSON format v4*), `{count, plural, …}`
 * and `{name}` ICU messages', and of plain ones nothing is filled in.
 */
import {
  type Catalogue,
  type CatalogueEntry,
  type EntryForm,
  pluralCategories,
  type TextSyntax,
} from '../../model/catalogue.ts';
import { isLocaleTag } from '../../model/locale.ts';
import { ORDINARY_NUMBERS, pluralNeeds } from '../../platform/text/plural-categories.ts';
import { type JsonLeaf, readJsonLeaves } from './json-events.ts';

interface TextLeaf extends JsonLeaf {
  key: string;
  value: string;
}

/** Whether a JSON file is a tree of texts: all but a few of its values are texts, and it is no file of ours or a message. */
export function isTextTree(json: string): boolean {
  const { leaves, problems } = readJsonLeaves(json, '');
  const isOurs = leaves.some(({ path }) => path.length === 1 && path[0] === 'fenlok');
  const texts = leaves.filter(({ value }) => typeof value === 'string');
  return problems.length === 0 && !isOurs && texts.length > 0 && texts.length >= leaves.length * TEXT_SHARE;
}

const TEXT_SHARE = 0.9;

/** @param locale of the folder or the name of the file */
export function readJsonTexts(json: string, name: string, locale: string, named?: TextSyntax): Catalogue {
  const { leaves, problems } = readJsonLeaves(json, name);
  const texts = leaves.flatMap((leaf): TextLeaf[] =>
    typeof leaf.value === 'string' && !isAboutTheFile(leaf)
      ? [{ ...leaf, key: leaf.path.join('.'), value: leaf.value }]
      : [],
  );
  const syntax = named ?? syntaxOf(texts);
  const groups = syntax === 'i18next' ? pluralsOf(texts) : new Map<string, TextLeaf[]>();
  // a plural stands where the first of its forms does
  const firsts = new Map([...groups].map(([key, group]) => [group[0]!, { key, group }]));
  const others = new Set([...groups.values()].flatMap((group) => group.slice(1)));
  const entries = texts.flatMap((leaf): CatalogueEntry[] => {
    const plural = firsts.get(leaf);
    if (plural) return [pluralEntry(plural.key, plural.group, locale)];
    return others.has(leaf) ? [] : [textEntry(leaf, locale)];
  });
  return { format: 'json', syntax, entries, problems, original: json };
}

/** Keys that begin with an at-sign hold who wrote the file and the like: `@metadata`. */
const isAboutTheFile = ({ path }: JsonLeaf): boolean => path.length > 1 && /^@/.test(String(path[0]));

const formOf = ({ at, line, value }: TextLeaf, form = ''): EntryForm => ({ form, text: value, line, at });

const textEntry = (leaf: TextLeaf, locale: string): CatalogueEntry => ({
  key: leaf.key,
  locale,
  kind: 'text',
  forms: [formOf(leaf)],
  line: leaf.line,
});

const SUFFIX = new RegExp(`^(.+?)(_ordinal)?_(${pluralCategories.join('|')})$`);

/** Keys that differ in their suffix alone, where one of them is for all other numbers. */
function pluralsOf(texts: readonly TextLeaf[]): Map<string, TextLeaf[]> {
  const groups = new Map<string, TextLeaf[]>();
  for (const leaf of texts) {
    const [, base, ordinal = ''] = SUFFIX.exec(leaf.key) ?? [];
    if (base === undefined) continue;
    const group = groups.get(base + ordinal);
    if (group) group.push(leaf);
    else groups.set(base + ordinal, [leaf]);
  }
  for (const [key, group] of groups) if (group.length < 2) groups.delete(key);
  return groups;
}

function pluralEntry(key: string, group: readonly TextLeaf[], locale: string): CatalogueEntry {
  const isOrdinal = key.endsWith('_ordinal');
  return {
    key,
    locale,
    kind: 'plural',
    forms: group.map((leaf) => formOf(leaf, SUFFIX.exec(leaf.key)![3])),
    line: group[0]!.line,
    // of whole numbers; a form for nothing at all may be there in any language
    ...(isLocaleTag(locale) && { neededForms: isOrdinal ? ordinalForms(locale) : pluralNeeds(locale).whole }),
  };
}

const ordinalForms = (locale: string): string[] => {
  const rules = new Intl.PluralRules(locale, { type: 'ordinal' });
  return [...new Set(ORDINARY_NUMBERS.map((n) => rules.select(n)))];
};

const CHOICE = /\{\s*[\w.]+\s*,\s*(plural|select|selectordinal)\s*,/;

function syntaxOf(texts: readonly TextLeaf[]): TextSyntax {
  if (texts.some(({ value }) => /\{\{[^{}]+\}\}|\$t\(/.test(value))) return 'i18next';
  if (texts.some(({ value }) => CHOICE.test(value) || /\{\w+\}/.test(value))) return 'icu';
  return pluralsOf(texts).size > 0 ? 'i18next' : 'plain';
}

/** The file as it was, with other texts in the places of its own: order, blanks and keys stay. */
export function writeJsonTexts(original: string, entries: readonly CatalogueEntry[]): string {
  const places = new Map(
    entries.flatMap(({ forms }) =>
      forms.flatMap(({ at, text }) => (at === undefined ? [] : [[at, text] as const])),
    ),
  );
  let written = '';
  let from = 0;
  for (const [at, text] of [...places].sort(([a], [b]) => a - b)) {
    const end = /"(?:[^"\\]|\\.)*"/y;
    end.lastIndex = at;
    if (!end.test(original)) continue;
    written += original.slice(from, at) + JSON.stringify(text);
    from = end.lastIndex;
  }
  return written + original.slice(from);
}

const TAG = /^[a-z]{2,3}(?:[-_][A-Za-z]{4})?(?:[-_](?:[A-Z]{2}|\d{3}))?$/;
const asTag = (name: string): string | undefined => {
  const tag = name.replaceAll('_', '-');
  return TAG.test(name) && isLocaleTag(tag) ? tag : undefined;
};

/** By its folder, `locales/de/common.json`, or its name, `de.json`, `common.pt-BR.json`; undefined where neither says it. YAML goes by the same names. */
export function localeOfJson(path: string): string | undefined {
  const [folder = '', file = ''] = path.replaceAll('\\', '/').split('/').slice(-2);
  const stem = file.replace(/\.(json|ya?ml)$/i, '');
  return asTag(folder) ?? asTag(stem) ?? asTag(/[._-]([a-z]{2,3}(?:[-_][A-Z]{2})?)$/.exec(stem)?.[1] ?? '');
}
