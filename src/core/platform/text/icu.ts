/**
 * Messages of ICU MessageFormat (ICU User Guide, *Formatting Messages*; Unicode Technical Standard 35, part 2): arguments
 * in braces, with an apostrophe quoting what follows only where a brace does.
 *
 *     Hello {name}, you have {count, plural, =0 {no mail} one {# letter} other {# letters}}.
 */
import type { ArgumentType, TextFault, TextSyntax } from '../../model/catalogue.ts';

export type IcuNode =
  | { kind: 'literal'; at: number; end: number }
  | { kind: 'argument'; at: number; end: number; name: string; type: ArgumentType; choices?: IcuChoice[] }
  /** `#`, the number that a plural is chosen by. */
  | { kind: 'number'; at: number; end: number; name: string };

interface IcuChoice {
  /** A plural category, `=1`, or a word of a select. */
  selector: string;
  /** Of its text, without the braces. */
  at: number;
  end: number;
  nodes: IcuNode[];
}

interface IcuMessage {
  nodes: IcuNode[];
  faults: TextFault[];
}

const TYPES: Record<string, ArgumentType> = {
  '': 'text',
  number: 'decimal',
  date: 'date',
  time: 'date',
  duration: 'decimal',
  spellout: 'decimal',
  ordinal: 'decimal',
  plural: 'choice',
  select: 'choice',
  selectordinal: 'choice',
};
const MAX_DEPTH = 16;
// A number, or an identifier (Unicode Standard Annex 31, *Pattern_Syntax*): no hyphen, no dot.
const NAME = /^(?:\d+|(?!\d)[^\p{Pattern_Syntax}\p{Pattern_White_Space}]+)$/u;

const CHOICE = /\{\s*[\w.]+\s*,\s*(?:plural|select|selectordinal)\s*,/;

/** A message with a choice in it is ICU's, whatever catalogue it stands in: no other syntax has the like. */
export const syntaxOfText = (text: string, syntax: TextSyntax): TextSyntax =>
  text.includes('{') && CHOICE.test(text) ? 'icu' : syntax;

/** Reads a whole message; what is wrong with it is told beside what could be read. */
export function parseIcu(text: string): IcuMessage {
  const reader: Reader = { text, at: 0, faults: [] };
  const nodes = readNodes(reader, undefined, 0);
  return { nodes, faults: reader.faults };
}

interface Reader {
  text: string;
  at: number;
  faults: TextFault[];
}

const fault = (reader: Reader, code: TextFault['code'], at: number): void => {
  reader.faults.push({ code, at, excerpt: reader.text.slice(at, at + 16) });
};

/** Up to the closing brace of the choice that it stands in, or the end. */
function readNodes(reader: Reader, plural: string | undefined, depth: number): IcuNode[] {
  const { text } = reader;
  const nodes: IcuNode[] = [];
  let literalAt = reader.at;
  const endLiteral = () => {
    if (reader.at > literalAt) nodes.push({ kind: 'literal', at: literalAt, end: reader.at });
  };
  while (reader.at < text.length) {
    const char = text[reader.at];
    if (char === "'") skipQuoted(reader, plural !== undefined);
    else if (char === '#' && plural !== undefined) {
      endLiteral();
      nodes.push({ kind: 'number', at: reader.at, end: reader.at + 1, name: plural });
      literalAt = ++reader.at;
    } else if (char === '{' && depth < MAX_DEPTH) {
      endLiteral();
      const argument = readArgument(reader, depth);
      if (argument) nodes.push(argument);
      literalAt = reader.at;
    } else if (char === '}') {
      if (depth > 0) break;
      fault(reader, 'unopened-brace', reader.at);
      reader.at += 1;
    } else reader.at += 1;
  }
  endLiteral();
  return nodes;
}

function skipQuoted(reader: Reader, inPlural: boolean): void {
  const { at, text } = reader;
  const next = text[at + 1];
  if (next === "'") reader.at += 2;
  else if (next === '{' || next === '}' || (next === '#' && inPlural)) {
    // two apostrophes are one of the quoted text
    let end = text.indexOf("'", at + 1);
    while (end >= 0 && text[end + 1] === "'") end = text.indexOf("'", end + 2);
    const quoted = text.slice(at + 1, end < 0 ? text.length : end);
    if (/^\{\s*\w+\s*(,|\})/.test(quoted)) fault(reader, 'quoted-placeholder', at);
    reader.at = end < 0 ? text.length : end + 1;
  } else reader.at += 1;
}

/** From its opening brace to behind its closing one. */
function readArgument(reader: Reader, depth: number): IcuNode | undefined {
  const { text } = reader;
  const at = reader.at;
  const head = /\{\s*([^\s,{}]*)\s*(,\s*([^\s,{}]*)\s*)?/y;
  head.lastIndex = at;
  const [whole, name = '', comma, typeName = ''] = head.exec(text)!;
  reader.at += whole.length;
  if (name === '') fault(reader, 'empty-argument', at);
  else if (!NAME.test(name) || (!comma && /[^}]/.test(text[reader.at] ?? '}')))
    fault(reader, 'bad-argument-name', at);
  // a comma promises a type
  const isKnown = Object.hasOwn(TYPES, typeName) && !(comma && typeName === '');
  const type = isKnown ? TYPES[typeName]! : 'unknown';
  if (type === 'unknown') fault(reader, 'unknown-argument-type', at);
  const choices =
    type === 'choice' ? readChoices(reader, typeName === 'select' ? undefined : name, depth) : undefined;
  if (type === 'choice' && !choices!.some(({ selector }) => selector === 'other'))
    fault(reader, 'choice-without-other', at);
  const end = choices ? skipTo(reader, '}') : skipStyle(reader);
  if (!end) fault(reader, 'unclosed-brace', at);
  return { kind: 'argument', at, end: reader.at, name, type, ...(choices && { choices }) };
}

const WORD = /^[^\p{Pattern_Syntax}\p{Pattern_White_Space}]+$/u;
const PLURAL_WORD = /^(?:=\d+|[^\p{Pattern_Syntax}\p{Pattern_White_Space}]+)$/u;
const SELECTOR = /[\s,]*([^\s{}]+)\s*\{/y;
const SELECTOR_OR_OFFSET = /[\s,]*(?:offset:\s*\d+\s*)?([^\s{}]+)\s*\{/y;

/** `offset:1 =0 {…} one {…} other {…}` */
function readChoices(reader: Reader, plural: string | undefined, depth: number): IcuChoice[] {
  const { text } = reader;
  const choices: IcuChoice[] = [];
  const selector = plural === undefined ? SELECTOR : SELECTOR_OR_OFFSET;
  for (;;) {
    selector.lastIndex = reader.at;
    const match = selector.exec(text);
    if (!match) return choices;
    const named = reader.at + match[0].indexOf(match[1]!);
    if (!(plural === undefined ? WORD : PLURAL_WORD).test(match[1]!))
      fault(reader, 'bad-argument-name', named);
    reader.at += match[0].length;
    const at = reader.at;
    const nodes = readNodes(reader, plural ?? undefined, depth + 1);
    choices.push({ selector: match[1]!, at, end: reader.at, nodes });
    if (text[reader.at] !== '}') return choices;
    reader.at += 1;
  }
}

function skipTo(reader: Reader, char: string): boolean {
  const rest = /\s*/y;
  rest.lastIndex = reader.at;
  reader.at += rest.exec(reader.text)![0].length;
  if (reader.text[reader.at] !== char) return false;
  reader.at += 1;
  return true;
}

/** The format of a number or date may be any text: `{price, number, ¤#,##0.00}`. */
function skipStyle(reader: Reader): boolean {
  const end = reader.text.indexOf('}', reader.at);
  const opened = reader.text.indexOf('{', reader.at);
  if (end < 0 || (opened >= 0 && opened < end)) return false;
  reader.at = end + 1;
  return true;
}

/** The longest that a message reads, with each choice at its longest; what is filled in stands as its name. */
export function longestReading(text: string): string {
  const readingOf = (nodes: readonly IcuNode[]): string => nodes.map(readingOfNode).join('');
  const readingOfNode = (node: IcuNode): string => {
    if (node.kind === 'number') return '#';
    if (node.kind === 'literal' || !node.choices) return text.slice(node.at, node.end);
    const readings = node.choices.map(({ nodes }) => readingOf(nodes));
    return readings.reduce((longest, one) => (one.length > longest.length ? one : longest), '');
  };
  return readingOf(parseIcu(text).nodes);
}

/** Literal text without its quotes. */
export const unquoteIcu = (written: string): string =>
  written.replace(/''|'([{}#][^']*)(?:'|$)/g, (_, quoted: string | undefined) => quoted ?? "'");

/** Text that ICU takes as it is. */
export const quoteIcu = (text: string): string => text.replace(/'/g, "''").replace(/[{}]+/g, "'$&'");
