/** `test`, `[` and `[[` (POSIX.1-2017, *test*; of `[[` what mksh adds). */
import type { PhoneOs } from '../os/phone-os.ts';
import { ArithmeticTrouble, calculate } from './arithmetic.ts';
import type { Expander } from './expand-words.ts';
import { patternRegExp } from './patterns.ts';
import { type ShellState, ShellTrouble } from './shell-state.ts';
import type { Word } from './syntax.ts';

const WRONG = 2;

const NUMBERS: Readonly<Record<string, (a: bigint, b: bigint) => boolean>> = {
  '-eq': (a, b) => a === b,
  '-ne': (a, b) => a !== b,
  '-lt': (a, b) => a < b,
  '-le': (a, b) => a <= b,
  '-gt': (a, b) => a > b,
  '-ge': (a, b) => a >= b,
};
const TEXTS: Readonly<Record<string, (a: string, b: string) => boolean>> = {
  '=': (a, b) => a === b,
  '==': (a, b) => a === b,
  '!=': (a, b) => a !== b,
  '<': (a, b) => a < b,
  '>': (a, b) => a > b,
};

type Looks = (os: PhoneOs, path: string) => boolean;
const size = (os: PhoneOs, path: string): number => os.readFile(path)?.bytes.length ?? 0;
const FILES: Readonly<Record<string, Looks>> = {
  '-e': (os, path) => os.readFile(path) !== undefined || os.files.isFolder(path),
  '-f': (os, path) => os.readFile(path) !== undefined,
  '-d': (os, path) => os.files.isFolder(path),
  '-s': (os, path) => size(os, path) > 0 || os.files.isFolder(path),
  '-r': (os, path) => FILES['-e']!(os, path) && os.files.mayRead(path),
  '-w': (os, path) => FILES['-e']!(os, path) && os.files.mayWrite(path),
  '-x': (os, path) =>
    os.files.isFolder(path) ||
    ((os.files.get(path)?.mode ?? 0) & 0o111) !== 0 ||
    path.startsWith('/system/bin/'),
  '-h': () => false,
  '-L': () => false,
  '-p': () => false,
  '-b': () => false,
  '-c': (_, path) => path === '/dev/null',
};

/** @returns 0 where it holds, 1 where it does not, 2 where it cannot be read */
export function test(args: readonly string[], state: ShellState, complain: (why: string) => void): number {
  const reading = new TestReading(args, state);
  try {
    const holds = reading.or();
    if (!reading.isAtEnd()) throw new ShellTrouble(`${reading.next()}: unexpected operator/operand`);
    return Number(!holds);
  } catch (error) {
    if (!(error instanceof ShellTrouble)) throw error;
    complain(error.message);
    return WRONG;
  }
}

class TestReading {
  readonly #args: readonly string[];
  readonly #state: ShellState;
  #at = 0;

  constructor(args: readonly string[], state: ShellState) {
    this.#args = args;
    this.#state = state;
  }

  isAtEnd = (): boolean => this.#at >= this.#args.length;
  next = (): string => this.#args[this.#at] ?? '';

  or(): boolean {
    let holds = this.#and();
    while (this.next() === '-o' && !this.isAtEnd()) {
      this.#at += 1;
      holds = this.#and() || holds;
    }
    return holds;
  }

  #and(): boolean {
    let holds = this.#not();
    while (this.next() === '-a' && !this.isAtEnd()) {
      this.#at += 1;
      holds = this.#not() && holds;
    }
    return holds;
  }

  #not(): boolean {
    if (this.next() === '!' && this.#args.length - this.#at > 1) {
      this.#at += 1;
      return !this.#not();
    }
    return this.#primary();
  }

  #primary(): boolean {
    const [first, operator, second] = this.#args.slice(this.#at, this.#at + 3);
    if (first === undefined) return false;
    if (second !== undefined && isBinary(operator!)) {
      this.#at += 3;
      return compare(first, operator!, second, this.#state);
    }
    if (first === '(' && this.#args.length - this.#at > 2) {
      this.#at += 1;
      const holds = this.or();
      if (this.next() !== ')') throw new ShellTrouble('missing )');
      this.#at += 1;
      return holds;
    }
    if (operator !== undefined && /^-[a-zA-Z]$/.test(first)) {
      this.#at += 2;
      return looksAt(first, operator, this.#state);
    }
    this.#at += 1;
    return first !== '';
  }
}

const isBinary = (operator: string): boolean =>
  Object.hasOwn(NUMBERS, operator) || Object.hasOwn(TEXTS, operator) || /^-(nt|ot|ef)$/.test(operator);

function compare(first: string, operator: string, second: string, state: ShellState): boolean {
  const byNumber = NUMBERS[operator];
  if (byNumber) return byNumber(numberIn(first, state), numberIn(second, state));
  const byText = TEXTS[operator];
  if (byText) return byText(first, second);
  const { os, cwd } = state;
  const [one, other] = [first, second].map((path) => os.files.resolve(path, cwd));
  if (operator === '-ef') return one === other;
  const [a, b] = [one, other].map((path) => os.readFile(path!)?.at ?? 0);
  return operator === '-nt' ? a! > b! : a! < b!;
}

/** An expression, as the phone's shell takes it. */
function numberIn(text: string, state: ShellState): bigint {
  try {
    return calculate(text, { get: (name) => state.get(name), set: (name, value) => state.set(name, value) });
  } catch (error) {
    if (error instanceof ArithmeticTrouble) throw new ShellTrouble(`${text}: bad number`);
    throw error;
  }
}

function looksAt(operator: string, operand: string, { cwd, os, variables }: ShellState): boolean {
  if (operator === '-n') return operand !== '';
  if (operator === '-z') return operand === '';
  if (operator === '-v') return variables.has(operand);
  if (operator === '-t') return false;
  const look = FILES[operator];
  if (!look) throw new ShellTrouble(`${operator}: unknown operator/operand`);
  return look(os, os.files.resolve(operand, cwd));
}

/** `[[ … ]]`: words are not split, and what stands to the right of `=` is a pattern. */
export async function testCondition(
  words: readonly Word[],
  expander: Expander,
  state: ShellState,
): Promise<number> {
  let at = 0;
  const sign = (): string | undefined => {
    const [part, ...rest] = words[at] ?? [];
    return part?.kind === 'text' && !part.quoted && rest.length === 0 ? part.text : undefined;
  };
  const takes = (text: string): boolean => sign() === text && ++at > 0;
  const primary = async (): Promise<boolean> => {
    if (takes('!')) return !(await primary());
    if (takes('(')) {
      const holds = await or();
      if (!takes(')')) throw new ShellTrouble("syntax error: missing ')'");
      return holds;
    }
    const operator = sign();
    if (operator && /^-[a-zA-Z]$/.test(operator) && words[at + 1]) {
      at += 2;
      return looksAt(operator, await expander.text(words[at - 1]!), state);
    }
    const first = await expander.text(words[at++] ?? []);
    const binary = sign();
    if (!binary || !(isBinary(binary) || binary === '=~')) return first !== '';
    at += 1;
    const second = words[at++] ?? [];
    if (binary === '=~') return new RegExp(await expander.text(second), 'u').test(first);
    if (!/^(=|==|!=)$/.test(binary)) return compare(first, binary, await expander.text(second), state);
    const fits = patternRegExp(await expander.pattern(second)).test(first);
    return fits === (binary !== '!=');
  };
  const and = async (): Promise<boolean> => {
    let holds = await primary();
    while (takes('&&')) holds = (await primary()) && holds;
    return holds;
  };
  const or = async (): Promise<boolean> => {
    let holds = await and();
    while (takes('||')) holds = (await and()) || holds;
    return holds;
  };
  return Number(!(await or()));
}
