/** Runs a script (POSIX.1-2017, *Shell Command Language*, sections 2.7 to 2.9). */

import { Builtins } from './builtins.ts';
import { ByteInput, ByteKeeper, BytePipe, type ByteSink, dropped } from './byte-streams.ts';
import { commandNamed } from './commands.ts';
import { testCondition } from './condition.ts';
import { Expander } from './expand-words.ts';
import { withQuirks } from './imitate-quirks.ts';
import { commandsOf, SyntaxTrouble } from './parse-script.ts';
import { patternRegExp } from './patterns.ts';
import type { Call } from './shell-command.ts';
import {
  Leaving,
  type ShellRunner,
  type ShellState,
  type ShellStreams,
  ShellTrouble,
  sinkOf,
} from './shell-state.ts';
import type { AndOr, Command, Pipeline, Redirect, Script } from './syntax.ts';

const NOT_FOUND = 127;
const NOT_EXECUTABLE = 126;
const TOO_DEEP = 60;
const MOST_OUTPUT_BYTES = 64 * 2 ** 20;
const ENCODER = new TextEncoder();

export class Interpreter implements ShellRunner {
  readonly state: ShellState;
  readonly #builtins = new Builtins(this);

  constructor(state: ShellState) {
    this.state = state;
  }

  /** A whole script. @returns its exit code */
  async run(text: string, streams: ShellStreams): Promise<number> {
    try {
      return await this.evaluate(text, streams);
    } catch (error) {
      return this.codeOf(error, streams);
    }
  }

  async evaluate(text: string, streams: ShellStreams): Promise<number> {
    for (const script of commandsOf(text)) {
      await this.script(script, streams);
      if (streams.signal.aborted) break;
    }
    return this.state.lastCode;
  }

  /** What a script ends with that was left, or that could not go on. */
  codeOf(error: unknown, streams: ShellStreams): number {
    if (error instanceof Leaving) return error.code;
    if (error instanceof SyntaxTrouble || error instanceof ShellTrouble) {
      this.complain(streams, error.message);
      return error instanceof ShellTrouble ? error.code : 1;
    }
    throw error;
  }

  complain(streams: ShellStreams, why: string): void {
    const name = this.state.scriptName === 'sh' ? '/system/bin/sh' : this.state.scriptName;
    sinkOf(streams, 2).write(ENCODER.encode(`${name}: ${why}\n`));
  }

  async script({ items }: Script, streams: ShellStreams): Promise<number> {
    for (const { inBackground, list } of items) {
      if (streams.signal.aborted) return this.state.lastCode;
      if (inBackground) {
        const copy = new Interpreter(this.state.copy());
        const job = copy
          .#andOr(list, { ...streams, input: ByteInput.of() })
          .catch((error) => copy.codeOf(error, streams));
        this.state.jobs.push(job);
        this.state.lastCode = 0;
      } else await this.#andOr(list, streams);
    }
    return this.state.lastCode;
  }

  async #andOr(list: readonly AndOr[], streams: ShellStreams): Promise<number> {
    const { state } = this;
    for (const [i, { pipeline, when }] of list.entries()) {
      if ((when === 'success' && state.lastCode !== 0) || (when === 'failure' && state.lastCode === 0))
        continue;
      state.lastCode = await this.#pipeline(pipeline, streams);
      const isLast = i === list.length - 1;
      if (state.options.has('e') && state.lastCode !== 0 && isLast && !pipeline.negated && !this.#isTested)
        throw new Leaving('exit', state.lastCode);
    }
    return state.lastCode;
  }

  /** Within the test of an `if` or a loop a failure does not end the shell. */
  #isTested = false;

  async #tested(script: Script, streams: ShellStreams): Promise<number> {
    const before = this.#isTested;
    this.#isTested = true;
    try {
      return await this.script(script, streams);
    } finally {
      this.#isTested = before;
    }
  }

  async #pipeline({ commands, negated }: Pipeline, streams: ShellStreams): Promise<number> {
    const code =
      commands.length === 1
        ? await this.command(commands[0]!, streams)
        : await this.#piped(commands, streams);
    return negated ? Number(code === 0) : code;
  }

  /** All at once, each in a shell of its own; who writes to one that has ended is ended, too. */
  async #piped(commands: readonly Command[], streams: ShellStreams): Promise<number> {
    const pipes = commands.slice(1).map(() => new BytePipe());
    const codes = await Promise.all(
      commands.map(async (command, i) => {
        const from = pipes[i - 1];
        const to = pipes[i];
        const own: ShellStreams = {
          input: from ? new ByteInput(from) : streams.input,
          sinks: to ? new Map([...streams.sinks, [1, to]]) : streams.sinks,
          signal: to ? AbortSignal.any([streams.signal, to.unread]) : streams.signal,
        };
        const shell = new Interpreter(this.state.copy());
        try {
          return await shell.command(command, own);
        } catch (error) {
          return shell.codeOf(error, own);
        } finally {
          to?.end();
          from?.leave();
        }
      }),
    );
    return codes.at(-1)!;
  }

  async command(command: Command, given: ShellStreams): Promise<number> {
    if (++this.state.depth > TOO_DEEP) throw new ShellTrouble('recursion limit exceeded');
    try {
      if (command.kind === 'simple') return await this.#simple(command, given);
      const streams = await this.#redirected(command.redirects, given);
      return await this.#compound(command, streams);
    } catch (error) {
      if (!(error instanceof RedirectTrouble)) throw error;
      this.complain(given, error.message);
      return 1;
    } finally {
      this.state.depth -= 1;
    }
  }

  async #compound(command: Exclude<Command, { kind: 'simple' }>, streams: ShellStreams): Promise<number> {
    const { state } = this;
    const expander = this.expander(streams);
    switch (command.kind) {
      case 'group':
        return this.script(command.body, streams);
      case 'subshell': {
        const shell = new Interpreter(state.copy());
        return shell.script(command.body, streams).catch((error) => shell.codeOf(error, streams));
      }
      case 'if': {
        for (const { body, test } of command.clauses)
          if ((await this.#tested(test, streams)) === 0) return this.#body(body, streams);
        return command.otherwise ? this.#body(command.otherwise, streams) : 0;
      }
      case 'loop': {
        let code = 0;
        const isOver = await this.#loop(async () => {
          if (((await this.#tested(command.test, streams)) === 0) === command.until) return false;
          code = await this.#body(command.body, streams);
          return true;
        }, streams);
        return isOver ? code : 0;
      }
      case 'for': {
        const values = command.words ? await expander.fields(command.words) : [...state.positional];
        let code = 0;
        await this.#loop(async () => {
          const value = values.shift();
          if (value === undefined) return false;
          state.set(command.name, value);
          code = await this.#body(command.body, streams);
          return true;
        }, streams);
        return code;
      }
      case 'case': {
        const value = await expander.text(command.word);
        let falls = false;
        for (const { body, fallsThrough, patterns } of command.items) {
          if (!falls && !(await this.#fitsAny(value, patterns, expander))) continue;
          const code = await this.#body(body, streams);
          falls = fallsThrough;
          if (!falls) return code;
        }
        return falls ? state.lastCode : 0;
      }
      case 'function':
        state.functions.set(command.name, command.body);
        return 0;
      case 'arithmetic':
        return Number((await expander.number(command.expression)) === 0n);
      default:
        return testCondition(command.words, expander, state);
    }
  }

  async #body(body: Script, streams: ShellStreams): Promise<number> {
    this.state.lastCode = 0;
    return this.script(body, streams);
  }

  async #fitsAny(
    value: string,
    patterns: Parameters<Expander['pattern']>[0][],
    expander: Expander,
  ): Promise<boolean> {
    for (const pattern of patterns)
      if (patternRegExp(await expander.pattern(pattern)).test(value)) return true;
    return false;
  }

  /** @param turn false ends it. @returns false where `break` did */
  async #loop(turn: () => Promise<boolean>, { signal }: ShellStreams): Promise<boolean> {
    for (;;) {
      // so that a loop without an end can be left from outside
      await new Promise((resolve) => setImmediate(resolve));
      if (signal.aborted) return true;
      try {
        if (!(await turn())) return true;
      } catch (error) {
        if (!(error instanceof Leaving) || (error.what !== 'break' && error.what !== 'continue')) throw error;
        if (error.levels > 1) {
          error.levels -= 1;
          throw error;
        }
        if (error.what === 'break') return false;
      }
    }
  }

  // --- simple commands

  async #simple(command: Extract<Command, { kind: 'simple' }>, given: ShellStreams): Promise<number> {
    const { state } = this;
    const expander = this.expander(given);
    const codeBefore = state.lastCode;
    this.#substituted = undefined;
    const [name, ...args] = await expander.fields(command.words);
    const streams = await this.#redirected(command.redirects, given);
    const assigned = new Map<string, string>();
    for (const { appends, name: variable, word } of command.assignments) {
      const value = await expander.text(word);
      assigned.set(variable, appends ? (state.get(variable) ?? '') + value : value);
    }
    if (state.options.has('x')) this.#trace(assigned, name === undefined ? [] : [name, ...args], given);
    if (name === undefined) {
      for (const [variable, value] of assigned) state.set(variable, value);
      return this.#substituted ?? 0;
    }
    state.lastCode = codeBefore;
    const body = state.functions.get(name);
    if (body) return this.#withVariables(assigned, () => this.#function(body, name, args, streams));
    const builtin = this.#builtins.find(name);
    // assignments before a special one stay (section 2.14)
    if (builtin && this.#builtins.isSpecial(name)) {
      for (const [variable, value] of assigned) state.set(variable, value);
      return builtin(args, streams);
    }
    if (builtin) return this.#withVariables(assigned, () => builtin(args, streams));
    return this.external(name, args, streams, assigned);
  }

  #trace(assigned: ReadonlyMap<string, string>, words: readonly string[], streams: ShellStreams): void {
    const said = [...[...assigned].map(([name, value]) => `${name}=${value}`), ...words].join(' ');
    sinkOf(streams, 2).write(ENCODER.encode(`+ ${said}\n`));
  }

  async #withVariables(
    assigned: ReadonlyMap<string, string>,
    run: () => Promise<number> | number,
  ): Promise<number> {
    const { variables } = this.state;
    const before = [...assigned.keys()].map((name) => [name, variables.get(name)] as const);
    for (const [name, value] of assigned) this.state.set(name, value);
    try {
      return await run();
    } finally {
      for (const [name, variable] of before)
        if (variable) variables.set(name, variable);
        else variables.delete(name);
    }
  }

  async #function(body: Command, name: string, args: string[], streams: ShellStreams): Promise<number> {
    const { state } = this;
    const before = state.positional;
    state.positional = args;
    state.locals.push(new Map());
    try {
      return await this.command(body, streams);
    } catch (error) {
      if (error instanceof Leaving && error.what === 'return') return error.code;
      if (error instanceof RangeError) throw new ShellTrouble(`${name}: recursion limit exceeded`);
      throw error;
    } finally {
      state.positional = before;
      for (const [variable, value] of state.locals.pop()!)
        if (value) state.variables.set(variable, value);
        else state.variables.delete(variable);
    }
  }

  /** A command of the phone, or a script in a file. */
  async external(
    name: string,
    args: readonly string[],
    streams: ShellStreams,
    assigned: ReadonlyMap<string, string> = new Map(),
  ): Promise<number> {
    const { os } = this.state;
    const plain = name.replace(/^\/(?:system|vendor)\/(?:x?bin)\//, '');
    const command = withQuirks(os.quirks, plain, commandNamed(plain));
    const call: Call = {
      os,
      args: [...args],
      input: streams.input,
      out: (content) =>
        sinkOf(streams, 1).write(typeof content === 'string' ? ENCODER.encode(content) : content),
      err: (text) => sinkOf(streams, 2).write(ENCODER.encode(text)),
      signal: streams.signal,
      cwd: this.state.cwd,
      environment: new Map([...this.state.environment(), ...assigned]),
      path: (path) => os.files.resolve(path, this.state.cwd),
      run: ([inner = '', ...innerArgs], input = streams.input, signal = streams.signal) =>
        this.external(inner, innerArgs, { ...streams, input, signal }),
    };
    if (command) return command(call);
    if (name.includes('/')) return this.#file(name, args, streams);
    const builtin = this.#builtins.find(name);
    if (builtin) return builtin([...args], streams);
    this.complain(streams, `${name}: inaccessible or not found`);
    return NOT_FOUND;
  }

  async #file(name: string, args: readonly string[], streams: ShellStreams): Promise<number> {
    const { os } = this.state;
    const path = os.files.resolve(name, this.state.cwd);
    const file = os.files.get(path);
    if (!file) {
      const isFolder = os.files.isFolder(path);
      this.complain(
        streams,
        isFolder ? `can't execute: Is a directory` : `${name}: inaccessible or not found`,
      );
      return isFolder ? NOT_EXECUTABLE : NOT_FOUND;
    }
    if ((file.mode & 0o111) === 0 || path.startsWith('/storage')) {
      this.complain(streams, `can't execute: Permission denied`);
      return NOT_EXECUTABLE;
    }
    return this.runFile(name, new TextDecoder().decode(file.bytes), args, streams);
  }

  /** A script in a shell of its own. */
  runFile(name: string, text: string, args: readonly string[], streams: ShellStreams): Promise<number> {
    const shell = new Interpreter(this.state.copy());
    shell.state.scriptName = name;
    shell.state.positional = [...args];
    return shell.run(text, streams);
  }

  // --- what words and redirections need

  /** Exit code of the last substitution, which is that of a command without a name. */
  #substituted?: number;

  expander(streams: ShellStreams): Expander {
    return new Expander(this.state, async (script) => {
      const kept = new ByteKeeper();
      let length = 0;
      const sink: ByteSink = {
        write: (bytes) => {
          length += bytes.length;
          if (length > MOST_OUTPUT_BYTES) throw new ShellTrouble('output of a substitution is too large');
          kept.write(bytes);
        },
      };
      const shell = new Interpreter(this.state.copy());
      const own = { ...streams, sinks: new Map([...streams.sinks, [1, sink]]) };
      this.#substituted = await shell.script(script, own).catch((error) => shell.codeOf(error, own));
      return new TextDecoder().decode(kept.bytes());
    });
  }

  /** @throws RedirectTrouble */
  async #redirected(redirects: readonly Redirect[], given: ShellStreams): Promise<ShellStreams> {
    let { input } = given;
    const sinks = new Map(given.sinks);
    const expander = this.expander(given);
    for (const { fd, operator, target } of redirects) {
      const text = await expander.text(target);
      if (operator === '<<' || operator === '<<<') {
        input = ByteInput.of(ENCODER.encode(operator === '<<<' ? `${text}\n` : text));
      } else if (operator === '<' || operator === '<>') input = this.#open(text);
      else if (operator === '>&' || operator === '<&') {
        if (text === '-') sinks.set(fd, dropped);
        else {
          const other = sinks.get(Number(text));
          if (!other && operator === '>&') throw new RedirectTrouble(`>&${text}: bad file descriptor`);
          if (other) sinks.set(fd, other);
        }
      } else {
        const sink = this.#create(text, operator === '>>');
        if (fd === -1) sinks.set(1, sink).set(2, sink);
        else sinks.set(fd, sink);
      }
    }
    return { ...given, input, sinks };
  }

  #open(path: string): ByteInput {
    const { cwd, os } = this.state;
    if (path === '/dev/null') return ByteInput.of();
    const plain = os.files.resolve(path, cwd);
    const bytes = os.files.mayRead(plain) ? os.readFile(plain)?.bytes : undefined;
    if (bytes) return ByteInput.of(bytes);
    const why = os.files.isFolder(plain)
      ? 'Is a directory'
      : os.files.mayRead(plain)
        ? 'No such file or directory'
        : 'Permission denied';
    throw new RedirectTrouble(`can't open ${path}: ${why}`);
  }

  /** The file is there from now on, be nothing written. */
  #create(path: string, appends: boolean): ByteSink {
    const { cwd, os } = this.state;
    if (path === '/dev/null') return dropped;
    const plain = os.files.resolve(path, cwd);
    const trouble = appends && os.files.get(plain) ? undefined : os.files.write(plain, new Uint8Array());
    if (trouble) throw new RedirectTrouble(`can't create ${path}: ${trouble}`);
    return {
      write: (bytes) => {
        os.files.append(plain, bytes);
      },
    };
  }
}

class RedirectTrouble extends Error {}
