/**
 * XLIFF 1.2 (OASIS Standard, 2008: `trans-unit`, section 2.3) and 2.x (OASIS Standard 2.1: `unit`, section 4.2): source
 * and target side by side. Inline elements give back what they stand for: the content of `ph`, `bpt`, `ept`, `it`; else
 * `equiv-text` or `ctype` (1.2), the original data or `equiv` (2.x).
 *
 * Neither says how plurals are written. We write a group of the key with a unit for each category, and read that as well
 * as ids of the form `KEY|==|plural.one`.
 */
import type { SaxesTagPlain } from 'saxes';
import type { Catalogue, CatalogueEntry, EntryForm, TextSyntax } from '../../model/catalogue.ts';
import { pluralCategories } from '../../model/catalogue.ts';
import { parseText } from '../../platform/text/parse-text.ts';
import { escapeXml, escapeXmlAttribute, readXml } from './xml-events.ts';

interface Unit {
  key: string;
  form: string;
  source?: EntryForm;
  target?: EntryForm;
  line: number;
  translatable: boolean;
}

interface State {
  version: '1.2' | '2';
  sourceLocale: string;
  targetLocale: string;
  original: string;
  group: string[];
  unit?: Unit;
  /** What is being collected: the text of source or target. */
  side?: 'source' | 'target';
  text: string;
  /** Depth of elements that hold suggestions, whose texts are nobody's. */
  suggestions: number;
  inline: string[];
  originalData: Map<string, string>;
  dataId?: string;
}

export function readXliff(xml: string, name: string, syntax?: TextSyntax): Catalogue {
  const state: State = {
    version: '1.2',
    sourceLocale: '',
    targetLocale: '',
    original: '',
    group: [],
    text: '',
    suggestions: 0,
    inline: [],
    originalData: new Map(),
  };
  const units: Unit[] = [];
  const problems = readXml(xml, name, {
    open: (tag, line) => openElement(tag, line, state),
    text: (text) => {
      if (state.dataId !== undefined)
        state.originalData.set(state.dataId, (state.originalData.get(state.dataId) ?? '') + text);
      else if (state.side) state.text += text;
    },
    close: (element) => closeElement(element, state, units),
  });
  const target = state.targetLocale;
  const entries = [
    ...entriesOf(units, 'source', state.sourceLocale || 'default'),
    ...(target ? entriesOf(units, 'target', target) : []),
  ];
  return {
    format: state.version === '2' ? 'xliff-2' : 'xliff-1.2',
    syntax: syntax ?? syntaxOf(state.original, units),
    entries,
    problems,
  };
}

function openElement({ attributes: given, name }: SaxesTagPlain, line: number, state: State): void {
  const attributes = given as Record<string, string>;
  switch (name) {
    case 'xliff':
      state.version = (attributes.version ?? '').startsWith('2') ? '2' : '1.2';
      state.sourceLocale = attributes.srcLang ?? '';
      state.targetLocale = attributes.trgLang ?? '';
      return;
    case 'file':
      state.sourceLocale = attributes['source-language'] ?? state.sourceLocale;
      state.targetLocale = attributes['target-language'] ?? state.targetLocale;
      state.original = attributes.original ?? state.original;
      return;
    case 'group':
      state.group.push(attributes.resname ?? attributes.name ?? attributes.id ?? '');
      return;
    case 'trans-unit':
    case 'unit':
      state.unit = unitOf(attributes, state.group.at(-1), line);
      state.originalData.clear();
      return;
    case 'data':
      state.dataId = attributes.id ?? '';
      return;
    case 'alt-trans':
    case 'mtc:matches':
      state.suggestions += 1;
      return;
    case 'source':
    case 'target':
      if (state.unit && state.suggestions === 0) Object.assign(state, { side: name, text: '', inline: [] });
      return;
    default:
      if (state.side) openInline(name, attributes, state);
  }
}

function unitOf(attributes: Record<string, string>, group: string | undefined, line: number): Unit {
  const id = attributes.resname ?? attributes.name ?? attributes.id ?? '';
  const translatable = attributes.translate !== 'no';
  const marked = /^(.*)\|==\|plural\.(\w+)$/.exec(id);
  if (marked) return { key: marked[1]!, form: marked[2]!, line, translatable };
  const isForm = group !== undefined && (pluralCategories as readonly string[]).includes(id);
  return { key: isForm ? group : id, form: isForm ? id : '', line, translatable };
}

/** Elements whose content is the code itself are left in; those that only name it are replaced. */
function openInline(name: string, attributes: Record<string, string>, state: State): void {
  const data = (ref: string | undefined) => (ref === undefined ? undefined : state.originalData.get(ref));
  if (name === 'x') state.text += attributes['equiv-text'] ?? '';
  else if (name === 'ph' && state.version === '2')
    state.text += data(attributes.dataRef) ?? attributes.equiv ?? attributes.disp ?? '';
  else if (name === 'pc') state.text += data(attributes.dataRefStart) ?? attributes.equivStart ?? '';
  state.inline.push(name === 'pc' ? (data(attributes.dataRefEnd) ?? attributes.equivEnd ?? '') : '');
}

function closeElement(name: string, state: State, units: Unit[]): void {
  if (name === 'alt-trans' || name === 'mtc:matches') state.suggestions -= 1;
  else if (name === 'data') state.dataId = undefined;
  else if (name === 'group') state.group.pop();
  else if ((name === 'trans-unit' || name === 'unit') && state.unit) {
    units.push(state.unit);
    state.unit = undefined;
  } else if (name === state.side && state.unit) {
    state.unit[state.side] = { form: state.unit.form, text: state.text, line: state.unit.line };
    state.side = undefined;
  } else if (state.side) state.text += state.inline.pop() ?? '';
}

function entriesOf(units: readonly Unit[], side: 'source' | 'target', locale: string): CatalogueEntry[] {
  const entries: CatalogueEntry[] = [];
  const plurals = new Map<string, CatalogueEntry>();
  for (const unit of units) {
    const form = unit[side];
    if (!form) continue;
    const known = unit.form ? plurals.get(unit.key) : undefined;
    if (known) {
      known.forms.push(form);
      continue;
    }
    const entry: CatalogueEntry = {
      key: unit.key,
      locale,
      kind: unit.form ? 'plural' : 'text',
      forms: [form],
      line: unit.line,
      ...(!unit.translatable && { translatable: false }),
    };
    entries.push(entry);
    if (unit.form) plurals.set(unit.key, entry);
  }
  return entries;
}

/** By the file that was translated; else by the marks that its texts have. */
function syntaxOf(original: string, units: readonly Unit[]): TextSyntax {
  if (/\.xml$/i.test(original)) return 'printf-java';
  if (/\.(strings|stringsdict|xcstrings|storyboard|plist)$/i.test(original)) return 'printf-apple';
  if (/\.(arb|json)$/i.test(original)) return 'icu';
  const texts = units.slice(0, 2000).map(({ source }) => source?.text ?? '');
  if (texts.some((text) => /%(\d+\$)?@/.test(text))) return 'printf-apple';
  if (texts.some((text) => /%(\d+\$)?[sd]/.test(text))) return 'printf-java';
  return texts.some((text) => /\{\w+[},]/.test(text)) ? 'icu' : 'printf-java';
}

const ORIGINAL: Record<TextSyntax, string> = {
  'printf-java': 'strings.xml',
  'printf-apple': 'Localizable.strings',
  icu: 'app.arb',
  'printf-c': 'messages.po',
  'percent-python': 'messages.po',
  braces: 'messages.po',
  i18next: 'translation.json',
  plain: 'messages.txt',
};

interface XliffLocales {
  source: string;
  target: string;
}

/** @param entries of both languages; a target without a source is left out */
export function writeXliff(
  entries: readonly CatalogueEntry[],
  syntax: TextSyntax,
  version: '1.2' | '2.1',
  { source, target }: XliffLocales,
): string {
  const writer = version === '1.2' ? unit12 : unit2;
  const targets = new Map(
    entries.filter(({ locale }) => locale === target).map((entry) => [entry.key, entry]),
  );
  const units = entries
    .filter(({ locale }) => locale === source)
    .map((entry, i) => writeEntry(entry, targets.get(entry.key), `u${i}`, syntax, writer))
    .join('');
  const of = escapeXml(ORIGINAL[syntax]);
  const head =
    version === '1.2'
      ? `<xliff version="1.2" xmlns="urn:oasis:names:tc:xliff:document:1.2">\n<file original="${of}" datatype="plaintext" source-language="${source}" target-language="${target}">\n<body>\n`
      : `<xliff version="2.1" xmlns="urn:oasis:names:tc:xliff:document:2.0" srcLang="${source}" trgLang="${target}">\n<file id="f1" original="${of}">\n`;
  return `<?xml version="1.0" encoding="utf-8"?>\n${head}${units}${version === '1.2' ? '</body>\n' : ''}</file>\n</xliff>\n`;
}

interface UnitText {
  id: string;
  name: string;
  source: string;
  target?: string;
  translatable: boolean;
}
type WriteUnit = (unit: UnitText, syntax: TextSyntax) => string;

function writeEntry(
  entry: CatalogueEntry,
  target: CatalogueEntry | undefined,
  id: string,
  syntax: TextSyntax,
  write: WriteUnit,
): string {
  const translatable = entry.translatable !== false;
  if (entry.kind !== 'plural')
    return write(
      {
        id,
        name: entry.key,
        source: entry.forms[0]?.text ?? '',
        target: target?.forms[0]?.text,
        translatable,
      },
      syntax,
    );
  const forms = new Set([...entry.forms, ...(target?.forms ?? [])].map(({ form }) => form));
  const other = entry.forms.at(-1)?.text ?? '';
  const units = [...forms].map((form, i) =>
    write(
      {
        id: `${id}-${i}`,
        name: form,
        source: entry.forms.find((of) => of.form === form)?.text ?? other,
        target: target?.forms.find((of) => of.form === form)?.text,
        translatable,
      },
      syntax,
    ),
  );
  const named = write === unit12 ? 'resname' : 'name';
  return `<group id="${id}" ${named}="${escapeXmlAttribute(entry.key)}">\n${units.join('')}</group>\n`;
}

const unit12: WriteUnit = ({ id, name, source, target, translatable }, syntax) => {
  const inline = (text: string) =>
    inlineOf(text, syntax, (code, n) => `<ph id="${n}">${escapeXml(code)}</ph>`);
  return `<trans-unit id="${id}" resname="${escapeXmlAttribute(name)}"${translatable ? '' : ' translate="no"'} xml:space="preserve">\n<source>${inline(source)}</source>\n${target === undefined ? '' : `<target>${inline(target)}</target>\n`}</trans-unit>\n`;
};

const unit2: WriteUnit = ({ id, name, source, target, translatable }, syntax) => {
  const inline = (text: string) =>
    inlineOf(text, syntax, (code, n) => `<ph id="${n}" equiv="${escapeXmlAttribute(code)}"/>`);
  return `<unit id="${id}" name="${escapeXmlAttribute(name)}"${translatable ? '' : ' translate="no"'} xml:space="preserve">\n<segment>\n<source>${inline(source)}</source>\n${target === undefined ? '' : `<target>${inline(target)}</target>\n`}</segment>\n</unit>\n`;
};

function inlineOf(text: string, syntax: TextSyntax, code: (written: string, n: number) => string): string {
  return parseText(text, syntax)
    .parts.map((part, i) => (part.kind === 'literal' ? escapeXml(part.written) : code(part.written, i + 1)))
    .join('');
}
