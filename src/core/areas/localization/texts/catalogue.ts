/** The texts of a candidate as checks hold them against each other: by key, then by language. */
import type { CatalogueTextFact } from '../../../model/fact.ts';
import { isPseudoLocale } from '../../../model/locale.ts';
import type { FactIndex, IntentWith } from '../../check.ts';
import { ownTexts } from './own-texts.ts';

/** One key in every language that has it; several texts where it has several forms. */
export interface Row {
  key: string;
  byLocale: LocaleCells;
}

/** The texts of one key by language: a small table on the columns of its view, since there are 10^5 of them. */
class LocaleCells {
  private readonly columns: ReadonlyMap<string, number>;
  private readonly cells: (CatalogueTextFact[] | undefined)[] = [];

  constructor(columns: ReadonlyMap<string, number>) {
    this.columns = columns;
  }

  get(locale: string): CatalogueTextFact[] | undefined {
    const column = this.columns.get(locale);
    return column === undefined ? undefined : this.cells[column];
  }

  /** Whether it is the first of its language. */
  add(fact: CatalogueTextFact): boolean {
    const column = this.columns.get(fact.locale)!;
    const cell = this.cells[column];
    if (cell) cell.push(fact);
    else {
      while (this.cells.length < column) this.cells.push(undefined);
      this.cells[column] = [fact];
    }
    return !cell;
  }

  keys(): string[] {
    return this.values().map(([first]) => first!.locale);
  }

  values(): CatalogueTextFact[][] {
    return this.cells.filter((cell) => cell !== undefined);
  }
}

/** One set of texts that belong together: those of the package, or those of a set of files. */
export interface CatalogueView {
  /** Empty for the package's own. */
  name: string;
  rows: Row[];
  row(key: string): Row | undefined;
  add(fact: CatalogueTextFact): void;
  /** How many keys each language has. */
  counts: Map<string, number>;
}

/** Of the texts that the team answers for. Use with `facts.once`. */
export const catalogueViews = (facts: FactIndex<'catalogue-text'>, intent: IntentWith): CatalogueView[] =>
  viewsOf(facts.once(ownTexts, intent));

/** Of every text that may stand on a screen, those of libraries among them. Use with `facts.once`. */
export const everyView = (facts: FactIndex<'catalogue-text'>): CatalogueView[] =>
  viewsOf(facts.of('catalogue-text'));

function viewsOf(texts: readonly CatalogueTextFact[]): CatalogueView[] {
  const views = new Map<string, CatalogueView>();
  for (const fact of texts) {
    let view = views.get(fact.catalogue);
    if (!view) {
      view = newView(fact.catalogue);
      views.set(fact.catalogue, view);
    }
    view.add(fact);
  }
  return [...views.values()];
}

function newView(name: string): CatalogueView {
  const byKey = new Map<string, Row>();
  const columns = new Map<string, number>();
  const rows: Row[] = [];
  const counts = new Map<string, number>();
  return {
    name,
    rows,
    counts,
    row: (key) => byKey.get(key),
    add: (fact) => {
      if (!columns.has(fact.locale)) columns.set(fact.locale, columns.size);
      let row = byKey.get(fact.key);
      if (!row) {
        row = { key: fact.key, byLocale: new LocaleCells(columns) };
        byKey.set(fact.key, row);
        rows.push(row);
      }
      if (row.byLocale.add(fact)) counts.set(fact.locale, (counts.get(fact.locale) ?? 0) + 1);
    },
  };
}

/** The source texts of a key: those of the source locale itself, or the unqualified values. */
export const sourceOf = ({ byLocale }: Row, { sourceLocale }: IntentWith): CatalogueTextFact[] | undefined =>
  byLocale.get(sourceLocale) ?? byLocale.get('default');

/** Locales that the texts are held against the source in: the intended ones, or what is shipped where none are named. */
export function targetLocales({ counts, rows }: CatalogueView, intent: IntentWith): string[] {
  const intended = intent.locales.filter((locale) => locale !== intent.sourceLocale);
  if (intent.locales.length > 0) return intended;
  return [...counts.keys()]
    .filter((locale) => locale !== 'default' && locale !== intent.sourceLocale)
    .filter((locale) => isMeantToShip(locale, counts, translatedCount(rows)))
    .sort();
}

// Without an intent file: a locale with less than this share of the source's texts was hardly meant to ship.
const MEANT_SHARE = 0.5;
// Apps keep many texts that need no translation among the others; those that have one anywhere must be this many at least.
const TRANSLATED_SHARE = 0.2;

/**
 * Whether the share of texts that a language has says that it is meant. A region needs no texts but those that differ
 * where its language is meant, and else as many as any language.
 *
 * @param counts keys by language, of the app's own texts
 * @param translated how many keys have a translation into any language
 */
export function isMeantToShip(
  locale: string,
  counts: ReadonlyMap<string, number>,
  translated: number,
): boolean {
  if (isPseudoLocale(locale)) return false;
  const own = counts.get(locale) ?? 0;
  const source = counts.get('default') ?? 0;
  const enough = translated >= source * TRANSLATED_SHARE ? Math.min(source, translated) : source;
  if (own > 0 && own >= enough * MEANT_SHARE) return true;
  const language = locale.slice(0, Math.max(0, locale.lastIndexOf('-')));
  return language !== '' && own > 0 && isMeantToShip(language, counts, translated);
}

/** How many keys have a text in any language besides the source. */
export const translatedCount = (rows: readonly Row[]): number =>
  rows.filter(({ byLocale }) => byLocale.keys().some((locale) => locale !== 'default')).length;

/** The texts that a device in this locale gets from this locale or its parents: de-AT, then de. */
export function textsFor({ byLocale }: Row, locale: string): CatalogueTextFact[] | undefined {
  for (let tag = locale; tag; tag = tag.slice(0, Math.max(0, tag.lastIndexOf('-')))) {
    const found = byLocale.get(tag);
    if (found) return found;
  }
  return undefined;
}

/** One text of a translation beside the source text that it is held against. */
export interface Pair {
  row: Row;
  locale: string;
  text: CatalogueTextFact;
  from: CatalogueTextFact;
  /** All forms of the source. */
  source: readonly CatalogueTextFact[];
}

/** Every translation beside its source, each only in the language that it is written in. Use with `facts.once`. */
export function translations(facts: FactIndex<'catalogue-text'>, intent: IntentWith): Pair[] {
  const pairs: Pair[] = [];
  for (const view of facts.once(catalogueViews, intent)) {
    const wanted = targetLocales(view, intent);
    const isTarget = (locale: string) => wanted.some((of) => of === locale || of.startsWith(`${locale}-`));
    const locales = [...view.counts.keys()].filter(
      (locale) => locale !== intent.sourceLocale && isTarget(locale),
    );
    for (const row of view.rows) {
      const source = sourceOf(row, intent);
      if (!source) continue;
      for (const locale of locales)
        for (const text of row.byLocale.get(locale) ?? []) {
          const from = sourceForm(source, text.form);
          // what stands in another file cannot be held against it here
          if (!text.reference && !from.reference) pairs.push({ row, locale, text, from, source });
        }
    }
  }
  return pairs;
}

/** The form of the source that a form of the translation is held against. */
export const sourceForm = (
  source: readonly CatalogueTextFact[],
  form: string | undefined,
): CatalogueTextFact =>
  (source.length === 1 ? source[0] : source.find((text) => text.form === form)) ??
  source.find((text) => text.form === 'other') ??
  source[0]!;

/** The source texts of the key that a text is of. */
export function sourceBeside(
  text: CatalogueTextFact,
  facts: FactIndex<'catalogue-text'>,
  intent: IntentWith,
): CatalogueTextFact[] {
  const row = rowOf(text, facts, intent);
  return (row && sourceOf(row, intent)) ?? [];
}

/** The texts of the key in every other language. */
export function translationsBeside(
  text: CatalogueTextFact,
  facts: FactIndex<'catalogue-text'>,
  intent: IntentWith,
): CatalogueTextFact[] {
  const all = rowOf(text, facts, intent)?.byLocale.values().flat() ?? [];
  return all.filter(({ locale }) => locale !== text.locale);
}

const rowOf = (
  text: CatalogueTextFact,
  facts: FactIndex<'catalogue-text'>,
  intent: IntentWith,
): Row | undefined =>
  facts
    .once(catalogueViews, intent)
    .find(({ name }) => name === text.catalogue)
    ?.row(text.key);

/** The language that a text is in. */
export const languageOf = ({ locale }: CatalogueTextFact, { sourceLocale }: IntentWith): string =>
  locale === 'default' ? sourceLocale : locale;
