import type { Problem } from './problem.ts';

/**
 * How a text marks what is filled in: `printf-java` as java.util.Formatter (Android), `printf-apple` as NSString, `printf-c`
 * and `percent-python` as the functions of these languages, `braces` as Python's and C#'s `format`, `icu` as ICU MessageFormat,
 * `i18next` as that library; `plain` not at all.
 */
export const textSyntaxes = [
  'printf-java',
  'printf-apple',
  'printf-c',
  'percent-python',
  'braces',
  'icu',
  'i18next',
  'plain',
] as const;
export type TextSyntax = (typeof textSyntaxes)[number];

export type ArgumentType =
  | 'text'
  | 'integer'
  | 'decimal'
  | 'character'
  | 'boolean'
  | 'date'
  | 'choice'
  | 'unknown';

/** A text, taken apart. Joined, the `written` forms give the text again. */
export type TextPart =
  | { kind: 'literal'; written: string }
  /** Positions count from 1; in ICU the name counts, and positions follow the order of first use. */
  | { kind: 'placeholder'; written: string; position: number; type: ArgumentType; name?: string }
  | { kind: 'markup'; written: string; tag: string; role: 'open' | 'close' | 'alone' };

/** What is wrong with the syntax of one text. */
export interface TextFault {
  code:
    | 'unclosed-placeholder'
    | 'unknown-conversion'
    | 'bare-percent'
    | 'unclosed-brace'
    | 'unopened-brace'
    | 'empty-argument'
    | 'bad-argument-name'
    | 'unknown-argument-type'
    | 'choice-without-other'
    | 'quoted-placeholder'
    | 'unclosed-tag'
    | 'unopened-tag';
  /** Where, in characters of the text. */
  at: number;
  excerpt: string;
}

export const pluralCategories = ['zero', 'one', 'two', 'few', 'many', 'other'] as const;
export type PluralCategory = (typeof pluralCategories)[number];

const catalogueFormats = [
  'android-strings',
  'apple-strings',
  'apple-stringsdict',
  'apple-xcstrings',
  'arb',
  'xliff-1.2',
  'xliff-2',
  'po',
  'json',
  'resx',
  'yaml',
] as const;
export type CatalogueFormat = (typeof catalogueFormats)[number];

export type EntryKind = 'text' | 'plural' | 'list';

export interface EntryForm {
  /** `''` of a text; a plural category (ICU also `=0`); the position in a list, from 0. */
  form: string;
  /** As the app's formatter gets it: escapes resolved, markup as tags. */
  text: string;
  /** Markup stands as elements of the file, and not as characters that the app interprets. */
  styled?: boolean;
  /** Characters that the platform drops while it reads the file, each with what it would need: `'` → `\'`. */
  swallowed?: string[];
  /** It stands for another resource, `@string/name`; the text is that one's where the file holds it, else the reference. */
  reference?: string;
  /** Of a plural form whose file says which numbers it stands for: the least of them. */
  numbers?: number[];
  line?: number;
  /** Where its text begins in the file, in characters, with its quote; of formats that are written by changing the file. */
  at?: number;
}

/** One key in one language. */
export interface CatalogueEntry {
  key: string;
  /** BCP 47, or `default` for values without a language. */
  locale: string;
  kind: EntryKind;
  forms: EntryForm[];
  /** The number that a plural is chosen by, where the format names it. */
  argument?: string;
  /** The file says that it is the same in all languages. */
  translatable?: false;
  /** Of Android: the kind of device that it is built for, where there are several: `tablet`. */
  product?: string;
  /** Where it is another than the catalogue's. */
  syntax?: TextSyntax;
  /** Of a plural: the forms that the file itself asks for; otherwise the language does. */
  neededForms?: string[];
  line?: number;
}

/** What one file holds; files of some formats hold several languages. */
export interface Catalogue {
  format: CatalogueFormat;
  syntax: TextSyntax;
  entries: CatalogueEntry[];
  /** What could not be read; the rest was. */
  problems: Problem[];
  /** The whole file, of formats that are written by changing it. */
  original?: string;
}
