/** `expr`. */
import { posixSource } from '../posix-regex.ts';
import type { ShellCommand } from '../shell-command.ts';

export const expr: ShellCommand = ({ args, err, out }) => {
  const reading = new ExpressionReading(args);
  const value = reading.or();
  if (value === undefined || !reading.isAtEnd()) {
    err('expr: syntax error\n');
    return 2;
  }
  out(`${value}\n`);
  return Number(value === '' || value === '0');
};

/** POSIX.1-2017, *expr*. */
class ExpressionReading {
  readonly #args: readonly string[];
  #at = 0;
  constructor(args: readonly string[]) {
    this.#args = args;
  }
  isAtEnd = (): boolean => this.#at >= this.#args.length;

  #chain(
    operators: readonly string[],
    part: () => string | undefined,
    join: (a: string, operator: string, b: string) => string,
  ): string | undefined {
    let value = part();
    while (value !== undefined && operators.includes(this.#args[this.#at] ?? '')) {
      const operator = this.#args[this.#at++]!;
      const other = part();
      if (other === undefined) return undefined;
      value = join(value, operator, other);
    }
    return value;
  }
  or = (): string | undefined => this.#chain(['|'], this.#and, (a, _, b) => (isTrue(a) ? a : b));
  #and = (): string | undefined =>
    this.#chain(['&'], this.#compared, (a, _, b) => (isTrue(a) && isTrue(b) ? a : '0'));
  #compared = (): string | undefined =>
    this.#chain(['=', '==', '!=', '<', '<=', '>', '>='], this.#sum, (a, operator, b) => {
      const order = isNumber(a) && isNumber(b) ? Number(a) - Number(b) : a < b ? -1 : Number(a > b);
      return String(
        Number(
          {
            '=': order === 0,
            '==': order === 0,
            '!=': order !== 0,
            '<': order < 0,
            '<=': order <= 0,
            '>': order > 0,
            '>=': order >= 0,
          }[operator],
        ),
      );
    });
  #sum = (): string | undefined =>
    this.#chain(['+', '-'], this.#product, (a, operator, b) =>
      String(operator === '+' ? BigInt(a) + BigInt(b) : BigInt(a) - BigInt(b)),
    );
  #product = (): string | undefined =>
    this.#chain(['*', '/', '%'], this.#match, (a, operator, b) =>
      String(
        {
          '*': () => BigInt(a) * BigInt(b),
          '/': () => BigInt(a) / BigInt(b),
          '%': () => BigInt(a) % BigInt(b),
        }[operator]!(),
      ),
    );
  #match = (): string | undefined =>
    this.#chain([':'], this.#primary, (a, _, b) => {
      const found = new RegExp(`^(?:${posixSource(b, false)})`, 'u').exec(a);
      return found && found.length > 1 ? (found[1] ?? '') : String(found ? [...found[0]].length : 0);
    });
  #primary = (): string | undefined => {
    if (this.#args[this.#at] !== '(') return this.#args[this.#at++];
    this.#at += 1;
    const value = this.or();
    return this.#args[this.#at++] === ')' ? value : undefined;
  };
}
const isTrue = (value: string): boolean => value !== '' && value !== '0';
const isNumber = (value: string): boolean => /^-?\d+$/.test(value);
