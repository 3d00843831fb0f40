/** Expansion of words (POSIX.1-2017, *Shell Command Language*, section 2.6), in its order. */
import type { PhoneFiles } from '../os/phone-files.ts';
import { ArithmeticTrouble, calculate } from './arithmetic.ts';
import { hasPattern, type PatternPart, patternRegExp, patternSource } from './patterns.ts';
import { type ShellState, ShellTrouble } from './shell-state.ts';
import type { Part, Script, Word } from './syntax.ts';

/** Runs commands and gives what they print. */
type Substitute = (script: Script) => Promise<string>;

/** Of one field, with what was quoted told apart. */
type Field = PatternPart[];

const OUTPUT_END = /\n+$/;
const MOST_FIELDS = 100_000;

export class Expander {
  readonly #state: ShellState;
  readonly #substitute: Substitute;

  constructor(state: ShellState, substitute: Substitute) {
    this.#state = state;
    this.#substitute = substitute;
  }

  /** Words of a command: split into fields, with names of files for patterns. */
  async fields(words: readonly Word[]): Promise<string[]> {
    const all: string[] = [];
    for (const word of words)
      for (const alternative of withAlternatives(word))
        for (const field of await this.#split(alternative)) all.push(...this.#paths(field));
    return all;
  }

  /** One text: of an assignment, a target, a case. */
  async text(word: Word): Promise<string> {
    return (await this.pattern(word)).map(({ text }) => text).join('');
  }

  /** The same with what was quoted told apart, as patterns need it. */
  async pattern(word: Word): Promise<PatternPart[]> {
    const parts: PatternPart[] = [];
    for (const [i, part] of word.entries())
      for (const one of await this.#expanded(part, i === 0))
        parts.push({ text: one.text, quoted: one.quoted });
    return parts;
  }

  async number(expression: Word): Promise<bigint> {
    const text = await this.text(expression);
    try {
      return calculate(text, {
        get: (name) => this.#state.get(name),
        set: (name, value) => this.#state.set(name, value),
      });
    } catch (error) {
      if (error instanceof ArithmeticTrouble) throw new ShellTrouble(error.message);
      throw error;
    }
  }

  // --- fields

  async #split(word: Word): Promise<Field[]> {
    const fields: Field[] = [];
    let field: Field | undefined;
    const end = () => {
      if (field) fields.push(field);
      field = undefined;
      if (fields.length > MOST_FIELDS) throw new ShellTrouble('argument list too long');
    };
    for (const [i, part] of word.entries()) {
      const expanded = await this.#expanded(part, i === 0);
      for (const { endsField, isSplit, quoted, text } of expanded) {
        if (isSplit) {
          for (const piece of this.#pieces(text)) {
            if (piece === undefined) end();
            else field = [...(field ?? []), { text: piece, quoted: false }];
          }
        } else if (text !== '' || quoted) field = [...(field ?? []), { text, quoted }];
        if (endsField) end();
      }
    }
    end();
    return fields;
  }

  /** Texts, and undefined where one field ends (section 2.6.5). */
  #pieces(text: string): (string | undefined)[] {
    const separators = this.#state.get('IFS') ?? ' \t\n';
    if (separators === '') return text === '' ? [] : [text];
    const blanks = [...separators].filter((char) => /[ \t\n]/.test(char)).join('');
    const others = [...separators].filter((char) => !/[ \t\n]/.test(char)).join('');
    const pieces: (string | undefined)[] = [];
    let piece = '';
    let isOpen = false;
    for (let i = 0; i < text.length; i++) {
      const char = text[i]!;
      if (!separators.includes(char)) {
        piece += char;
        isOpen = true;
        continue;
      }
      if (isOpen || others.includes(char)) {
        // an empty field between two signs that are no blanks is a field
        if (isOpen || piece !== '' || others.includes(char)) pieces.push(piece);
        piece = '';
        isOpen = false;
        while (blanks.includes(text[i + 1] ?? '\0')) i += 1;
        if (!others.includes(char) && others.includes(text[i + 1] ?? '\0')) {
          i += 1;
          while (blanks.includes(text[i + 1] ?? '\0')) i += 1;
        }
      }
      pieces.push(undefined);
    }
    if (isOpen) pieces.push(piece);
    return pieces;
  }

  #paths(field: Field): string[] {
    const text = field.map((part) => part.text).join('');
    if (this.#state.options.has('f') || !hasPattern(field)) return [text];
    const found = matchPaths(field, this.#state.cwd, this.#state.os.files);
    return found.length > 0 ? found : [text];
  }

  // --- parts

  async #expanded(part: Part, isFirst: boolean): Promise<Expanded[]> {
    switch (part.kind) {
      case 'text':
        return [
          {
            text: isFirst && !part.quoted ? this.#home(part.text) : part.text,
            quoted: part.quoted,
            isSplit: false,
          },
        ];
      case 'command': {
        const text = (await this.#substitute(part.script)).replace(OUTPUT_END, '');
        return [{ text, quoted: part.quoted, isSplit: !part.quoted }];
      }
      case 'arithmetic':
        return [
          { text: String(await this.number(part.expression)), quoted: part.quoted, isSplit: !part.quoted },
        ];
      case 'length':
        return [{ text: String(this.#lengthOf(part.name)), quoted: part.quoted, isSplit: false }];
      default:
        return this.#parameter(part);
    }
  }

  #home = (text: string): string => text.replace(/^~(?=\/|$)/, this.#state.get('HOME') ?? '/');

  #lengthOf(name: string): number {
    if (name === '@' || name === '*') return this.#state.positional.length;
    return [...this.#value(name)].length;
  }

  /** @throws ShellTrouble where it is not set and `set -u` holds */
  #value(name: string): string {
    const value = this.#state.get(name);
    if (value === undefined && this.#state.options.has('u') && !/^[@*]$/.test(name))
      throw new ShellTrouble(`${name}: parameter not set`);
    return value ?? '';
  }

  async #parameter(part: Extract<Part, { kind: 'parameter' }>): Promise<Expanded[]> {
    const { name, operator, quoted } = part;
    if (!operator && (name === '@' || (name === '*' && !quoted))) return this.#positional(name, quoted);
    const plain = (text: string): Expanded[] => [{ text, quoted, isSplit: !quoted }];
    if (!operator) return plain(this.#value(name));
    const value = this.#state.get(name);
    const word = part.word ?? [];
    if (/^:?[-=?+]$/.test(operator)) return this.#conditional(part, value);
    if (operator === ':') return plain(await this.#slice(value ?? '', part));
    if (operator.startsWith('/')) return plain(await this.#replaced(value ?? '', part));
    return plain(trimmed(this.#value(name), operator, await this.pattern(word)));
  }

  #positional(name: string, quoted: boolean): Expanded[] {
    return this.#state.positional.map((text, i, all) => ({
      text,
      quoted,
      isSplit: !quoted,
      endsField: name === '@' || !quoted ? i < all.length - 1 : false,
    }));
  }

  async #conditional(
    part: Extract<Part, { kind: 'parameter' }>,
    value: string | undefined,
  ): Promise<Expanded[]> {
    const { name, quoted } = part;
    const operator = part.operator!;
    const word = part.word ?? [];
    const isThere = value !== undefined && !(operator.startsWith(':') && value === '');
    const sign = operator.at(-1);
    if (sign === '+') return isThere ? this.#inner(word, quoted) : [];
    if (isThere) return [{ text: value, quoted, isSplit: !quoted }];
    if (sign === '-') return this.#inner(word, quoted);
    const text = await this.text(word);
    if (sign === '?') throw new ShellTrouble(`${name}: ${text || 'parameter null or not set'}`);
    this.#state.set(name, text);
    return [{ text, quoted, isSplit: !quoted }];
  }

  async #inner(word: Word, quoted: boolean): Promise<Expanded[]> {
    const all: Expanded[] = [];
    for (const [i, part] of word.entries())
      for (const one of await this.#expanded(part, i === 0 && !quoted))
        all.push(
          quoted
            ? { ...one, quoted: true, isSplit: false }
            : { ...one, isSplit: one.isSplit || (part.kind === 'text' && !part.quoted) },
        );
    return all;
  }

  async #slice(value: string, { more, word = [] }: Extract<Part, { kind: 'parameter' }>): Promise<string> {
    const characters = [...value];
    const given = Number(await this.number(word));
    const from = given < 0 ? Math.max(0, characters.length + given) : given;
    const length = more ? Number(await this.number(more)) : characters.length;
    return characters.slice(from, length < 0 ? length : from + length).join('');
  }

  async #replaced(
    value: string,
    { more = [], operator = '/', word = [] }: Extract<Part, { kind: 'parameter' }>,
  ): Promise<string> {
    const source = patternSource(await this.pattern(word));
    if (source === '') return value;
    const anchored = operator === '/#' ? `^${source}` : operator === '/%' ? `${source}$` : source;
    const by = await this.text(more);
    return value.replace(new RegExp(anchored, operator === '//' ? 'gu' : 'u'), () => by);
  }
}

interface Expanded {
  text: string;
  quoted: boolean;
  isSplit: boolean;
  /** `"$@"`: the next one is another field. */
  endsField?: boolean;
}

/** `#`, `##`, `%`, `%%`: without the shortest or longest beginning or end that the pattern fits. */
function trimmed(value: string, operator: string, pattern: readonly PatternPart[]): string {
  const fits = patternRegExp(pattern);
  const isBeginning = operator.startsWith('#');
  const characters = [...value];
  const lengths = Array.from({ length: characters.length + 1 }, (_, i) => i);
  if (operator.length === 2) lengths.reverse();
  for (const length of lengths) {
    const [part, rest] = isBeginning
      ? [characters.slice(0, length), characters.slice(length)]
      : [characters.slice(characters.length - length), characters.slice(0, characters.length - length)];
    if (fits.test(part.join(''))) return rest.join('');
  }
  return value;
}

/** `{a,b}` in a word, where nothing of it is quoted. */
function withAlternatives(word: Word): Word[] {
  for (const [i, part] of word.entries()) {
    if (part.kind !== 'text' || part.quoted) continue;
    const found = /\{([^{}]*,[^{}]*)\}/.exec(part.text);
    if (!found) continue;
    const [before, after] = [part.text.slice(0, found.index), part.text.slice(found.index + found[0].length)];
    return found[1]!
      .split(',')
      .flatMap((one) =>
        withAlternatives([
          ...word.slice(0, i),
          { ...part, text: before + one + after },
          ...word.slice(i + 1),
        ]),
      );
  }
  return [word];
}

function matchPaths(field: Field, cwd: string, files: PhoneFiles): string[] {
  const levels: Field[] = [[]];
  for (const { quoted, text } of field)
    for (const [i, piece] of text.split('/').entries()) {
      if (i > 0) levels.push([]);
      if (piece !== '') levels.at(-1)!.push({ text: piece, quoted });
    }
  const isAbsolute = levels[0]!.length === 0;
  let found: string[] = [isAbsolute ? '/' : ''];
  for (const level of isAbsolute ? levels.slice(1) : levels) {
    if (level.length === 0) continue;
    const source = patternRegExp(level, '[^/]');
    const isPattern = hasPattern(level);
    const plain = level.map(({ text }) => text).join('');
    const isHidden = plain.startsWith('.');
    found = found.flatMap((folder) => {
      const inside = isPattern
        ? (files.list(files.resolve(folder || '.', cwd)) ?? []).filter(
            (name) => source.test(name) && (isHidden || !name.startsWith('.')),
          )
        : [plain];
      return inside.map((name) => (folder === '' ? name : `${folder.replace(/\/$/, '')}/${name}`));
    });
  }
  return found.filter((path) => files.exists(files.resolve(path, cwd))).sort();
}
