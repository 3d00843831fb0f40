/** What `echo` and `printf` make of their arguments (POSIX.1-2017, *printf*; `echo` as mksh has it). */

const SIMPLE: Readonly<Record<string, string>> = {
  a: '\x07',
  b: '\b',
  e: '\x1b',
  E: '\x1b',
  f: '\f',
  n: '\n',
  r: '\r',
  t: '\t',
  v: '\v',
  '\\': '\\',
};

/** @param isEcho octal digits begin with a zero, and `\c` ends all output */
function unescaped(text: string, isEcho: boolean): { text: string; ends: boolean } {
  let result = '';
  for (let i = 0; i < text.length; i++) {
    if (text[i] !== '\\') {
      result += text[i];
      continue;
    }
    const rest = text.slice(i + 1);
    const octal = (isEcho ? /^0([0-7]{0,3})/ : /^0?([0-7]{1,3})/).exec(rest);
    const code = /^(?:x([0-9a-f]{1,2})|u([0-9a-f]{1,4}))/i.exec(rest);
    if (rest[0] === 'c' && isEcho) return { text: result, ends: true };
    if (octal) {
      result += String.fromCodePoint(Number.parseInt(octal[1] || '0', 8) & 0xff);
      i += octal[0].length;
    } else if (code) {
      result += String.fromCodePoint(Number.parseInt((code[1] ?? code[2])!, 16));
      i += code[0].length;
    } else if (rest[0] !== undefined && SIMPLE[rest[0]] !== undefined) {
      result += SIMPLE[rest[0]];
      i += 1;
    } else result += '\\';
  }
  return { text: result, ends: false };
}

/** `echo [-neE] …`: backslashes mean something unless `-E` is given. */
export function echoed(args: readonly string[]): string {
  let [isQuiet, isRaw] = [false, false];
  let first = 0;
  for (; /^-[neE]+$/.test(args[first] ?? ''); first++)
    for (const letter of args[first]!.slice(1)) {
      if (letter === 'n') isQuiet = true;
      else isRaw = letter === 'E';
    }
  const text = args.slice(first).join(' ');
  if (isRaw) return text + (isQuiet ? '' : '\n');
  const { ends, text: result } = unescaped(text, true);
  return result + (ends || isQuiet ? '' : '\n');
}

const CONVERSION = /%(?:%|([-+ 0#]*)(\*|\d+)?(?:\.(\*|\d+))?([diouxXcsbeEfgG]))/g;
const MOST_ROUNDS = 100_000;

/** The format is used again as long as there are arguments left. */
export function printed(format: string, args: readonly string[]): { text: string; code: number } {
  let text = '';
  let code = 0;
  let at = 0;
  const plain = unescaped(format, false).text;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const before = at;
    let ends = false;
    text += plain.replace(
      CONVERSION,
      (whole, flags: string = '', width?: string, precision?: string, kind?: string) => {
        if (ends) return '';
        if (whole === '%%') return '%';
        const size = width === '*' ? Number(args[at++] ?? 0) : Number(width ?? 0);
        const exact =
          precision === '*'
            ? Number(args[at++] ?? 0)
            : precision === undefined
              ? undefined
              : Number(precision);
        const given = args[at++] ?? '';
        if (kind === 'b') {
          const inner = unescaped(given, true);
          ends = inner.ends;
          return padded(inner.text, size, flags);
        }
        if (kind === 's') return padded(exact === undefined ? given : given.slice(0, exact), size, flags);
        if (kind === 'c') return padded([...given][0] ?? '', size, flags);
        const value = numberIn(given);
        if (Number.isNaN(value)) code = 1;
        return padded(numeral(Number.isNaN(value) ? 0 : value, kind!, exact, flags), size, flags, true);
      },
    );
    if (ends || at >= args.length || at === before) break;
  }
  return { text, code };
}

function numberIn(text: string): number {
  if (/^["']/.test(text)) return text.codePointAt(1) ?? 0;
  if (text === '') return 0;
  return /^[-+]?0[0-7]+$/.test(text) ? Number.parseInt(text, 8) : Number(text);
}

function numeral(value: number, kind: string, precision: number | undefined, flags: string): string {
  const whole = Math.trunc(value);
  const sign = value < 0 ? '-' : flags.includes('+') ? '+' : flags.includes(' ') ? ' ' : '';
  const digits = (text: string) => sign + text.padStart(precision ?? 0, '0');
  const unsigned = BigInt.asUintN(64, BigInt(Number.isFinite(whole) ? whole : 0));
  switch (kind) {
    case 'd':
    case 'i':
      return digits(String(Math.abs(whole)));
    case 'u':
      return unsigned.toString().padStart(precision ?? 0, '0');
    case 'o':
      return (flags.includes('#') ? '0' : '') + unsigned.toString(8).padStart(precision ?? 0, '0');
    case 'x':
      return (flags.includes('#') ? '0x' : '') + unsigned.toString(16).padStart(precision ?? 0, '0');
    case 'X':
      return (
        (flags.includes('#') ? '0X' : '') +
        unsigned
          .toString(16)
          .toUpperCase()
          .padStart(precision ?? 0, '0')
      );
    case 'f':
      return sign + Math.abs(value).toFixed(precision ?? 6);
    case 'e':
    case 'E': {
      const text = Math.abs(value)
        .toExponential(precision ?? 6)
        .replace(/e([+-])(\d)$/, 'e$10$2');
      return sign + (kind === 'E' ? text.toUpperCase() : text);
    }
    default:
      return sign + String(Number(Math.abs(value).toPrecision(precision || 6)));
  }
}

function padded(text: string, width: number, flags: string, isNumber = false): string {
  if (flags.includes('-') || width < 0) return text.padEnd(Math.abs(width));
  if (!isNumber || !flags.includes('0')) return text.padStart(width);
  const [, sign = '', digits = text] = /^([-+ ]?)(.*)$/.exec(text) ?? [];
  return sign + digits.padStart(width - sign.length, '0');
}
