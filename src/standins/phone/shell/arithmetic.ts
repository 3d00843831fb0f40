/** Arithmetic of the shell (POSIX.1-2017, section 2.6.4): whole numbers of 64 bits, with C's operators. */

export class ArithmeticTrouble extends Error {}

interface ArithmeticVariables {
  get(name: string): string | undefined;
  set(name: string, value: string): void;
}

type Binary = (a: bigint, b: bigint) => bigint;

const flag = (isTrue: boolean): bigint => (isTrue ? 1n : 0n);
const wrap = (value: bigint): bigint => BigInt.asIntN(64, value);
const divided =
  (by: Binary): Binary =>
  (a, b) => {
    if (b === 0n) throw new ArithmeticTrouble('divide by zero');
    return by(a, b);
  };

/** From those that bind least. */
const LEVELS: readonly Readonly<Record<string, Binary>>[] = [
  { '|': (a, b) => a | b },
  { '^': (a, b) => a ^ b },
  { '&': (a, b) => a & b },
  { '==': (a, b) => flag(a === b), '!=': (a, b) => flag(a !== b) },
  {
    '<=': (a, b) => flag(a <= b),
    '>=': (a, b) => flag(a >= b),
    '<': (a, b) => flag(a < b),
    '>': (a, b) => flag(a > b),
  },
  { '<<': (a, b) => a << (b & 63n), '>>': (a, b) => a >> (b & 63n) },
  { '+': (a, b) => a + b, '-': (a, b) => a - b },
  { '*': (a, b) => a * b, '/': divided((a, b) => a / b), '%': divided((a, b) => a % b) },
];
const MOST_NESTED = 100;
const TOKEN =
  /\s*(0[xX][0-9a-fA-F]+|\d+#[0-9a-zA-Z]+|\d+|[A-Za-z_]\w*|<<=|>>=|\+\+|--|&&|\|\||<<|>>|[<>=!*/%+\-&|^]=|[-+*/%<>=!~&|^?:(),])/y;

/** @throws ArithmeticTrouble */
export function calculate(expression: string, variables: ArithmeticVariables): bigint {
  return new Calculator(tokensOf(expression), variables).whole();
}

function tokensOf(expression: string): string[] {
  const tokens: string[] = [];
  const text = expression.trimEnd();
  TOKEN.lastIndex = 0;
  while (TOKEN.lastIndex < text.length) {
    const at = TOKEN.lastIndex;
    const found = TOKEN.exec(text);
    if (!found) throw new ArithmeticTrouble(`${text}: unexpected '${text.slice(at).trim()}'`);
    tokens.push(found[1]!);
  }
  return tokens;
}

class Calculator {
  readonly #tokens: string[];
  readonly #variables: ArithmeticVariables;
  #at = 0;
  /** What is not chosen by `&&`, `||` or `?:` is read, and does nothing. */
  #isIdle = false;
  #depth = 0;

  constructor(tokens: string[], variables: ArithmeticVariables) {
    this.#tokens = tokens;
    this.#variables = variables;
  }

  whole(): bigint {
    if (this.#tokens.length === 0) return 0n;
    const value = this.#comma();
    if (this.#at < this.#tokens.length) throw this.#unexpected();
    return value;
  }

  #unexpected = (): ArithmeticTrouble =>
    new ArithmeticTrouble(
      `${this.#tokens.join(' ')}: unexpected '${this.#tokens[this.#at] ?? 'end of expression'}'`,
    );
  #takes(token: string): boolean {
    if (this.#tokens[this.#at] !== token) return false;
    this.#at += 1;
    return true;
  }

  #comma(): bigint {
    let value = this.#assignment();
    while (this.#takes(',')) value = this.#assignment();
    return value;
  }

  #assignment(): bigint {
    if (++this.#depth > MOST_NESTED) throw new ArithmeticTrouble('nested too deeply');
    const [name = '', operator = ''] = this.#tokens.slice(this.#at, this.#at + 2);
    const combined = /^(=|[-+*/%&|^]=|<<=|>>=)$/.test(operator) && /^[A-Za-z_]/.test(name);
    let value: bigint;
    if (combined) {
      this.#at += 2;
      const given = this.#assignment();
      const by = LEVELS.map((level) => level[operator.slice(0, -1)]).find(Boolean);
      value = by && !this.#isIdle ? by(this.#valueOf(name), given) : given;
      this.#set(name, value);
    } else value = this.#choice();
    this.#depth -= 1;
    return wrap(value);
  }

  #choice(): bigint {
    const test = this.#or();
    if (!this.#takes('?')) return test;
    const yes = this.#unless(test === 0n, () => this.#assignment());
    if (!this.#takes(':')) throw this.#unexpected();
    const no = this.#unless(test !== 0n, () => this.#assignment());
    return test !== 0n ? yes : no;
  }

  #or(): bigint {
    let value = this.#and();
    while (this.#takes('||')) {
      const other = this.#unless(value !== 0n, () => this.#and());
      value = flag(value !== 0n || other !== 0n);
    }
    return value;
  }

  #and(): bigint {
    let value = this.#binary(0);
    while (this.#takes('&&')) {
      const other = this.#unless(value === 0n, () => this.#binary(0));
      value = flag(value !== 0n && other !== 0n);
    }
    return value;
  }

  #unless(isIdle: boolean, read: () => bigint): bigint {
    const before = this.#isIdle;
    this.#isIdle ||= isIdle;
    const value = read();
    this.#isIdle = before;
    return value;
  }

  #binary(level: number): bigint {
    const operators = LEVELS[level];
    if (!operators) return this.#unary();
    let value = this.#binary(level + 1);
    for (;;) {
      const operator = this.#tokens[this.#at] ?? '';
      const by = Object.hasOwn(operators, operator) ? operators[operator] : undefined;
      if (!by) return value;
      this.#at += 1;
      const other = this.#binary(level + 1);
      value = this.#isIdle ? value : wrap(by(value, other));
    }
  }

  #unary(): bigint {
    const sign = this.#tokens[this.#at] ?? '';
    if (sign === '++' || sign === '--') {
      this.#at += 1;
      const name = this.#tokens[this.#at++] ?? '';
      const value = this.#valueOf(name) + (sign === '++' ? 1n : -1n);
      this.#set(name, value);
      return value;
    }
    if (!/^[-+!~]$/.test(sign)) return this.#primary();
    this.#at += 1;
    const value = this.#unary();
    return { '-': wrap(-value), '+': value, '!': flag(value === 0n), '~': ~value }[sign]!;
  }

  #primary(): bigint {
    if (this.#takes('(')) {
      const value = this.#comma();
      if (!this.#takes(')')) throw this.#unexpected();
      return value;
    }
    const token = this.#tokens[this.#at];
    if (token === undefined || !/^\w/.test(token)) throw this.#unexpected();
    this.#at += 1;
    if (/^\d/.test(token)) return numberOf(token);
    const value = this.#valueOf(token);
    const step = this.#takes('++') ? 1n : this.#takes('--') ? -1n : 0n;
    if (step !== 0n) this.#set(token, value + step);
    return value;
  }

  #valueOf(name: string): bigint {
    const text = this.#variables.get(name)?.trim() ?? '';
    if (text === '') return 0n;
    if (/^[-+]?(0[xX][0-9a-fA-F]+|\d+)$/.test(text))
      return text.startsWith('-') ? -numberOf(text.slice(1)) : numberOf(text.replace(/^\+/, ''));
    if (++this.#depth > MOST_NESTED) throw new ArithmeticTrouble('expression recurses on parameter');
    return new Calculator(tokensOf(text), this.#variables).whole();
  }

  #set(name: string, value: bigint): void {
    if (!/^[A-Za-z_]/.test(name)) throw this.#unexpected();
    if (!this.#isIdle) this.#variables.set(name, String(wrap(value)));
  }
}

function numberOf(token: string): bigint {
  const [, base, digits] = /^(\d+)#(\w+)$/.exec(token) ?? [];
  if (base === undefined) return BigInt(/^0\d/.test(token) ? token.replace(/^0+(?=\d)/, '') : token);
  let value = 0n;
  for (const digit of digits!) {
    const one = Number.parseInt(digit, 36);
    if (one >= Number(base)) throw new ArithmeticTrouble(`${token}: bad number`);
    value = value * BigInt(base) + BigInt(one);
  }
  return value;
}
