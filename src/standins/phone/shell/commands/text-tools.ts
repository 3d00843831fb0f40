/** Small tools that people put behind a pipe. */
import { createHash } from 'node:crypto';
import { ByteInput } from '../byte-streams.ts';
import {
  type Call,
  contents,
  letters,
  lines,
  linesOf,
  type NamedText,
  readAll,
  type ShellCommand,
  textOf,
} from '../shell-command.ts';

const LARGEST_INPUT_BYTES = 64 * 2 ** 20;
const LONGEST_SEQUENCE = 1_000_000;

/** One text after another; 1 where a file cannot be read. */
const overTexts =
  (
    tool: string,
    withValue: string,
    run: (call: Call, texts: NamedText[], of: ReturnType<typeof letters>) => number | Promise<number>,
  ): ShellCommand =>
  async (call) => {
    const of = letters(call.args, withValue);
    const found = await contents(call, tool, of.rest);
    const code = await run(
      call,
      found.filter((one) => one !== undefined),
      of,
    );
    return code || Number(found.includes(undefined));
  };
const everyLine = (texts: readonly NamedText[]): string[] =>
  texts.flatMap(({ bytes }) => linesOf(textOf(bytes)));

/** Goes on as pieces come, so that it can stand behind what never ends. */
export const cat: ShellCommand = async (call) => {
  const { flags, rest } = letters(call.args);
  const unknown = [...flags].find((letter) => !'etuv'.includes(letter));
  if (unknown !== undefined) {
    call.err(`cat: Unknown option '${unknown}' (see "cat --help")\n`);
    return 1;
  }
  let code = 0;
  for (const path of rest.length === 0 ? ['-'] : rest) {
    if (path === '-') {
      for await (const piece of call.input) call.out(piece);
      continue;
    }
    const [read] = await contents(call, 'cat', [path]);
    if (read) call.out(read.bytes);
    else code = 1;
  }
  return code;
};

export const head: ShellCommand = async (call) => {
  const short = call.args.find((arg) => /^-\d+$/.test(arg))?.slice(1);
  const { rest, values } = letters(
    call.args.filter((arg) => !/^-\d+$/.test(arg)),
    'nc',
  );
  const bytes = values.get('c');
  const count = Number(short ?? values.get('n') ?? 10);
  if (rest.length === 0 && bytes === undefined && count >= 0) {
    // no more is read than is needed
    for (let i = 0; i < count; i++) {
      const line = await call.input.line();
      if (!line) break;
      call.out(line);
    }
    return 0;
  }
  const found = await contents(call, 'head', rest);
  for (const [i, one] of found.entries()) {
    if (!one) continue;
    if (found.length > 1) call.out(`${i > 0 ? '\n' : ''}==> ${one.name} <==\n`);
    if (bytes !== undefined) call.out(one.bytes.subarray(0, Number(bytes)));
    else call.out(lines(...linesOf(textOf(one.bytes)).slice(0, count < 0 ? count : count)));
  }
  return Number(found.includes(undefined));
};

export const tail: ShellCommand = async (call) => {
  const short = call.args.find((arg) => /^-\d+$/.test(arg))?.slice(1);
  const { rest, values } = letters(
    call.args.filter((arg) => !/^-\d+$/.test(arg)),
    'nc',
  );
  const found = await contents(call, 'tail', rest);
  for (const [i, one] of found.entries()) {
    if (!one) continue;
    if (found.length > 1) call.out(`${i > 0 ? '\n' : ''}==> ${one.name} <==\n`);
    const bytes = values.get('c');
    const count = short ?? values.get('n') ?? '10';
    const all = linesOf(textOf(one.bytes));
    if (bytes !== undefined)
      call.out(
        bytes.startsWith('+')
          ? one.bytes.subarray(Number(bytes) - 1)
          : one.bytes.subarray(Math.max(0, one.bytes.length - Math.abs(Number(bytes)))),
      );
    else
      call.out(
        lines(
          ...(count.startsWith('+')
            ? all.slice(Math.max(0, Number(count) - 1))
            : Number(count) === 0
              ? []
              : all.slice(-Math.abs(Number(count)))),
        ),
      );
  }
  return Number(found.includes(undefined));
};

export const wc = overTexts('wc', '', (call, texts, { flags, rest }) => {
  const wanted = ['l', 'w', 'c', 'm'].filter((letter) => flags.has(letter));
  const shown = wanted.length === 0 ? ['l', 'w', 'c'] : wanted;
  const counted = texts.map(({ bytes, name }) => {
    const text = textOf(bytes);
    const counts: Record<string, number> = {
      l: text.split('\n').length - 1,
      w: text.split(/\s+/).filter(Boolean).length,
      c: bytes.length,
      m: [...text].length,
    };
    return { name, numbers: shown.map((letter) => counts[letter]!) };
  });
  if (counted.length > 1)
    counted.push({
      name: 'total',
      numbers: shown.map((_, i) => counted.reduce((sum, { numbers }) => sum + numbers[i]!, 0)),
    });
  const isBare = rest.length === 0;
  // a single number stands by itself
  const width = shown.length > 1 || counted.length > 1 ? 7 : 0;
  call.out(
    lines(
      ...counted.map(
        ({ name, numbers }) =>
          `${numbers.map((one) => String(one).padStart(isBare && shown.length === 1 ? 0 : width)).join(' ')}${isBare ? '' : ` ${name}`}`,
      ),
    ),
  );
  return 0;
});

export const cut = overTexts('cut', 'dfcb', (call, texts, { flags, values }) => {
  const list = values.get('f') ?? values.get('c') ?? values.get('b');
  if (list === undefined) {
    call.err('cut: Needs -fcb\n');
    return 1;
  }
  const ranges = list.split(',').map((one) => {
    const [, from, dash, to] = /^(\d*)(-?)(\d*)$/.exec(one) ?? [];
    return [Number(from || 1), dash ? Number(to || Number.POSITIVE_INFINITY) : Number(from)] as const;
  });
  const isIn = (number: number) => ranges.some(([from, to]) => number >= from && number <= to);
  const separator = values.get('d') ?? '\t';
  const pick = (line: string): string | undefined => {
    if (!values.has('f')) return [...line].filter((_, i) => isIn(i + 1)).join('');
    const fields = line.split(separator);
    if (fields.length === 1) return flags.has('s') ? undefined : line;
    return fields.filter((_, i) => isIn(i + 1)).join(separator);
  };
  call.out(lines(...everyLine(texts).flatMap((line) => pick(line) ?? [])));
  return 0;
});

export const sort = overTexts('sort', 'kto', (call, texts, { flags, values }) => {
  const separator = values.get('t');
  const [from = '', to = ''] = (values.get('k') ?? '').split(',');
  const isNumeric = flags.has('n') || /n/.test(from);
  const keyOf = (line: string): string => {
    if (from === '') return line;
    const fields = separator === undefined ? line.trimStart().split(/\s+/) : line.split(separator);
    return fields
      .slice(Number.parseInt(from, 10) - 1, to === '' ? undefined : Number.parseInt(to, 10))
      .join(separator ?? ' ');
  };
  const number = (text: string) => Number.parseFloat(/^\s*[-+]?[\d.]+/.exec(text)?.[0] ?? '0');
  const bytewise = (a: string, b: string) => Buffer.compare(Buffer.from(a), Buffer.from(b));
  const fold = (text: string) => (flags.has('f') ? text.toUpperCase() : text);
  const byKey = (a: string, b: string) =>
    isNumeric ? number(keyOf(a)) - number(keyOf(b)) : bytewise(fold(keyOf(a)), fold(keyOf(b)));
  const isReversed = flags.has('r') || /r/.test(from);
  const sorted = everyLine(texts).sort(
    (a, b) => (byKey(a, b) || (flags.has('s') ? 0 : bytewise(a, b))) * (isReversed ? -1 : 1),
  );
  call.out(
    lines(
      ...(flags.has('u') ? sorted.filter((line, i) => i === 0 || byKey(line, sorted[i - 1]!) !== 0) : sorted),
    ),
  );
  return 0;
});

export const uniq = overTexts('uniq', 'fsw', (call, texts, { flags }) => {
  const groups: { line: string; count: number }[] = [];
  const same = (a: string, b: string) => (flags.has('i') ? a.toLowerCase() === b.toLowerCase() : a === b);
  for (const line of everyLine(texts)) {
    const last = groups.at(-1);
    if (last && same(last.line, line)) last.count += 1;
    else groups.push({ line, count: 1 });
  }
  const shown = groups.filter(
    ({ count }) => !(flags.has('d') && count === 1) && !(flags.has('u') && count > 1),
  );
  call.out(
    lines(
      ...shown.map(({ count, line }) => (flags.has('c') ? `${String(count).padStart(7)} ${line}` : line)),
    ),
  );
  return 0;
});

export const tr: ShellCommand = async (call) => {
  const { flags, rest } = letters(call.args);
  const [from = '', to = ''] = rest.map(charactersOf);
  const text = textOf(await readAll(call.input, LARGEST_INPUT_BYTES));
  const isIn = (char: string) => from.includes(char) !== (flags.has('c') || flags.has('C'));
  const changed = [...text].flatMap((char) => {
    if (!isIn(char)) return [char];
    if (flags.has('d')) return [];
    if (to.length === 0) return [char];
    return [to[Math.min(from.indexOf(char) < 0 ? to.length : from.indexOf(char), to.length - 1)]!];
  });
  const squeezed = to.length > 0 ? to : from;
  const isSqueezed = (char: string) => (rest.length > 1 ? squeezed.includes(char) : isIn(char));
  call.out(
    (flags.has('s')
      ? changed.filter((char, i) => char !== changed[i - 1] || !isSqueezed(char))
      : changed
    ).join(''),
  );
  return 0;
};

function charactersOf(list: string): string[] {
  const classes: Record<string, string> = {
    upper: 'A-Z',
    lower: 'a-z',
    digit: '0-9',
    alpha: 'A-Za-z',
    alnum: '0-9A-Za-z',
    space: '\t\n\v\f\r ',
    blank: ' \t',
  };
  const plain = list
    .replace(/\[:(\w+):\]/g, (whole, name: string) => classes[name] ?? whole)
    .replace(
      /\\([nrt\\]|[0-7]{1,3})/g,
      (_, code: string) =>
        ({ n: '\n', r: '\r', t: '\t', '\\': '\\' })[code] ?? String.fromCharCode(Number.parseInt(code, 8)),
    )
    .replace(/^\[(.+)\]$/, '$1');
  const characters: string[] = [];
  const all = [...plain];
  for (let i = 0; i < all.length; i++) {
    if (all[i + 1] === '-' && all[i + 2] !== undefined) {
      for (let code = all[i]!.codePointAt(0)!; code <= all[i + 2]!.codePointAt(0)!; code++)
        characters.push(String.fromCodePoint(code));
      i += 2;
    } else characters.push(all[i]!);
  }
  return characters;
}

export const tee: ShellCommand = async (call) => {
  const { flags, rest } = letters(call.args);
  let code = 0;
  for (const name of rest) {
    const trouble = flags.has('a') ? undefined : call.os.files.write(call.path(name), new Uint8Array());
    if (trouble) {
      call.err(`tee: ${name}: ${trouble}\n`);
      code = 1;
    }
  }
  for await (const piece of call.input) {
    call.out(piece);
    for (const name of rest) call.os.files.append(call.path(name), piece);
  }
  return code;
};

export const tac = overTexts('tac', '', (call, texts) => {
  for (const { bytes } of texts) call.out(lines(...linesOf(textOf(bytes)).reverse()));
  return 0;
});
export const rev = overTexts('rev', '', (call, texts) => {
  call.out(lines(...everyLine(texts).map((line) => [...line].reverse().join(''))));
  return 0;
});
export const nl = overTexts('nl', 'bwsnv', (call, texts, { values }) => {
  let number = 0;
  call.out(
    lines(
      ...everyLine(texts).map((line) =>
        line === '' && values.get('b') !== 'a' ? '       ' : `${String(++number).padStart(6)}\t${line}`,
      ),
    ),
  );
  return 0;
});
export const paste = overTexts('paste', 'd', (call, texts, { flags, values }) => {
  const separator = values.get('d') ?? '\t';
  const columns = texts.map(({ bytes }) => linesOf(textOf(bytes)));
  if (flags.has('s')) call.out(lines(...columns.map((column) => column.join(separator))));
  else {
    const rows = Math.max(...columns.map(({ length }) => length), 0);
    call.out(
      lines(
        ...Array.from({ length: rows }, (_, i) => columns.map((column) => column[i] ?? '').join(separator)),
      ),
    );
  }
  return 0;
});

export const seq: ShellCommand = ({ args, err, out }) => {
  const { rest, values } = letters(args, 's');
  const numbers = rest.map(Number);
  const [first, step, last] =
    numbers.length === 1
      ? [1, 1, numbers[0]!]
      : numbers.length === 2
        ? [numbers[0]!, 1, numbers[1]!]
        : numbers;
  if ([first, step, last].some((one) => one === undefined || Number.isNaN(one)) || step === 0) {
    err(`seq: not a number\n`);
    return 1;
  }
  const all: string[] = [];
  for (let i = 0; i < LONGEST_SEQUENCE; i++) {
    const value = first! + i * step!;
    if (step! > 0 ? value > last! : value < last!) break;
    all.push(String(Number(value.toPrecision(12))));
  }
  if (all.length > 0) out(`${all.join(values.get('s') ?? '\n')}\n`);
  return 0;
};

/** `xargs [-0] [-n N] [-I R] [-r] COMMAND …` */
export const xargs: ShellCommand = async (call) => {
  const begin = commandStart(call.args, 'nIPsL');
  const { flags, values } = letters(call.args.slice(0, begin), 'nIPsL');
  const command = call.args.slice(begin);
  const words = command.length === 0 ? ['echo'] : command;
  const text = textOf(await readAll(call.input, LARGEST_INPUT_BYTES));
  const replaced = values.get('I');
  const given = call.args.slice(0, begin).includes('-0')
    ? text.split('\0').filter(Boolean)
    : replaced !== undefined
      ? linesOf(text)
          .map((line) => line.trim())
          .filter(Boolean)
      : shellWords(text);
  if (given.length === 0 && (flags.has('r') || replaced !== undefined)) return 0;
  const count = replaced === undefined ? Number(values.get('n') ?? Math.max(1, given.length)) : 1;
  let code = 0;
  for (let i = 0; i < Math.max(1, given.length) && !call.signal.aborted; i += count) {
    const some = given.slice(i, i + count);
    const run =
      replaced === undefined
        ? [...words, ...some]
        : words.map((word) => word.replaceAll(replaced, some[0] ?? ''));
    const ended = await call.run(run, ByteInput.of());
    if (ended !== 0) code = ended === 127 ? 127 : 123;
  }
  return code;
};

/** Where the command begins behind its options. */
function commandStart(args: readonly string[], withValue: string): number {
  let i = 0;
  for (; i < args.length && args[i]!.startsWith('-'); i++)
    if (args[i]!.length === 2 && withValue.includes(args[i]![1]!)) i += 1;
  return i;
}

const shellWords = (text: string): string[] =>
  [...text.matchAll(/(?:"[^"\n]*"|'[^'\n]*'|\\[\s\S]|[^\s"'\\])+/g)].map(([word]) =>
    word.replace(/"([^"\n]*)"|'([^'\n]*)'|\\([\s\S])/g, (_, a, b, c) => a ?? b ?? c),
  );

const digesting = (tool: string, algorithm: string): ShellCommand =>
  overTexts(tool, '', (call, texts, { flags }) => {
    call.out(
      lines(
        ...texts.map(
          ({ bytes, name }) =>
            createHash(algorithm).update(bytes).digest('hex') + (flags.has('b') ? '' : `  ${name}`),
        ),
      ),
    );
    return 0;
  });
export const md5sum = digesting('md5sum', 'md5');
export const sha1sum = digesting('sha1sum', 'sha1');
export const sha256sum = digesting('sha256sum', 'sha256');
export const sha512sum = digesting('sha512sum', 'sha512');

export const base64 = overTexts('base64', 'w', (call, texts, { flags, values }) => {
  for (const { bytes } of texts) {
    if (flags.has('d')) call.out(Uint8Array.from(Buffer.from(textOf(bytes), 'base64')));
    else {
      const width = Number(values.get('w') ?? 76);
      const text = Buffer.from(bytes).toString('base64');
      call.out(width === 0 ? text : lines(...(text.match(new RegExp(`.{1,${width}}`, 'g')) ?? [])));
    }
  }
  return 0;
});

export const xxd = overTexts('xxd', 'clgos', (call, texts, { flags, values }) => {
  for (const { bytes } of texts) {
    const shown = bytes.subarray(0, Number(values.get('l') ?? bytes.length));
    if (flags.has('p'))
      call.out(
        lines(
          ...(Buffer.from(shown)
            .toString('hex')
            .match(/.{1,60}/g) ?? []),
        ),
      );
    else
      for (let at = 0; at < shown.length; at += 16) {
        const row = Buffer.from(shown.subarray(at, at + 16));
        const hex = row
          .toString('hex')
          .replace(/(.{4})(?=.)/g, '$1 ')
          .padEnd(39);
        call.out(
          `${at.toString(16).padStart(8, '0')}: ${hex}  ${row.toString('latin1').replace(/[^\x20-\x7e]/g, '.')}\n`,
        );
      }
  }
  return 0;
});

export const strings = overTexts('strings', 'n', (call, texts, { values }) => {
  const least = Number(values.get('n') ?? 4);
  for (const { bytes } of texts)
    call.out(
      lines(
        ...(Buffer.from(bytes)
          .toString('latin1')
          .match(new RegExp(`[\\x20-\\x7e\\t]{${least},}`, 'g')) ?? []),
      ),
    );
  return 0;
});

export const cmp: ShellCommand = async (call) => {
  const { flags, rest } = letters(call.args);
  const [one, other] = await contents(call, 'cmp', rest.slice(0, 2));
  if (!one || !other) return 2;
  const at = one.bytes.findIndex((byte, i) => byte !== other.bytes[i]);
  if (at < 0 && one.bytes.length === other.bytes.length) return 0;
  if (!flags.has('s')) {
    const before = textOf(one.bytes.subarray(0, Math.max(0, at))).split('\n').length;
    if (at >= 0 && at < other.bytes.length)
      call.out(`${rest[0]} ${rest[1]} differ: char ${at + 1}, line ${before}\n`);
    else call.err(`cmp: EOF on ${one.bytes.length < other.bytes.length ? rest[0] : rest[1]}\n`);
  }
  return 1;
};
