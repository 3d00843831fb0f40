/** `sed`. */
import { posixSource } from '../posix-regex.ts';
import { contents, letters, lines, linesOf, type ShellCommand, textOf } from '../shell-command.ts';

const ENCODER = new TextEncoder();

interface SedCommand {
  from?: SedAddress;
  to?: SedAddress;
  isNegated: boolean;
  does: string;
  find?: RegExp;
  by?: string;
  prints?: boolean;
  nth?: number;
  text?: string;
  isActive?: boolean;
}
type SedAddress = number | '$' | RegExp;

/** `sed [-n] [-E] [-i] [-e] SCRIPT`: `s`, `p`, `d`, `q`, `a`, `i`, `c`, `y`, `=`, with addresses. */
export const sed: ShellCommand = async (call) => {
  const { flags, rest, values } = letters(
    call.args.map((arg) => (/^-i./.test(arg) ? '-i' : arg)),
    'ef',
  );
  const script = values.get('e') ?? rest.shift() ?? '';
  let commands: SedCommand[];
  try {
    commands = parseSed(script, flags.has('E') || flags.has('r'));
  } catch (error) {
    call.err(`sed: bad pattern '${script}': ${(error as Error).message}\n`);
    return 1;
  }
  const found = await contents(call, 'sed', rest);
  for (const one of found) {
    if (!one) continue;
    const result = runSed(commands, linesOf(textOf(one.bytes)), flags.has('n'));
    if (flags.has('i') && one.name !== '-')
      call.os.files.write(call.path(one.name), ENCODER.encode(lines(...result)));
    else call.out(lines(...result));
  }
  return Number(found.includes(undefined));
};

function parseSed(script: string, extended: boolean): SedCommand[] {
  const commands: SedCommand[] = [];
  let at = 0;
  const address = (): SedAddress | undefined => {
    const number = /^\d+/.exec(script.slice(at))?.[0];
    if (number) at += number.length;
    if (number) return Number(number);
    if (script[at] === '$') return ++at && '$';
    if (script[at] !== '/') return undefined;
    const source = delimited('/');
    at += 1;
    return new RegExp(posixSource(source, extended), 'u');
  };
  const delimited = (mark: string): string => {
    let text = '';
    for (at += 1; script[at] !== mark; at++) {
      if (script[at] === undefined) throw new SyntaxError('unterminated');
      if (script[at] === '\\' && script[at + 1] === mark) at += 1;
      else if (script[at] === '\\') text += script[at++];
      text += script[at];
    }
    return text;
  };
  while (at < script.length) {
    while (/[\s;]/.test(script[at] ?? '')) at += 1;
    if (at >= script.length) break;
    const from = address();
    let to: SedAddress | undefined;
    if (from !== undefined && script[at] === ',') {
      at += 1;
      to = address();
    }
    while (script[at] === ' ') at += 1;
    const isNegated = script[at] === '!';
    if (isNegated) at += 1;
    const does = script[at++] ?? '';
    const command: SedCommand = {
      ...(from !== undefined && { from }),
      ...(to !== undefined && { to }),
      isNegated,
      does,
    };
    if (does === 's' || does === 'y') {
      const mark = script[at]!;
      const source = delimited(mark);
      const by = delimited(mark);
      at += 1;
      const ends = /^[gpiI\d]*/.exec(script.slice(at))![0];
      at += ends.length;
      if (does === 's')
        command.find = new RegExp(posixSource(source, extended), `${/[iI]/.test(ends) ? 'i' : ''}gu`);
      else command.text = source;
      Object.assign(command, {
        by,
        prints: ends.includes('p'),
        nth: ends.includes('g') ? 0 : Number(/\d+/.exec(ends)?.[0] ?? 1),
      });
    } else if (/[aic]/.test(does)) {
      at += /^[ \t]*(\\\n)?/.exec(script.slice(at))![0].length;
      const end = script.indexOf('\n', at);
      command.text = script.slice(at, end < 0 ? undefined : end);
      at = end < 0 ? script.length : end;
    } else if (!/[pdq=]/.test(does)) throw new SyntaxError(`unknown command ${does}`);
    commands.push(command);
  }
  return commands;
}

function runSed(commands: readonly SedCommand[], all: readonly string[], isQuiet: boolean): string[] {
  const result: string[] = [];
  for (const command of commands) command.isActive = false;
  for (const [i, original] of all.entries()) {
    let line: string | undefined = original;
    const later: string[] = [];
    let isOver = false;
    for (const command of commands) {
      if (line === undefined || !isAddressed(command, line, i + 1, all.length)) continue;
      if (command.does === 'p') result.push(line);
      else if (command.does === '=') result.push(String(i + 1));
      else if (command.does === 'd') line = undefined;
      else if (command.does === 'q') isOver = true;
      else if (command.does === 'a') later.push(command.text!);
      else if (command.does === 'i') result.push(command.text!);
      else if (command.does === 'c') line = command.text;
      else if (command.does === 'y')
        line = [...line].map((char) => command.by![command.text!.indexOf(char)] ?? char).join('');
      else {
        const changed = substituted(line, command);
        if (changed !== line && command.prints) result.push(changed);
        line = changed;
      }
      if (isOver) break;
    }
    if (line !== undefined && !isQuiet) result.push(line);
    result.push(...later);
    if (isOver) break;
  }
  return result;
}

function isAddressed(command: SedCommand, line: string, number: number, last: number): boolean {
  const fits = (one: SedAddress): boolean =>
    one === '$' ? number === last : typeof one === 'number' ? one === number : one.test(line);
  let holds: boolean;
  if (command.from === undefined) holds = true;
  else if (command.to === undefined) holds = fits(command.from);
  else if (command.isActive) {
    holds = true;
    command.isActive = !(typeof command.to === 'number' ? number >= command.to : fits(command.to));
  } else {
    holds = fits(command.from);
    command.isActive = holds && !(typeof command.to === 'number' && number >= command.to);
  }
  return holds !== command.isNegated;
}

function substituted(line: string, { by = '', find, nth = 1 }: SedCommand): string {
  let count = 0;
  return line.replace(find!, (...found) => {
    count += 1;
    const [whole] = found as [string];
    if (nth > 0 && count !== nth) return whole;
    return by.replace(/\\([1-9])|\\([nt])|\\(.)|&/g, (part, group?: string, sign?: string, char?: string) => {
      if (part === '&') return whole;
      if (group) return String(found[Number(group)] ?? '');
      return sign ? { n: '\n', t: '\t' }[sign]! : char!;
    });
  });
}
