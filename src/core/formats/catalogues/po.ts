/**
 * gettext's PO files (GNU gettext manual, *The Format of PO Files*). The key is the context where there is one, else the
 * source text; the source texts are read as a language of their own.
 *
 *     msgctxt "key"
 *     msgid "%d seat"                 "" joins lines        \n \t \" \\
 *     msgid_plural "%d seats"
 *     msgstr[0] "…"                   numbered by the header's Plural-Forms
 */
import type { Catalogue, CatalogueEntry, EntryForm, TextSyntax } from '../../model/catalogue.ts';
import { isLocaleTag } from '../../model/locale.ts';
import type { Problem } from '../../model/problem.ts';
import { categoriesOfForms, parsePluralExpression, pluralFormsOf } from '../../platform/text/plural-forms.ts';

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
export function readPo(text: string, name: string, locale: string): Catalogue {
  const { messages, problems } = readMessages(text, name);
  const header = messages.find(({ id }) => id === '')?.texts[0] ?? '';
  const field = (key: string) => new RegExp(`^${key}:\\s*(.*)$`, 'mi').exec(header)?.[1]?.trim() ?? '';
  const language = (key: string) => {
    const tag = field(key).replaceAll('_', '-');
    return isLocaleTag(tag) ? tag : undefined;
  };
  const target = language('Language') ?? locale;
  const source = language('X-Source-Language') ?? 'default';
  const categoryOf = readPluralForms(field('Plural-Forms'), target, name, problems);
  const entries = messages
    .filter(({ id }) => id !== undefined && id !== '')
    .flatMap((message) => entriesOf(message, source, target, categoryOf));
  return { format: 'po', syntax: syntaxOf(messages), entries, problems };
}

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

function readPluralForms(
  header: string,
  locale: string,
  name: string,
  problems: Problem[],
): (form: number) => string {
  const source = /plural\s*=\s*([^;]+)/.exec(header)?.[1];
  const expression = source === undefined ? undefined : parsePluralExpression(source);
  const categories = expression && categoriesOfForms(expression, locale);
  if (source !== undefined && !categories)
    problems.push({
      code: 'catalogue.plural-forms',
      place: `${name}, Plural-Forms`,
      found: JSON.stringify(source.trim().slice(0, 60)),
      expected: `an expression over n that tells numbers apart as ${locale} does`,
      remedy: `Write the expression for ${locale}${pluralFormsOf(locale) ? `: ${pluralFormsOf(locale)!.expression}` : ''}.`,
    });
  const own = categories ?? new Map(pluralFormsOf(locale)?.categories.map((category, i) => [i, category]));
  return (form) => own.get(form) ?? (form === 0 ? 'one' : 'other');
}

function entriesOf(
  { context, flags, id = '', line, plural, texts }: Message,
  source: string,
  target: string,
  categoryOf: (form: number) => string,
): CatalogueEntry[] {
  const key = context ?? id;
  if (plural === undefined) {
    const entry = (locale: string, text: string): CatalogueEntry => ({
      key,
      locale,
      kind: 'text',
      forms: [{ form: '', text, line }],
      line,
    });
    // a template has no translations, and a fuzzy one is not used
    const isMade = texts[0] !== undefined && texts[0] !== '' && !flags.includes('fuzzy');
    return [entry(source, id), ...(isMade ? [entry(target, texts[0]!)] : [])];
  }
  const forms = texts.flatMap((text, i): EntryForm[] =>
    text === '' ? [] : [{ form: categoryOf(i), text, line }],
  );
  const sourceForms = [
    { form: 'one', text: id, line },
    { form: 'other', text: plural, line },
  ];
  return [
    { key, locale: source, kind: 'plural', forms: sourceForms, line },
    ...(forms.length > 0 && !flags.includes('fuzzy')
      ? [{ key, locale: target, kind: 'plural' as const, forms, line }]
      : []),
  ];
}

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
  const flag = syntax === 'printf-apple' ? '#, objc-format\n' : '';
  const targets = new Map(
    entries.filter(({ locale }) => locale === target).map((entry) => [entry.key, entry]),
  );
  const messages = entries
    .filter(({ locale }) => locale === source)
    .map((entry) => flag + writeMessage(entry, targets.get(entry.key), forms.categories));
  return `msgid ""\nmsgstr ""\n${header.map((line) => `${quotePo(`${line}\n`)}\n`).join('')}\n${messages.join('\n')}`;
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
