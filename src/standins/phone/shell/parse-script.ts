/** Reads a script (POSIX.1-2017, *Shell Command Language*, sections 2.2 to 2.10). */
import type { AndOr, Assignment, Command, Part, Pipeline, Redirect, Script, Word } from './syntax.ts';

/** A script that the shell cannot read; `isUnfinished` where more lines might complete it. */
export class SyntaxTrouble extends Error {
  readonly isUnfinished: boolean;
  constructor(message: string, isUnfinished = false) {
    super(message);
    this.isUnfinished = isUnfinished;
  }
}

const MOST_NESTED = 200;
const NAME = /^[A-Za-z_]\w*/;
const META = new Set([' ', '\t', '\n', '|', '&', ';', '<', '>', '(', ')']);
const REDIRECTS = ['<<<', '<<-', '<<', '>>', '>|', '>&', '<&', '<>', '<', '>'] as const;
/** Behind which a command begins again, and no script can begin. */
const ENDS = ['then', 'else', 'elif', 'fi', 'do', 'done', 'esac', '}'];
const ESCAPES: Readonly<Record<string, string>> = {
  n: '\n',
  t: '\t',
  r: '\r',
  a: '\x07',
  b: '\b',
  e: '\x1b',
  f: '\f',
  v: '\v',
};

/** @throws SyntaxTrouble */
export function parseScript(text: string): Script {
  const parser = new Parser(text);
  const script = parser.script([]);
  if (!parser.isAtEnd()) throw parser.unexpected();
  return script;
}

/** A script command by command: each is run before the next one is read. @throws SyntaxTrouble where the next one cannot be read */
export function* commandsOf(text: string): Generator<Script> {
  const parser = new Parser(text);
  for (let next = parser.next(); next; next = parser.next()) yield next;
}

class Parser {
  readonly #text: string;
  #at = 0;
  #depth = 0;
  #hereDocuments: { redirect: Redirect; end: string; strips: boolean; quoted: boolean }[] = [];

  constructor(text: string) {
    this.#text = text;
  }

  isAtEnd = (): boolean => this.#at >= this.#text.length;
  #peek = (ahead = 0): string => this.#text[this.#at + ahead] ?? '';
  #starts = (text: string): boolean => this.#text.startsWith(text, this.#at);

  unexpected(): SyntaxTrouble {
    if (this.isAtEnd()) return new SyntaxTrouble('syntax error: unexpected EOF', true);
    const found = /^(\n|&&|\|\||;;|[|&;<>()]|[^\s|&;<>()]+)/.exec(this.#text.slice(this.#at))?.[0] ?? '';
    return new SyntaxTrouble(`syntax error: unexpected '${found === '\n' ? 'newline' : found}'`);
  }

  /** What stands up to the end of its line; undefined where nothing is left. */
  next(): Script | undefined {
    this.#skipLines();
    if (this.isAtEnd()) return undefined;
    const script = this.script([], true);
    if (script.items.length === 0) throw this.unexpected();
    this.#skipBlanks();
    if (this.#peek() === '\n') this.#skipLines();
    else if (!this.isAtEnd()) throw this.unexpected();
    // the document of a last line may come without a line's end
    if (this.isAtEnd() && this.#hereDocuments.length > 0) this.#readHereDocuments();
    return script;
  }

  // --- lists

  /** Commands until one of the words, or a closing sign; of one line, until its end. */
  script(ends: readonly string[], isOneLine = false): Script {
    if (++this.#depth > MOST_NESTED) throw new SyntaxTrouble('syntax error: nested too deeply');
    const items: Script['items'] = [];
    for (;;) {
      if (isOneLine) this.#skipBlanks();
      else this.#skipLines();
      if (isOneLine && this.#peek() === '\n') break;
      if (this.isAtEnd() || this.#peek() === ')' || this.#starts(';;') || this.#starts(';&')) break;
      const word = this.#keyword();
      if (word !== undefined && ends.includes(word)) break;
      if (word !== undefined && ENDS.includes(word)) throw this.unexpected();
      const list = this.#andOr();
      this.#skipBlanks();
      const inBackground = this.#peek() === '&';
      if (inBackground) this.#at += 1;
      else if (this.#peek() === ';' && !this.#starts(';;') && !this.#starts(';&')) this.#at += 1;
      else if (!this.isAtEnd() && !['\n', ')'].includes(this.#peek()) && !this.#starts(';'))
        throw this.unexpected();
      items.push({ list, inBackground });
    }
    this.#depth -= 1;
    return { items };
  }

  #andOr(): AndOr[] {
    const list: AndOr[] = [{ pipeline: this.#pipeline(), when: 'always' }];
    for (;;) {
      this.#skipBlanks();
      const sign = this.#starts('&&') ? '&&' : this.#starts('||') ? '||' : undefined;
      if (!sign) return list;
      this.#at += 2;
      this.#skipLines();
      list.push({ pipeline: this.#pipeline(), when: sign === '&&' ? 'success' : 'failure' });
    }
  }

  #pipeline(): Pipeline {
    let negated = false;
    while (this.#keyword() === '!') {
      this.#at += 1;
      negated = !negated;
      this.#skipBlanks();
    }
    const commands = [this.#command()];
    for (;;) {
      this.#skipBlanks();
      if (this.#peek() !== '|' || this.#starts('||')) return { negated, commands };
      const isBoth = this.#starts('|&');
      this.#at += isBoth ? 2 : 1;
      if (isBoth) commands.at(-1)!.redirects.push({ fd: 2, operator: '>&', target: textWord('1') });
      this.#skipLines();
      commands.push(this.#command());
    }
  }

  // --- commands

  #command(): Command {
    this.#skipBlanks();
    const command = this.#compound() ?? this.#simple();
    if (command.kind === 'simple') return command;
    for (let redirect = this.#redirect(); redirect; redirect = this.#redirect())
      command.redirects.push(redirect);
    return command;
  }

  #compound(): Command | undefined {
    if (this.#starts('((')) {
      const end = this.#arithmeticEnd(this.#at + 2);
      if (end !== undefined) {
        const inner = this.#text.slice(this.#at + 2, end);
        this.#at = end + 2;
        return { kind: 'arithmetic', expression: partsOf(inner), redirects: [] };
      }
    }
    if (this.#peek() === '(') {
      this.#at += 1;
      const body = this.#scriptUntil([], ')');
      return { kind: 'subshell', body, redirects: [] };
    }
    const word = this.#keyword();
    switch (word) {
      case '{':
        return { kind: 'group', body: this.#block('{', '}'), redirects: [] };
      case 'if':
        return this.#if();
      case 'while':
      case 'until': {
        this.#take(word);
        const test = this.#filled(['do']);
        return {
          kind: 'loop',
          until: word === 'until',
          test,
          body: this.#block('do', 'done'),
          redirects: [],
        };
      }
      case 'for':
        return this.#for();
      case 'case':
        return this.#case();
      case '[[':
        return this.#condition();
      case 'function': {
        this.#take(word);
        const name = this.#name();
        if (this.#starts('()')) this.#at += 2;
        this.#skipLines();
        return { kind: 'function', name, body: this.#command(), redirects: [] };
      }
      default:
        return this.#function();
    }
  }

  #function(): Command | undefined {
    const found = /^([A-Za-z_][\w.-]*)[ \t]*\([ \t]*\)/.exec(this.#text.slice(this.#at));
    if (!found) return undefined;
    this.#at += found[0].length;
    this.#skipLines();
    return { kind: 'function', name: found[1]!, body: this.#command(), redirects: [] };
  }

  #block(open: string, close: string): Script {
    this.#take(open);
    const body = this.#filled([close]);
    this.#take(close);
    return body;
  }

  #if(): Command {
    const clauses: { test: Script; body: Script }[] = [];
    let otherwise: Script | undefined;
    let word: string | undefined = 'if';
    while (word === 'if' || word === 'elif') {
      this.#take(word);
      const test = this.#filled(['then']);
      this.#take('then');
      clauses.push({ test, body: this.#filled(['elif', 'else', 'fi']) });
      word = this.#keyword();
    }
    if (word === 'else') {
      this.#take('else');
      otherwise = this.#filled(['fi']);
    }
    this.#take('fi');
    return { kind: 'if', clauses, ...(otherwise && { otherwise }), redirects: [] };
  }

  #for(): Command {
    this.#take('for');
    const name = this.#name();
    this.#skipLines();
    let words: Word[] | undefined;
    if (this.#keyword() === 'in') {
      this.#take('in');
      words = this.#words();
    }
    this.#skipBlanks();
    if (this.#peek() === ';') this.#at += 1;
    this.#skipLines();
    return { kind: 'for', name, ...(words && { words }), body: this.#block('do', 'done'), redirects: [] };
  }

  #case(): Command {
    this.#take('case');
    const word = this.#neededWord();
    this.#skipLines();
    this.#take('in');
    const items: Extract<Command, { kind: 'case' }>['items'] = [];
    for (;;) {
      this.#skipLines();
      if (this.#keyword() === 'esac') break;
      if (this.#peek() === '(') this.#at += 1;
      const patterns: Word[] = [];
      do {
        this.#skipBlanks();
        patterns.push(this.#neededWord());
        this.#skipBlanks();
      } while (this.#peek() === '|' && ++this.#at);
      if (this.#peek() !== ')') throw this.unexpected();
      this.#at += 1;
      const body = this.script(['esac']);
      const fallsThrough = this.#starts(';&');
      if (fallsThrough || this.#starts(';;')) this.#at += 2;
      items.push({ patterns, body, fallsThrough });
    }
    this.#take('esac');
    return { kind: 'case', word, items, redirects: [] };
  }

  /** The words of `[[ … ]]`, its signs among them. */
  #condition(): Command {
    this.#take('[[');
    const words: Word[] = [];
    for (;;) {
      this.#skipLines();
      if (this.#keyword() === ']]') break;
      const sign = /^(&&|\|\||[()<>])/.exec(this.#text.slice(this.#at))?.[0];
      if (sign) {
        this.#at += sign.length;
        words.push([{ kind: 'text', text: sign, quoted: false }]);
      } else words.push(this.#neededWord(words.at(-1)?.[0]));
    }
    this.#take(']]');
    return { kind: 'condition', words, redirects: [] };
  }

  #simple(): Command {
    const assignments: Assignment[] = [];
    const words: Word[] = [];
    const redirects: Redirect[] = [];
    for (;;) {
      const redirect = this.#redirect();
      if (redirect) {
        redirects.push(redirect);
        continue;
      }
      if (words.length === 0) {
        const found = /^([A-Za-z_]\w*)(\+?)=/.exec(this.#text.slice(this.#at));
        if (found) {
          this.#at += found[0].length;
          const isEmpty = this.isAtEnd() || META.has(this.#peek());
          const word = isEmpty ? [] : this.#word()!;
          assignments.push({ name: found[1]!, word, appends: found[2] === '+' });
          continue;
        }
      }
      const word = this.#word();
      if (!word) break;
      words.push(word);
    }
    if (words.length === 0 && assignments.length === 0 && redirects.length === 0) throw this.unexpected();
    return { kind: 'simple', assignments, words, redirects };
  }

  #words(): Word[] {
    const words: Word[] = [];
    for (let word = this.#word(); word; word = this.#word()) words.push(word);
    return words;
  }

  #redirect(): Redirect | undefined {
    this.#skipBlanks();
    const found = /^(&>|\d*(?=[<>]))/.exec(this.#text.slice(this.#at))?.[0];
    if (found === undefined) return undefined;
    if (found === '&>') {
      this.#at += 2;
      // both outputs; the second one is led to the first when it runs
      return { fd: -1, operator: '>', target: this.#neededWord() };
    }
    const start = this.#at + found.length;
    const operator = REDIRECTS.find((one) => this.#text.startsWith(one, start));
    if (!operator) return undefined;
    this.#at = start + operator.length;
    const fd = found === '' ? (operator.startsWith('<') ? 0 : 1) : Number(found);
    const target = this.#neededWord();
    if (operator !== '<<' && operator !== '<<-') return { fd, operator, target };
    const redirect: Redirect = { fd, operator: '<<', target: [] };
    const end = target.map((part) => (part.kind === 'text' ? part.text : '')).join('');
    const quoted = target.some((part) => part.quoted);
    this.#hereDocuments.push({ redirect, end, strips: operator === '<<-', quoted });
    return redirect;
  }

  // --- words

  #name(): string {
    this.#skipBlanks();
    const name = /^[A-Za-z_][\w.-]*/.exec(this.#text.slice(this.#at))?.[0];
    if (!name) throw this.unexpected();
    this.#at += name.length;
    return name;
  }

  /** An unquoted word at this place that may be a reserved one; it is not taken. */
  #keyword(): string | undefined {
    this.#skipBlanks();
    return /^(?:[{}!]|\[\[|\]\]|[a-z]+)(?=[\s;&|<>()]|$)/.exec(this.#text.slice(this.#at))?.[0];
  }

  #take(word: string): void {
    this.#skipLines();
    if (this.#keyword() !== word) throw this.unexpected();
    this.#at += word.length;
  }

  #filled(ends: readonly string[]): Script {
    const body = this.script(ends);
    if (body.items.length === 0) throw this.unexpected();
    return body;
  }

  #scriptUntil(ends: readonly string[], sign: string): Script {
    const body = this.script(ends);
    if (this.#peek() !== sign) throw this.unexpected();
    this.#at += 1;
    return body;
  }

  /** @param before in `[[`, what stands before: behind `=~` signs of the pattern belong to the word */
  #neededWord(before?: Part): Word {
    this.#skipBlanks();
    const isPattern = before?.kind === 'text' && before.text === '=~';
    const word = isPattern ? this.#patternWord() : this.#word();
    if (!word) throw this.unexpected();
    return word;
  }

  #patternWord(): Word | undefined {
    const end = /\s/.exec(this.#text.slice(this.#at))?.index ?? this.#text.length - this.#at;
    const text = this.#text.slice(this.#at, this.#at + end);
    this.#at += end;
    return text === '' ? undefined : partsOf(text);
  }

  #word(): Word | undefined {
    this.#skipBlanks();
    const parts: Word = [];
    while (!this.isAtEnd() && !META.has(this.#peek())) parts.push(...this.#part());
    return parts.length > 0 ? parts : undefined;
  }

  #part(): Part[] {
    const char = this.#peek();
    if (char === "'") {
      const end = this.#text.indexOf("'", this.#at + 1);
      if (end < 0) throw new SyntaxTrouble('no closing quote', true);
      const text = this.#text.slice(this.#at + 1, end);
      this.#at = end + 1;
      return [{ kind: 'text', text, quoted: true }];
    }
    if (char === '"') {
      this.#at += 1;
      return this.#doubleQuoted('"');
    }
    if (this.#starts("$'")) return [this.#escaped()];
    if (char === '\\') {
      const text = this.#peek(1);
      this.#at += 2;
      if (text === '\n') return [];
      return [{ kind: 'text', text, quoted: true }];
    }
    const special = this.#special(false);
    if (special) return [special];
    const plain = /^[^'"\\$`\s|&;<>()]+/.exec(this.#text.slice(this.#at))?.[0] ?? char;
    this.#at += plain.length;
    return [{ kind: 'text', text: plain, quoted: false }];
  }

  /** @param end the closing quote; undefined reads to the end, as of a here-document */
  #doubleQuoted(end: '"' | undefined): Part[] {
    // an empty pair is a word, too
    const parts: Part[] = end ? [{ kind: 'text', text: '', quoted: true }] : [];
    for (;;) {
      if (this.isAtEnd()) {
        if (end) throw new SyntaxTrouble('no closing quote', true);
        return parts;
      }
      if (end && this.#peek() === end) {
        this.#at += 1;
        return parts;
      }
      const special = this.#special(true);
      if (special) {
        parts.push(special);
        continue;
      }
      if (this.#peek() === '\\' && (/[\\$`\n]/.test(this.#peek(1)) || this.#peek(1) === end)) {
        const text = this.#peek(1);
        this.#at += 2;
        if (text !== '\n') parts.push({ kind: 'text', text, quoted: true });
        continue;
      }
      parts.push({ kind: 'text', text: this.#peek(), quoted: true });
      this.#at += 1;
    }
  }

  #escaped(): Part {
    this.#at += 2;
    let text = '';
    while (this.#peek() !== "'") {
      if (this.isAtEnd()) throw new SyntaxTrouble('no closing quote', true);
      if (this.#peek() !== '\\') {
        text += this.#peek();
        this.#at += 1;
        continue;
      }
      const code = /^\\(?:x([0-9a-f]{1,2})|u([0-9a-f]{1,4})|([0-7]{1,3}))/i.exec(this.#text.slice(this.#at));
      if (code) {
        const [whole, hex, unicode, octal] = code;
        text += String.fromCodePoint(
          octal ? Number.parseInt(octal, 8) : Number.parseInt((hex ?? unicode)!, 16),
        );
        this.#at += whole.length;
      } else {
        text += ESCAPES[this.#peek(1)] ?? this.#peek(1);
        this.#at += 2;
      }
    }
    this.#at += 1;
    return { kind: 'text', text, quoted: true };
  }

  /** What begins with a dollar sign or a backquote. */
  #special(quoted: boolean): Part | undefined {
    if (this.#peek() === '`') return this.#backquoted(quoted);
    if (this.#peek() !== '$') return undefined;
    if (this.#starts('$((')) {
      const end = this.#arithmeticEnd(this.#at + 3);
      if (end !== undefined) {
        const inner = this.#text.slice(this.#at + 3, end);
        this.#at = end + 2;
        return { kind: 'arithmetic', expression: partsOf(inner), quoted };
      }
    }
    if (this.#starts('$(')) {
      this.#at += 2;
      return { kind: 'command', script: this.#scriptUntil([], ')'), quoted };
    }
    if (this.#starts('${')) return this.#braced(quoted);
    const name = /^\$([A-Za-z_]\w*|[0-9@*#?$!-])/.exec(this.#text.slice(this.#at))?.[1];
    if (name === undefined) return undefined;
    this.#at += 1 + name.length;
    return { kind: 'parameter', name, quoted };
  }

  #backquoted(quoted: boolean): Part {
    let inner = '';
    this.#at += 1;
    while (this.#peek() !== '`') {
      if (this.isAtEnd()) throw new SyntaxTrouble('no closing quote', true);
      if (this.#peek() === '\\' && /[`\\$]/.test(this.#peek(1))) this.#at += 1;
      inner += this.#peek();
      this.#at += 1;
    }
    this.#at += 1;
    return { kind: 'command', script: parseScript(inner), quoted };
  }

  /** `${name}`, `${#name}`, `${name:-word}` and its like. */
  #braced(quoted: boolean): Part {
    const begin = this.#at;
    this.#at += 2;
    const length = /^#(\w+|[@*#?$!-])\}/.exec(this.#text.slice(this.#at))?.[1];
    if (length !== undefined) {
      this.#at += length.length + 2;
      return { kind: 'length', name: length, quoted };
    }
    const name = /^(?:[A-Za-z_]\w*|\d+|[@*#?$!-])/.exec(this.#text.slice(this.#at))?.[0];
    if (name === undefined) throw this.#badSubstitution(begin);
    this.#at += name.length;
    if (this.#peek() === '}') {
      this.#at += 1;
      return { kind: 'parameter', name, quoted };
    }
    const operator = /^(:?[-=?+]|##?|%%?|\/[/#%]?|:)/.exec(this.#text.slice(this.#at))?.[0];
    if (!operator) throw this.#badSubstitution(begin);
    this.#at += operator.length;
    const isParted = operator === ':' || operator.startsWith('/');
    const separator = operator === ':' ? ':' : '/';
    const word = this.#until(isParted ? [separator, '}'] : ['}'], quoted);
    let more: Word | undefined;
    if (isParted && this.#peek() === separator) {
      this.#at += 1;
      more = this.#until(['}'], quoted);
    }
    this.#at += 1;
    return { kind: 'parameter', name, operator, word, ...(more && { more }), quoted };
  }

  #badSubstitution(begin: number): SyntaxTrouble {
    const isUnfinished = !this.#text.slice(begin).includes('}');
    return new SyntaxTrouble(`${this.#text.slice(begin).split('}')[0]}}: bad substitution`, isUnfinished);
  }

  /** The word inside braces: it may hold spaces and signs. */
  #until(ends: readonly string[], quoted: boolean): Word {
    const parts: Word = [];
    while (!ends.includes(this.#peek())) {
      if (this.isAtEnd()) throw new SyntaxTrouble('no closing brace', true);
      if (META.has(this.#peek()) || (quoted && this.#peek() === "'")) {
        parts.push({ kind: 'text', text: this.#peek(), quoted: false });
        this.#at += 1;
        continue;
      }
      for (const part of this.#partBefore(ends)) parts.push(part);
    }
    return parts;
  }

  #partBefore(ends: readonly string[]): Part[] {
    if (/['"\\$`]/.test(this.#peek())) return this.#part();
    const text = this.#peek();
    this.#at += 1;
    return ends.includes(text) ? [] : [{ kind: 'text', text, quoted: false }];
  }

  /** Where `))` closes what began before; undefined where it is a subshell in parentheses. */
  #arithmeticEnd(from: number): number | undefined {
    let open = 0;
    for (let i = from; i < this.#text.length; i++) {
      const char = this.#text[i];
      if (char === '(') open += 1;
      else if (char === ')') {
        if (open > 0) open -= 1;
        else return this.#text[i + 1] === ')' ? i : undefined;
      }
    }
    return undefined;
  }

  // --- between words

  #skipBlanks(): void {
    for (;;) {
      const found = /^(?:[ \t]+|\\\n)+/.exec(this.#text.slice(this.#at))?.[0];
      if (found) this.#at += found.length;
      const isComment = this.#peek() === '#' && (this.#at === 0 || META.has(this.#text[this.#at - 1]!));
      if (!isComment) return;
      const end = this.#text.indexOf('\n', this.#at);
      this.#at = end < 0 ? this.#text.length : end;
    }
  }

  #skipLines(): void {
    for (;;) {
      this.#skipBlanks();
      if (this.#peek() !== '\n') return;
      this.#at += 1;
      this.#readHereDocuments();
    }
  }

  #readHereDocuments(): void {
    for (const { end, quoted, redirect, strips } of this.#hereDocuments.splice(0)) {
      let body = '';
      for (;;) {
        if (this.isAtEnd()) throw new SyntaxTrouble(`here document '${end}' unclosed`, true);
        const next = this.#text.indexOf('\n', this.#at);
        const raw = this.#text.slice(this.#at, next < 0 ? undefined : next);
        this.#at = next < 0 ? this.#text.length : next + 1;
        const line = strips ? raw.replace(/^\t+/, '') : raw;
        if (line === end) break;
        body += `${line}\n`;
      }
      redirect.target = quoted ? [{ kind: 'text', text: body, quoted: true }] : partsOf(body);
    }
  }

  quotedParts = (): Part[] => this.#doubleQuoted(undefined);
}

/** A text in which only what begins with a dollar sign or backquote is more than itself. */
const partsOf = (text: string): Word => new Parser(text).quotedParts();

const textWord = (text: string): Word => [{ kind: 'text', text, quoted: false }];

export const isName = (text: string): boolean => NAME.exec(text)?.[0] === text;
