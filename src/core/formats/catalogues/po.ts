/**
 * gettext's PO files (GNU gettext manual, *The Format of PO Files*). The key is context and source text together, or the
 * context alone where each message has one of its own; the source texts are read as a language of their own.
 *
 *     msgctxt "key"
 *     msgid "%d seat"                 "" joins lines        \n \t \" \\
 *     msgid_plural "%d seats"
 *     msgstr[0] "…"                   numbered by the header's Plural-Forms
 */
import type { Catalogue, CatalogueEntry, EntryForm, TextSyntax } from '../../model/catalogue.ts';
import { isLocaleTag } from '../../model/locale.ts';
import type { Problem } from '../../model/problem.ts';
import { nameForms, parsePluralExpression, pluralFormsOf } from '../../platform/text/plural-forms.ts';

interface Message {
  context?: string;
  id?: string;
  plural?: string;
  /** By number; 0 is that of a text. */
  texts: string[];
  flags: string;
  line: number;
}

/** @param locale where the header does not say it */
export function readPo(text: string, name: string, locale: string, syntax?: TextSyntax): Catalogue {
  const { messages, problems } = readMessages(text, name);
  const header = messages.find(isHeader)?.texts[0] ?? '';
  const field = (key: string) => new RegExp(`^${key}:[ \\t]*(.*)$`, 'mi').exec(header)?.[1]?.trim() ?? '';
  const source = tagOf(field('X-Source-Language')) || 'default';
  const named = tagOf(field('Language'));
  // the tag of the source would make translations of its texts
  const stem = tagOf(name.replace(/\.\w+$/, ''));
  const fromName = locale !== 'default' ? locale : isLocaleTag(stem) ? stem : 'und';
  // `en@quot.po` says of itself that it is English
  const isNarrower = isLocaleTag(stem) && stem.startsWith(`${named}-`) && name.includes('@');
  const target = isNarrower ? stem : isLocaleTag(named) || fromName === 'und' ? named || fromName : fromName;
  const own = messages.filter((of) => of.id !== undefined && !isHeader(of));
  const plurals = own.filter(isTranslatedPlural);
  const forms = readPluralForms(field('Plural-Forms'), target, plurals, name, problems);
  const of: Reading = {
    source,
    target,
    forms,
    keyOf: contextsAreKeys(own) ? ({ context }) => context! : keyOfMessage,
    // where a file flags none of its messages, it does not say which of them are formatted
    saysSyntax: syntax === undefined && own.some(({ flags }) => /-format\b/.test(flags)),
  };
  return {
    format: 'po',
    syntax: syntax ?? syntaxOf(own),
    entries: own.flatMap((message) => entriesOf(message, of)),
    problems,
  };
}

const SCRIPTS: Record<string, string> = {
  latin: 'Latn',
  cyrillic: 'Cyrl',
  devanagari: 'Deva',
  arabic: 'Arab',
};

/** A locale of POSIX as BCP 47: `sr_RS@latin` is `sr-Latn-RS`. */
function tagOf(locale: string): string {
  const [, language = '', region, modifier] =
    /^([A-Za-z]+)(?:[_-]([A-Za-z0-9]+))?(?:\.[\w-]+)?(?:@(\w+))?$/.exec(locale) ?? [];
  if (!language) return locale.replaceAll('_', '-');
  const script = modifier && SCRIPTS[modifier.toLowerCase()];
  const rest =
    modifier && !script
      ? modifier === 'valencia'
        ? modifier
        : `x-${modifier.slice(0, 8).toLowerCase()}`
      : '';
  return [language, script, region, rest].filter(Boolean).join('-');
}

const HEADER_BYTES = 8192;

/** What the header says; undefined where it says nothing, or leaves the template's word. */
export function charsetOfPo(bytes: Uint8Array): string | undefined {
  const head = String.fromCharCode(...bytes.subarray(0, HEADER_BYTES));
  const charset = /Content-Type:[^"\\]*?charset=([\w.:-]+)/i.exec(head)?.[1];
  return charset === 'CHARSET' ? undefined : charset;
}

interface Reading {
  source: string;
  target: string;
  forms: PoForms;
  keyOf: (message: Message) => string;
  saysSyntax: boolean;
}

const isHeader = ({ context, id }: Message): boolean => id === '' && context === undefined;
const isFuzzy = ({ flags }: Message): boolean => /\bfuzzy\b/.test(flags);
const isTranslatedPlural = (message: Message): boolean =>
  message.plural !== undefined && !isFuzzy(message) && message.texts.some((text) => text !== '');

/** Two messages are one where context and text are the same (GNU gettext manual, *Contexts*). */
const keyOfMessage = ({ context, id = '' }: Message): string =>
  context === undefined ? id : `${context}|${id}`;

/** Catalogues that were made from tables of keys have each key as a context. */
const contextsAreKeys = (messages: readonly Message[]): boolean =>
  messages.length > 0 &&
  messages.every(({ context }) => context !== undefined) &&
  new Set(messages.map(({ context }) => context)).size === messages.length;

/** `msgid ""` starts a string that the next lines go on with. */
function readMessages(text: string, name: string): { messages: Message[]; problems: Problem[] } {
  const messages: Message[] = [];
  const problems: Problem[] = [];
  let message: Message | undefined;
  let flags = '';
  let append: ((piece: string) => void) | undefined;
  const fail = (line: number, found: string) =>
    problems.push({
      code: 'catalogue.po',
      place: `${name}, line ${line}`,
      found,
      expected: 'msgctxt, msgid, msgid_plural or msgstr with a text in double quotes',
    });
  for (const [i, raw] of text.split('\n').entries()) {
    const line = raw.trim();
    if (line.startsWith('#')) {
      // messages that are out of use
      if (line.startsWith('#~')) append = undefined;
      if (line.startsWith('#,')) flags = line;
      continue;
    }
    if (line === '') {
      append = undefined;
      continue;
    }
    const match = /^(?:(msgctxt|msgid_plural|msgid|msgstr)(?:\[(\d{1,2})\])?\s*)?"(.*)"$/.exec(line);
    if (!match || (!match[1] && !append)) {
      fail(
        i + 1,
        /^msg.*"[^"]*$/.test(line) ? 'a text whose quote is not closed' : JSON.stringify(line.slice(0, 40)),
      );
      append = undefined;
      continue;
    }
    const [, keyword, number, quoted] = match as unknown as [string, string?, string?, string?];
    if (
      keyword === 'msgctxt' ||
      (keyword === 'msgid' && (message === undefined || message.id !== undefined))
    ) {
      message = { texts: [], flags, line: i + 1 };
      messages.push(message);
      flags = '';
    }
    if (keyword && message) append = appender(message, keyword, Number(number ?? 0));
    append?.(unescapePo(quoted ?? ''));
  }
  return { messages, problems };
}

function appender(message: Message, keyword: string, number: number): (piece: string) => void {
  switch (keyword) {
    case 'msgctxt':
      return (piece) => {
        message.context = (message.context ?? '') + piece;
      };
    case 'msgid':
      return (piece) => {
        message.id = (message.id ?? '') + piece;
      };
    case 'msgid_plural':
      return (piece) => {
        message.plural = (message.plural ?? '') + piece;
      };
    default:
      return (piece) => {
        message.texts[number] = (message.texts[number] ?? '') + piece;
      };
  }
}

const ESCAPES: Record<string, string> = { n: '\n', t: '\t', r: '\r', a: '\u0007', b: '\b', f: '\f', v: '\v' };

const unescapePo = (text: string): string =>
  text.replace(/\\(?:x([0-9a-f]{2})|([0-7]{3})|(.))/gi, (_, hex, octal, char: string) =>
    hex
      ? String.fromCharCode(Number.parseInt(hex, 16))
      : octal
        ? String.fromCharCode(Number.parseInt(octal, 8))
        : (ESCAPES[char] ?? char),
  );

/** What the numbers of `msgstr[…]` stand for. */
interface PoForms {
  labels: ReadonlyMap<number, string>;
  numbers: ReadonlyMap<number, number[]>;
  /** Labels of those that a number leads to. */
  needed: string[];
}

/**
 * By the header's expression, as the app evaluates it. Forms are called by the categories of CLDR that their numbers mostly
 * belong to; languages in which they tell fewer apart than people do need the categories themselves.
 */
function readPluralForms(
  header: string,
  locale: string,
  plurals: readonly Message[],
  name: string,
  problems: Problem[],
): PoForms {
  const [, count, source] = /nplurals\s*=\s*(\d+)\s*;\s*plural\s*=\s*([^;]+)/.exec(header) ?? [];
  const expression = source === undefined ? undefined : parsePluralExpression(source);
  const language = isLocaleTag(locale) && locale !== 'und' ? locale : undefined;
  const known = language === undefined ? undefined : pluralFormsOf(language);
  const remedy = known
    ? `Write: Plural-Forms: nplurals=${known.categories.length}; plural=${known.expression};`
    : 'Write the number of forms and an expression over n.';
  const refuse = (found: string, expected: string) =>
    problems.push({
      code: 'catalogue.plural-forms',
      place: `${name}, Plural-Forms`,
      found,
      expected,
      remedy,
    });
  const [first] = plurals;
  if (first && header === '')
    refuse('plural forms, and no header that says what they stand for', 'Plural-Forms');
  else if (first && !expression)
    refuse(JSON.stringify(header.slice(0, 60)), 'nplurals=NUMBER; plural=EXPRESSION;');
  const formCount = expression ? Number(count) : known?.categories.length;
  for (const { line, texts } of plurals)
    if (expression && texts.length !== formCount)
      problems.push({
        code: 'catalogue.plural-count',
        place: `${name}, line ${line}`,
        found: `${texts.length} plural forms`,
        expected: `${formCount}, as the header says`,
        remedy: 'Fill in the forms that are missing, or correct Plural-Forms in the header.',
      });
  const used = expression ?? (known ? parsePluralExpression(known.expression) : undefined);
  return nameForms(used ?? ((n) => Number(n !== 1)), language);
}

function entriesOf(
  message: Message,
  { forms, keyOf, saysSyntax, source, target }: Reading,
): CatalogueEntry[] {
  const { flags, id = '', line, plural, texts } = message;
  const syntax = syntaxOfFlags(flags) ?? (saysSyntax ? 'plain' : undefined);
  const common = { key: keyOf(message), line, ...(syntax && { syntax }) };
  if (plural === undefined) {
    const entry = (locale: string, text: string): CatalogueEntry => ({
      ...common,
      locale,
      kind: 'text',
      forms: [{ form: '', text, line }],
    });
    // a template has no translations, and a fuzzy one is not used
    const isMade = texts[0] !== undefined && texts[0] !== '' && !isFuzzy(message);
    return [entry(source, id), ...(isMade ? [entry(target, texts[0]!)] : [])];
  }
  const translated = texts.flatMap((text = '', i): EntryForm[] =>
    text === ''
      ? []
      : [{ form: forms.labels.get(i) ?? `[${i}]`, text, numbers: forms.numbers.get(i) ?? [], line }],
  );
  const sourceForms = [
    { form: 'one', text: id, numbers: [1], line },
    { form: 'other', text: plural, line },
  ];
  return [
    { ...common, locale: source, kind: 'plural', forms: sourceForms, neededForms: ['one', 'other'] },
    ...(isTranslatedPlural(message)
      ? [{ ...common, locale: target, kind: 'plural' as const, forms: translated, neededForms: forms.needed }]
      : []),
  ];
}

// Flags of formats that are read here; of others the placeholders are not known, so that nothing is said of them.
const FLAGS: readonly (readonly [flag: RegExp, syntax: TextSyntax])[] = [
  [/\bno-[\w+-]+-format\b/, 'plain'],
  [/\bobjc-format\b/, 'printf-apple'],
  [/(?<![\w-])(c|c\+\+|gcc-internal|gfc-internal|ycp)-format\b/, 'printf-c'],
  [/\bpython-brace-format\b/, 'braces'],
  [/\b(csharp|perl-brace)-format\b/, 'braces'],
  [/\bpython-format\b/, 'percent-python'],
  [/\bjava-printf-format\b/, 'printf-java'],
  [/-format\b/, 'plain'],
];

const syntaxOfFlags = (flags: string): TextSyntax | undefined =>
  FLAGS.find(([flag]) => flag.test(flags))?.[1];

/** Of a file that flags none of its messages, by what they hold. */
function syntaxOf(messages: readonly Message[]): TextSyntax {
  if (messages.some(({ flags }) => /\bobjc-format\b/.test(flags))) return 'printf-apple';
  const texts = messages.slice(0, 2000).map(({ id = '' }) => id);
  if (texts.some((text) => /%(\d+\$)?@/.test(text))) return 'printf-apple';
  return texts.some((text) => /\{\w+[},]/.test(text)) && !texts.some((text) => /%(\d+\$)?[sd]/.test(text))
    ? 'icu'
    : 'printf-java';
}

/**
 * One language, with the source texts beside it.
 *
 * @throws RangeError where no expression for the language's plurals is known
 */
export function writePo(
  entries: readonly CatalogueEntry[],
  syntax: TextSyntax,
  { source, target }: { source: string; target: string },
): string {
  const forms = pluralFormsOf(target);
  if (!forms) throw new RangeError(`no plural expression is known for ${target}`);
  const header = [
    'Content-Type: text/plain; charset=UTF-8',
    `Language: ${target.replaceAll('-', '_')}`,
    ...(source === 'default' ? [] : [`X-Source-Language: ${source.replaceAll('-', '_')}`]),
    `Plural-Forms: nplurals=${forms.categories.length}; plural=${forms.expression};`,
  ];
  const targets = new Map(
    entries.filter(({ locale }) => locale === target).map((entry) => [entry.key, entry]),
  );
  const messages = entries
    .filter(({ locale }) => locale === source)
    .map((entry) => flagOf(entry, syntax) + writeMessage(entry, targets.get(entry.key), forms.categories));
  return `msgid ""\nmsgstr ""\n${header.map((line) => `${quotePo(`${line}\n`)}\n`).join('')}\n${messages.join('\n')}`;
}

const FLAG_OF: Partial<Record<TextSyntax, string>> = {
  'printf-apple': 'objc-format',
  'printf-c': 'c-format',
  'percent-python': 'python-format',
  braces: 'python-brace-format',
};

/** Where a text is filled in: what is flagged must be a format. */
function flagOf({ forms, syntax: own }: CatalogueEntry, syntax: TextSyntax): string {
  const flag = FLAG_OF[own ?? syntax];
  return flag && (own || forms.some(({ text }) => text.includes('%'))) ? `#, ${flag}\n` : '';
}

function writeMessage(
  entry: CatalogueEntry,
  target: CatalogueEntry | undefined,
  categories: readonly string[],
): string {
  const textOf = (of: CatalogueEntry | undefined, form: string) =>
    of?.forms.find((one) => one.form === form)?.text;
  const head = `msgctxt ${quotePo(entry.key)}\n`;
  if (entry.kind !== 'plural')
    return `${head}msgid ${quotePo(entry.forms[0]?.text ?? '')}\nmsgstr ${quotePo(target?.forms[0]?.text ?? '')}\n`;
  const other = textOf(entry, 'other') ?? '';
  return [
    head,
    `msgid ${quotePo(textOf(entry, 'one') ?? other)}\nmsgid_plural ${quotePo(other)}\n`,
    ...categories.map((category, i) => `msgstr[${i}] ${quotePo(textOf(target, category) ?? '')}\n`),
  ].join('');
}

const quotePo = (text: string): string =>
  `"${text
    .replace(/[\\"]/g, '\\$&')
    .replaceAll('\n', '\\n')
    .replaceAll('\t', '\\t')
    .replaceAll('\r', '\\r')
    .replace(/[\u0000-\u001f\u007f]/g, (char) => `\\${char.charCodeAt(0).toString(8).padStart(3, '0')}`)}"`;
