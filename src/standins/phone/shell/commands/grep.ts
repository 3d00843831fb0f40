/** `grep`, `egrep` and `fgrep`. */
import { posixSource } from '../posix-regex.ts';
import { type Call, contents, letters, linesOf, type ShellCommand, textOf } from '../shell-command.ts';

const grepping =
  (tool: string, always = ''): ShellCommand =>
  async (call) => {
    const { flags, rest, values } = letters(call.args, 'emABC');
    for (const letter of always) flags.add(letter);
    const pattern = values.get('e') ?? rest.shift();
    if (pattern === undefined) {
      call.err(`${tool}: no REGEX\n`);
      return 2;
    }
    const match = expression(pattern, flags);
    if (!match) {
      call.err(`${tool}: bad REGEX '${pattern}'\n`);
      return 2;
    }
    const paths = flags.has('r') ? deepFiles(call, rest.length === 0 ? ['.'] : rest) : rest;
    const limit = Number(values.get('m') ?? Number.POSITIVE_INFINITY);
    const isNamed = !flags.has('h') && (flags.has('H') || paths.length > 1 || flags.has('r'));
    const [before, after] = ['B', 'A'].map((letter) =>
      Number(values.get(letter) ?? values.get('C') ?? 0),
    ) as [number, number];
    const search: Search = { call, match, flags, limit, before, after, isNamed, hasFound: false };
    if (paths.length === 0) {
      await eachLine(
        call,
        searchIn('-', search),
        flags.has('c') ? (count) => call.out(`${count}\n`) : undefined,
        match,
        flags,
        limit,
      );
      return Number(!search.hasFound);
    }
    let code = 0;
    for (const one of await contents(call, tool, paths)) {
      if (!one) {
        code = 2;
        continue;
      }
      const all = linesOf(textOf(one.bytes));
      const take = searchIn(one.name, search);
      let count = 0;
      for (const [i, line] of all.entries()) {
        match.lastIndex = 0;
        if (match.test(line) !== flags.has('v')) count += 1;
        if (!take(line, i + 1)) break;
      }
      if (flags.has('c')) call.out(`${isNamed ? `${one.name}:` : ''}${count}\n`);
      else if (flags.has('l') && count > 0) call.out(`${one.name}\n`);
    }
    return search.hasFound ? code : code || 1;
  };

interface Search {
  call: Call;
  match: RegExp;
  flags: ReadonlySet<string>;
  limit: number;
  /** Lines that are printed around one that is found. */
  before: number;
  after: number;
  isNamed: boolean;
  hasFound: boolean;
}

/** @returns what takes the lines of one file; it tells whether more are wanted */
function searchIn(name: string, search: Search): (line: string, number: number) => boolean {
  const { after, before, call, flags, isNamed, limit, match } = search;
  let count = 0;
  const earlier: string[] = [];
  let owed = 0;
  let last = 0;
  const say = (text: string, at: number, mark: string) => {
    const place = (isNamed ? `${name}${mark}` : '') + (flags.has('n') ? `${at}${mark}` : '');
    call.out(`${place}${text}\n`);
  };
  return (line, number) => {
    match.lastIndex = 0;
    if (match.test(line) !== flags.has('v')) {
      count += 1;
      search.hasFound = true;
      if (flags.has('q') || flags.has('l') || flags.has('c'))
        return count < limit && !flags.has('q') && !flags.has('l');
      if (flags.has('o')) for (const [part] of line.matchAll(new RegExp(match))) say(part, number, ':');
      else {
        const context = earlier.slice(-before);
        if ((before > 0 || after > 0) && last > 0 && number - context.length > last + 1) call.out('--\n');
        if (before > 0)
          for (const [i, text] of context.entries()) say(text, number - context.length + i, '-');
        say(line, number, ':');
        last = number;
        earlier.length = 0;
        owed = after;
      }
    } else if (owed > 0) {
      owed -= 1;
      say(line, number, '-');
      last = number;
    } else if (before > 0) earlier.push(line);
    return count < limit || owed > 0;
  };
}

/** @returns undefined where the pattern is none */
function expression(pattern: string, flags: ReadonlySet<string>): RegExp | undefined {
  try {
    const source = flags.has('F')
      ? pattern.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
      : pattern
          .split('\n')
          .map((one) => posixSource(one, flags.has('E')))
          .join('|');
    const bounded = flags.has('x') ? `^(?:${source})$` : flags.has('w') ? `\\b(?:${source})\\b` : source;
    return new RegExp(bounded, flags.has('i') ? 'giu' : 'gu');
  } catch {
    return undefined;
  }
}

/** Line by line as they come; ends as soon as nothing more is wanted. */
async function eachLine(
  call: Call,
  take: (line: string, number: number) => boolean,
  onCount: ((count: number) => void) | undefined,
  match: RegExp,
  flags: ReadonlySet<string>,
  limit: number,
): Promise<void> {
  let number = 0;
  let count = 0;
  for (let bytes = await call.input.line(); bytes; bytes = await call.input.line()) {
    const line = textOf(bytes).replace(/\n$/, '');
    match.lastIndex = 0;
    if (match.test(line) !== flags.has('v')) count += 1;
    if (!take(line, ++number) || count >= limit) break;
  }
  onCount?.(count);
}

const deepFiles = ({ os, path }: Call, roots: readonly string[]): string[] =>
  roots.flatMap(function inside(this: void, root: string): string[] {
    const names = os.files.list(path(root));
    return names ? names.flatMap((name) => inside(`${root.replace(/\/$/, '')}/${name}`)) : [root];
  });

export const grep = grepping('grep');
export const egrep = grepping('egrep', 'E');
export const fgrep = grepping('fgrep', 'F');
