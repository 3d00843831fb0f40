/**
 * YAML catalogues: a tree of texts, one file a language, often with the language as its only root. Maps of plural categories are
 * plurals; `%{name}` and `{name}` are filled in.
 */
import { isMap, isScalar, isSeq, LineCounter, type Node, parseDocument } from 'yaml';
import {
  type Catalogue,
  type CatalogueEntry,
  type EntryForm,
  pluralCategories,
  type TextSyntax,
} from '../../model/catalogue.ts';
import { isLocaleTag } from '../../model/locale.ts';
import type { Problem } from '../../model/problem.ts';
import { localeOfJson } from './json-texts.ts';

const MAX_DEPTH = 64;
const MAX_ALIASES = 100;

interface Leaf {
  path: string[];
  /** Undefined where it is no text. */
  text?: string;
  at: number;
  line: number;
}

/** @param locale of the folder or the name of the file, where its root is none */
export function readYamlTexts(yaml: string, name: string, locale: string, named?: TextSyntax): Catalogue {
  const { leaves, problems } = readLeaves(yaml, name);
  const roots = new Set(leaves.map(({ path }) => path[0] ?? ''));
  const [root = ''] = roots;
  const ofRoot = roots.size === 1 ? asTag(root) : undefined;
  const texts = leaves.flatMap((leaf) =>
    leaf.text === undefined ? [] : [{ ...leaf, text: leaf.text, path: leaf.path.slice(ofRoot ? 1 : 0) }],
  );
  const entries = new Map<string, CatalogueEntry>();
  const plurals = pluralMaps(texts.map(({ path }) => path));
  for (const { at, line, path, text } of texts) {
    const parent = path.slice(0, -1).join('.');
    const isPlural = plurals.has(parent);
    const key = isPlural ? parent : path.join('.');
    const form: EntryForm = { form: isPlural ? path.at(-1)! : '', text, line, at };
    const entry = entries.get(key);
    if (entry) entry.forms.push(form);
    else
      entries.set(key, {
        key,
        locale: ofRoot ?? locale,
        kind: isPlural ? 'plural' : 'text',
        forms: [form],
        line,
      });
  }
  const syntax = named ?? syntaxOf(texts.map(({ text }) => text));
  return { format: 'yaml', syntax, entries: [...entries.values()], problems, original: yaml };
}

/** Whether next to all of its values are texts. */
export function isYamlTextTree(yaml: string): boolean {
  const { leaves, problems } = readLeaves(yaml, '');
  const texts = leaves.filter(({ text }) => text !== undefined);
  return problems.length === 0 && texts.length > 0 && texts.length >= leaves.length * TEXT_SHARE;
}

const TEXT_SHARE = 0.9;

function readLeaves(yaml: string, name: string): { leaves: Leaf[]; problems: Problem[] } {
  const lines = new LineCounter();
  const document = parseDocument(yaml, { lineCounter: lines, uniqueKeys: false });
  const leaves: Leaf[] = [];
  const walk = (node: Node | null, path: string[]): void => {
    if (path.length > MAX_DEPTH) return;
    if (isMap(node))
      for (const { key, value } of node.items) walk(value as Node | null, [...path, String(key)]);
    else if (isSeq(node))
      for (const [i, item] of node.items.entries()) walk(item as Node, [...path, String(i)]);
    else if (isScalar(node)) {
      const at = node.range?.[0] ?? 0;
      const text = typeof node.value === 'string' ? node.value : undefined;
      leaves.push({ path, ...(text !== undefined && { text }), at, line: lines.linePos(at).line });
    }
  };
  // what aliases stand for stands elsewhere too
  if (document.errors.length === 0) walk(document.contents, []);
  const problems = document.errors.slice(0, 1).map((error): Problem => {
    const line = lines.linePos(error.pos[0]).line;
    return {
      code: 'catalogue.yaml',
      place: `${name}, line ${line}`,
      found: `YAML that cannot be read: ${error.message
        .split('\n')[0]!
        .replace(/ at line.*$/, '')
        .slice(0, 120)}`,
      expected: 'a whole YAML file',
      remedy: 'Correct the line.',
    };
  });
  return { leaves, problems };
}

const CATEGORIES = new Set<string>(pluralCategories);

/** Paths of maps that hold plural categories alone, the one for all other numbers among them. */
function pluralMaps(paths: readonly string[][]): Set<string> {
  const inside = new Map<string, string[]>();
  for (const path of paths) {
    const parent = path.slice(0, -1).join('.');
    inside.set(parent, [...(inside.get(parent) ?? []), path.at(-1)!].slice(0, MAX_ALIASES));
  }
  const isPlural = (keys: readonly string[]) =>
    keys.includes('other') && keys.every((key) => CATEGORIES.has(key));
  return new Set(
    [...inside].filter(([parent, keys]) => parent !== '' && isPlural(keys)).map(([parent]) => parent),
  );
}

function syntaxOf(texts: readonly string[]): TextSyntax {
  if (texts.some((text) => /%\{\w+\}/.test(text))) return 'braces';
  return texts.some((text) => /\{\w+[},]/.test(text)) ? 'icu' : 'plain';
}

const asTag = (name: string): string | undefined => localeOfJson(`${name}/x.json`);

/** The file as it was, with other texts in the places of its own and another root; comments, order and blanks stay. */
export function writeYamlTexts(original: string, entries: readonly CatalogueEntry[], locale: string): string {
  const texts = new Map(entries.flatMap(({ forms }) => forms.map(({ at, text }) => [at, text] as const)));
  const changes: { from: number; until: number; by: string }[] = [];
  const document = parseDocument(original, { uniqueKeys: false });
  const walk = (node: Node | null): void => {
    if (isMap(node)) for (const { value } of node.items) walk(value as Node | null);
    else if (isSeq(node)) for (const item of node.items) walk(item as Node);
    else if (isScalar(node) && node.range && typeof node.value === 'string') {
      const [from, until] = node.range;
      const text = texts.get(from);
      if (text === undefined || text === node.value) return;
      const ending = original.slice(from, until).endsWith('\n') ? '\n' : '';
      changes.push({ from, until, by: JSON.stringify(text) + ending });
    }
  };
  walk(document.contents);
  const root =
    isMap(document.contents) && document.contents.items.length === 1 && document.contents.items[0]!.key;
  if (isScalar(root) && root.range && asTag(String(root.value)) && isLocaleTag(locale))
    changes.push({ from: root.range[0], until: root.range[1], by: locale });
  let written = '';
  let at = 0;
  for (const { by, from, until } of changes.sort((a, b) => a.from - b.from)) {
    written += original.slice(at, from) + by;
    at = until;
  }
  return written + original.slice(at);
}
