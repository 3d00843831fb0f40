/** Commands that are part of the shell itself, since they change it (POSIX.1-2017, section 2.14; others as mksh has them). */

import { calculate } from './arithmetic.ts';
import { ByteInput } from './byte-streams.ts';
import { commandNamed } from './commands.ts';
import { test } from './condition.ts';
import { isName } from './parse-script.ts';
import { Leaving, type ShellRunner, type ShellStreams, ShellTrouble, sinkOf } from './shell-state.ts';
import { echoed, printed } from './text-forms.ts';

type Builtin = (args: string[], streams: ShellStreams) => number | Promise<number>;

const SPECIAL = new Set([
  ':',
  '.',
  'break',
  'continue',
  'eval',
  'exec',
  'exit',
  'export',
  'readonly',
  'return',
  'set',
  'shift',
  'trap',
  'unset',
]);
const ENCODER = new TextEncoder();
const MOST_CODES = 256;
const WRONG_USE = 2;

export class Builtins {
  readonly #shell: ShellRunner;
  readonly #all: Record<string, Builtin>;

  constructor(shell: ShellRunner) {
    this.#shell = shell;
    const one = (run: Builtin): Builtin => run;
    this.#all = {
      ':': () => 0,
      true: () => 0,
      false: () => 1,
      test: one((args, streams) => test(args, shell.state, (why) => this.#complain(streams, `test: ${why}`))),
      '[': one((args, streams) => this.#bracket(args, streams)),
      echo: one((args, streams) => this.#say(streams, echoed(args))),
      print: one((args, streams) => this.#say(streams, echoed(args))),
      printf: one((args, streams) => this.#printf(args, streams)),
      cd: one((args, streams) => this.#cd(args, streams)),
      pwd: one((_, streams) => this.#say(streams, `${shell.state.cwd}\n`)),
      read: one((args, streams) => this.#read(args, streams)),
      set: one((args, streams) => this.#set(args, streams)),
      shift: one((args, streams) => this.#shift(args, streams)),
      unset: one((args) => this.#unset(args)),
      export: one((args, streams) => this.#declare(args, streams, 'exported')),
      readonly: one((args, streams) => this.#declare(args, streams, 'readonly')),
      typeset: one((args) => this.#local(args)),
      local: one((args) => this.#local(args)),
      let: one((args) => this.#let(args)),
      break: one((args) => this.#leave('break', args)),
      continue: one((args) => this.#leave('continue', args)),
      return: one((args) => this.#leave('return', args)),
      exit: one((args) => this.#leave('exit', args)),
      eval: one((args, streams) => shell.evaluate(args.join(' '), streams)),
      exec: one((args, streams) => this.#exec(args, streams)),
      '.': one((args, streams) => this.#source(args, streams)),
      source: one((args, streams) => this.#source(args, streams)),
      sh: one((args, streams) => this.#sh(args, streams)),
      command: one((args, streams) => this.#command(args, streams)),
      type: one((args, streams) => this.#type(args, streams, true)),
      whence: one((args, streams) => this.#type(args, streams, false)),
      builtin: one(([name = '', ...args], streams) => this.find(name)?.(args, streams) ?? 1),
      wait: one(() => this.#wait()),
      jobs: () => 0,
      trap: () => 0,
      umask: one((_, streams) => this.#say(streams, '000\n')),
      ulimit: one((_, streams) => this.#say(streams, 'unlimited\n')),
      alias: () => 0,
      times: one((_, streams) => this.#say(streams, '0m00.00s 0m00.00s\n0m00.00s 0m00.00s\n')),
    };
  }

  find = (name: string): Builtin | undefined =>
    Object.hasOwn(this.#all, name) ? this.#all[name] : undefined;
  isSpecial = (name: string): boolean => SPECIAL.has(name);

  #say(streams: ShellStreams, text: string): number {
    sinkOf(streams, 1).write(ENCODER.encode(text));
    return 0;
  }
  #complain(streams: ShellStreams, why: string): number {
    this.#shell.complain(streams, why);
    return 1;
  }

  #bracket(args: string[], streams: ShellStreams): number {
    if (args.at(-1) === ']')
      return test(args.slice(0, -1), this.#shell.state, (why) => this.#complain(streams, `[: ${why}`));
    this.#complain(streams, '[: missing ]');
    return WRONG_USE;
  }

  #printf([format, ...args]: string[], streams: ShellStreams): number {
    if (format === undefined) {
      this.#complain(streams, 'printf: Needs 1 argument');
      return 1;
    }
    const { code, text } = printed(format, args);
    this.#say(streams, text);
    return code;
  }

  #cd(args: string[], streams: ShellStreams): number {
    const { state } = this.#shell;
    const { files } = state.os;
    const wanted = args.filter((arg) => !/^-[LP]$/.test(arg))[0] ?? state.get('HOME') ?? '/';
    const path = files.resolve(wanted === '-' ? (state.get('OLDPWD') ?? '/') : wanted, state.cwd);
    if (!files.isFolder(path) || !files.mayRead(path)) {
      const why = files.get(path)
        ? 'Not a directory'
        : files.isFolder(path)
          ? 'Permission denied'
          : 'No such file or directory';
      this.#complain(streams, `cd: ${wanted}: ${why}`);
      return WRONG_USE;
    }
    state.set('OLDPWD', state.cwd);
    state.cwd = path;
    if (wanted === '-') this.#say(streams, `${path}\n`);
    return 0;
  }

  async #read(args: string[], streams: ShellStreams): Promise<number> {
    const { state } = this.#shell;
    const isRaw = args.some((arg) => /^-\w*r/.test(arg));
    const names = args.filter((arg) => !arg.startsWith('-'));
    let text = '';
    let isEnded = false;
    for (;;) {
      const line = await streams.input.line();
      if (!line) {
        isEnded = true;
        break;
      }
      text += new TextDecoder().decode(line);
      isEnded = !text.endsWith('\n');
      text = text.replace(/\n$/, '');
      if (isRaw || isEnded || !/(^|[^\\])(\\\\)*\\$/.test(text)) break;
      text = text.slice(0, -1);
    }
    const fields = fieldsOf(
      isRaw ? text : text.replace(/\\(.)/g, '$1'),
      state.get('IFS') ?? ' \t\n',
      Math.max(1, names.length),
    );
    for (const [i, name] of (names.length > 0 ? names : ['REPLY']).entries())
      state.set(name, fields[i] ?? '');
    return Number(isEnded);
  }

  #set(args: string[], streams: ShellStreams): number {
    const { state } = this.#shell;
    if (args.length === 0)
      return this.#say(
        streams,
        [...state.variables]
          .sort(([a], [b]) => (a < b ? -1 : 1))
          .map(([name, { value }]) => `${name}=${quoted(value)}\n`)
          .join(''),
      );
    let i = 0;
    for (; i < args.length && /^[-+]./.test(args[i]!) && args[i] !== '--'; i++) {
      const isOn = args[i]!.startsWith('-');
      const named = args[i] === '-o' || args[i] === '+o' ? LONG_OPTIONS[args[++i] ?? ''] : undefined;
      for (const letter of named ?? args[i]!.slice(1))
        if (isOn) state.options.add(letter);
        else state.options.delete(letter);
    }
    const isGiven = args[i] === '--' || i < args.length;
    if (isGiven) state.positional = args.slice(args[i] === '--' ? i + 1 : i);
    return 0;
  }

  #shift([count = '1']: string[], streams: ShellStreams): number {
    const { positional } = this.#shell.state;
    if (Number(count) > positional.length) return this.#complain(streams, 'shift: nothing to shift');
    positional.splice(0, Number(count));
    return 0;
  }

  #unset(args: string[]): number {
    const { functions, variables } = this.#shell.state;
    const isFunction = args[0] === '-f';
    for (const name of args.filter((arg) => !arg.startsWith('-'))) {
      if (isFunction) functions.delete(name);
      else if (variables.get(name)?.readonly) throw new ShellTrouble(`read-only: ${name}`);
      else variables.delete(name);
    }
    return 0;
  }

  #declare(args: string[], streams: ShellStreams, how: 'exported' | 'readonly'): number {
    const { state } = this.#shell;
    const given = args.filter((arg) => arg !== '-p');
    if (given.length === 0)
      return this.#say(
        streams,
        [...state.variables]
          .flatMap(([name, variable]) =>
            variable[how]
              ? [`${how === 'exported' ? 'export ' : 'readonly '}${name}=${quoted(variable.value)}\n`]
              : [],
          )
          .join(''),
      );
    for (const one of given) {
      const [, name = one, value] = /^(\w+)=([\s\S]*)$/.exec(one) ?? [];
      if (!isName(name))
        throw new ShellTrouble(`${how === 'exported' ? 'export' : 'readonly'}: ${one}: is not an identifier`);
      if (value !== undefined || state.get(name) === undefined) state.set(name, value ?? '');
      Object.assign(state.variables.get(name)!, { [how]: true });
    }
    return 0;
  }

  #local(args: string[]): number {
    const { state } = this.#shell;
    const saved = state.locals.at(-1);
    for (const one of args.filter((arg) => !arg.startsWith('-'))) {
      const [, name = one, value] = /^(\w+)=([\s\S]*)$/.exec(one) ?? [];
      if (saved && !saved.has(name)) saved.set(name, state.variables.get(name));
      state.variables.delete(name);
      state.set(name, value ?? '');
    }
    return 0;
  }

  #let(args: string[]): number {
    const { state } = this.#shell;
    let value = 0n;
    for (const one of args)
      value = calculate(one, { get: (name) => state.get(name), set: (name, text) => state.set(name, text) });
    return Number(value === 0n);
  }

  #leave(what: Leaving['what'], [given]: string[]): never {
    const { state } = this.#shell;
    const number = given === undefined ? undefined : Number(given);
    if (number !== undefined && !Number.isInteger(number))
      throw new ShellTrouble(`${what}: ${given}: bad number`);
    if (what === 'break' || what === 'continue') throw new Leaving(what, 0, number ?? 1);
    throw new Leaving(what, (((number ?? state.lastCode) % MOST_CODES) + MOST_CODES) % MOST_CODES);
  }

  async #exec(args: string[], streams: ShellStreams): Promise<number> {
    const [name, ...rest] = args;
    if (name === undefined) return 0;
    throw new Leaving('exit', await this.#shell.external(name, rest, streams));
  }

  async #source([path = '', ...args]: string[], streams: ShellStreams): Promise<number> {
    const { state } = this.#shell;
    const file = state.os.files.get(state.os.files.resolve(path, state.cwd));
    if (!file) throw new ShellTrouble(`.: ${path}: No such file or directory`);
    const before = state.positional;
    if (args.length > 0) state.positional = args;
    try {
      return await this.#shell.evaluate(new TextDecoder().decode(file.bytes), streams);
    } catch (error) {
      if (error instanceof Leaving && error.what === 'return') return error.code;
      throw error;
    } finally {
      state.positional = before;
    }
  }

  /** `sh -c LINE`, `sh FILE`, or a script that comes in. */
  async #sh(args: string[], streams: ShellStreams): Promise<number> {
    const options = args.findIndex((arg) => !/^-[a-z]+$/.test(arg));
    const flags = args.slice(0, options < 0 ? args.length : options).join('');
    const rest = options < 0 ? [] : args.slice(options);
    const withFlags = (text: string): string => {
      const set = flags.replace(/[^eux]/g, '');
      return set === '' ? text : `set -${set}\n${text}`;
    };
    if (flags.includes('c')) {
      const [line = '', name = 'sh', ...positional] = rest;
      return this.#shell.runFile(name, withFlags(line), positional, streams);
    }
    const [path, ...positional] = rest;
    if (path === undefined) {
      const pieces: string[] = [];
      for (let line = await streams.input.line(); line; line = await streams.input.line())
        pieces.push(new TextDecoder().decode(line));
      return this.#shell.runFile('sh', withFlags(pieces.join('')), [], { ...streams, input: ByteInput.of() });
    }
    const { state } = this.#shell;
    const file = state.os.files.get(state.os.files.resolve(path, state.cwd));
    if (!file) {
      this.#shell.complain(streams, `can't open ${path}: No such file or directory`);
      return WRONG_USE;
    }
    return this.#shell.runFile(path, withFlags(new TextDecoder().decode(file.bytes)), positional, streams);
  }

  #command(args: string[], streams: ShellStreams): Promise<number> | number {
    const [first, ...rest] = args;
    if (first === '-v' || first === '-V') return this.#type(rest, streams, first === '-V');
    if (first === undefined) return 0;
    return this.find(first)?.(rest, streams) ?? this.#shell.external(first, rest, streams);
  }

  #type(names: string[], streams: ShellStreams, isTold: boolean): number {
    let code = 0;
    for (const name of names) {
      const path = commandNamed(name) ? `/system/bin/${name}` : undefined;
      const isFunction = this.#shell.state.functions.has(name);
      if (isFunction || this.find(name)) {
        const what = isFunction
          ? 'a function'
          : SPECIAL.has(name)
            ? 'a special shell builtin'
            : 'a shell builtin';
        this.#say(streams, isTold ? `${name} is ${what}\n` : `${name}\n`);
      } else if (path) this.#say(streams, isTold ? `${name} is ${path}\n` : `${path}\n`);
      else {
        if (isTold) this.#say(streams, `${name} not found\n`);
        code = 1;
      }
    }
    return code;
  }

  async #wait(): Promise<number> {
    await Promise.all(this.#shell.state.jobs);
    return 0;
  }
}

const LONG_OPTIONS: Readonly<Record<string, string>> = {
  errexit: 'e',
  nounset: 'u',
  noglob: 'f',
  xtrace: 'x',
};

/** As many as there are names; the last one gets all that is left. */
function fieldsOf(text: string, separators: string, count: number): string[] {
  const fields: string[] = [];
  const isBlank = (char: string | undefined) =>
    char !== undefined && separators.includes(char) && /[ \t\n]/.test(char);
  const isOther = (char: string | undefined) =>
    char !== undefined && separators.includes(char) && !/[ \t\n]/.test(char);
  let at = 0;
  while (isBlank(text[at])) at += 1;
  while (fields.length < count - 1 && at < text.length) {
    const start = at;
    while (at < text.length && !separators.includes(text[at]!)) at += 1;
    fields.push(text.slice(start, at));
    while (isBlank(text[at])) at += 1;
    if (isOther(text[at])) {
      at += 1;
      while (isBlank(text[at])) at += 1;
    }
  }
  let end = text.length;
  while (end > at && isBlank(text[end - 1])) end -= 1;
  fields.push(text.slice(at, end));
  return fields;
}

const quoted = (value: string): string =>
  /^[\w./:@%+,-]*$/.test(value) ? value : `'${value.replaceAll("'", "'\\''")}'`;
