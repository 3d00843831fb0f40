/** The notation of `aapt2 dump resources`, written from our model and read from its output, so that the two can be compared. */
import type { ResValue } from '../../src/core/formats/android/res-value.ts';
import type { ResourceContent, ResourceTable } from '../../src/core/formats/android/resource-table.ts';
import { formatConfig } from '../../src/core/platform/android/resource-config.ts';

/** By `id type/name (configuration)`: the value as printed. */
export type Printed = Map<string, string>;

/** After an empty list aapt2 forgets the line break, it writes mnc00 by its code, and it indents the lines of a text. */
export function readDump(text: string): Printed {
  const printed: Printed = new Map();
  const lines = text
    .replace(/^ {8}\[(?=resource)/gm, '    ')
    .replace(/^ {8}\[ *(?=\()/gm, '      ')
    .split('\n');
  let [resource, key] = ['', ''];
  for (const line of lines) {
    const header = /^ {4}resource (0x[0-9a-f]+ \S+)( PUBLIC)?/.exec(line);
    const value = /^ {6}\(([^)]*)\) (.*)$/.exec(line);
    if (header) {
      resource = header[1]!;
      printed.set(resource, header[2] ? 'PUBLIC' : '');
      key = '';
    } else if (value) {
      key = `${resource} (${value[1]!.replace('mnc65535', 'mnc00')})`;
      printed.set(key, value[2]!);
    } else if (key && !/^ {2}type |^Package |^Binary/.test(line))
      printed.set(key, `${printed.get(key)}\n${line}`);
  }
  for (const [name, said] of printed)
    printed.set(
      name,
      normalize(said.startsWith('(array)') ? said.trimEnd() : said.trimEnd().replace(/\n {6}/g, '\n')),
    );
  return printed;
}

/** Lines of attributes, styles and plurals stand in no order that matters; lists are broken into lines of four. */
function normalize(said: string): string {
  const [head = '', ...lines] = said.split('\n');
  if (/^\(array\)/.test(head)) return said.replace(/\n +/g, ' ').replace(/ +/g, ' ');
  if (/^\((style|attr|plurals)\)/.test(head))
    return [head, ...lines.map((line) => line.trim()).sort()].join('\n');
  return said;
}

export function printTable(table: ResourceTable): Printed {
  const printed: Printed = new Map();
  for (const resource of table.resources.values()) {
    const name = `0x${hex(resource.id)} ${resource.type}/${resource.name}`;
    printed.set(name, resource.isPublic ? 'PUBLIC' : '');
    for (const { config, content } of resource.variants())
      printed.set(
        `${name} (${formatConfig(config)})`,
        normalize(printContent(resource.type, content, table)),
      );
  }
  return printed;
}

function printContent(type: string, content: ResourceContent, table: ResourceTable): string {
  if (content.kind === 'value') return type === 'id' ? '(id)' : printItem(content.value, table);
  const { items, parent } = content;
  const name = (id: number) => table.resources.get(id)?.name ?? '';
  const bag = (head: string, lines: string[]) => [head, ...lines].join('\n');
  switch (type) {
    case 'array':
      return items.length === 0
        ? '(array) size=0'
        : `(array) size=${items.length} [${items.map(({ value }) => printItem(value, table)).join(', ')}]`;
    case 'plurals':
      return bag(
        `(plurals) size=${items.length}`,
        items.map(({ name: key, value }) => `${CATEGORIES[key & 0xff]}=${printItem(value, table)}`),
      );
    case 'style': {
      const of = parent === 0 ? '' : ` parent=${printParent(parent, table)}`;
      return bag(
        `(style) size=${items.length}${of}`,
        items.map(({ name: id, value }) => `${printAttributeName(id, table)}=${printItem(value, table)}`),
      );
    }
    default:
      return printAttr(items, name);
  }
}

const CATEGORIES: Record<number, string> = { 4: 'other', 5: 'zero', 6: 'one', 7: 'two', 8: 'few', 9: 'many' };

function printParent(parent: number, table: ResourceTable): string {
  const known = table.resources.get(parent);
  return known ? `${known.type}/${known.name} (0x${hex(parent)})` : `0x${hex(parent)}`;
}

function printAttributeName(id: number, table: ResourceTable): string {
  const known = table.resources.get(id);
  return known ? `${known.name}(0x${hex(id)})` : `0x${hex(id)}`;
}

const ATTR_TYPES = ['reference', 'string', 'integer', 'boolean', 'color', 'float', 'dimension', 'fraction'];

const [ENUM, FLAGS] = [1 << 16, 1 << 17];

function printAttr(items: { name: number; value: ResValue }[], nameOf: (id: number) => string): string {
  const number = (value: ResValue) => ('value' in value ? Number(value.value) : 0);
  const mask = number(items.find(({ name }) => name === 0x01000000)!.value);
  const types = [
    ...ATTR_TYPES.filter((_, i) => mask & (1 << i)),
    ...(mask & ENUM ? ['enum'] : []),
    ...(mask & FLAGS ? ['flags'] : []),
  ].join('|');
  const symbols = items.filter(({ name }) => name >>> 16 !== 0x0100);
  const said = (mask & 0xffff) === 0xffff ? `any${types.replace(/^.*?fraction/, '')}` : types;
  return [
    `(attr) type=${said}${symbols.length > 0 ? ` size=${symbols.length}` : ''}`,
    ...symbols.map(({ name, value }) => `${nameOf(name)}(0x${hex(name)})=0x${hex(number(value))}`),
  ].join('\n');
}

function printItem(value: ResValue, table: ResourceTable): string {
  switch (value.kind) {
    case 'null':
      return '@null';
    case 'empty':
      return '@empty';
    case 'string':
      return printText(value);
    case 'reference':
    case 'attribute': {
      if (value.id === 0) return '@null';
      const target = table.resources.get(value.id);
      const sign = value.kind === 'reference' ? '@' : '?';
      return target ? `${sign}${target.type}/${target.name}` : `${sign}0x${hex(value.id)}`;
    }
    case 'float':
      return formatG(value.value);
    case 'dimension':
      // aapt2 loses the sign of negative ones: 2^24 too much
      return (value.value < 0 ? value.value + 2 ** 24 : value.value).toFixed(6) + value.unit;
    case 'fraction':
      return `${value.value.toFixed(6)}%${value.ofParent ? 'p' : ''}`;
    case 'integer':
      return value.hex ? `0x${hex(value.value)}` : String(value.value);
    case 'boolean':
      return String(value.value);
    case 'colour':
      return `#${hex(value.argb)}`;
    case 'unknown':
      return `unknown ${value.type} ${value.data}`;
  }
}

function printText({ spans, text }: Extract<ResValue, { kind: 'string' }>): string {
  if (spans)
    return `(styled string) "${text}"${spans.map((of) => ` ${of.tag}:${of.firstChar},${of.lastChar}`).join('')}`;
  const file = /^res\/.*\.(\w+)$/.exec(text);
  return file
    ? `(file) ${text}${file[1] === 'xml' ? ' type=XML' : file[1] === 'png' ? ' type=PNG' : ''}`
    : `"${text}"`;
}

/** `%g` of C: six significant digits, no zeros at the end. */
const formatG = (value: number): string => String(Number(value.toPrecision(6)));

const hex = (value: number): string => (value >>> 0).toString(16).padStart(8, '0');
