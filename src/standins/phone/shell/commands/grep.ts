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
    let match: RegExp;
    try {
      const source = flags.has('F')
        ? pattern.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
        : pattern
            .split('\n')
            .map((one) => posixSource(one, flags.has('E')))
            .join('|');
      const bounded = flags.has('x') ? `^(?:${source})$` : flags.has('w') ? `\\b(?:${source})\\b` : source;
      match = new RegExp(bounded, flags.has('i') ? 'giu' : 'gu');
    } catch {
      call.err(`${tool}: bad REGEX '${pattern}'\n`);
      return 2;
    }
    const paths = flags.has('r') ? deepFiles(call, rest.length === 0 ? ['.'] : rest) : rest;
    const limit = Number(values.get('m') ?? Number.POSITIVE_INFINITY);
    const isNamed = !flags.has('h') && (flags.has('H') || paths.length > 1 || flags.has('r'));
    const [before, after] = ['B', 'A'].map((letter) =>
      Number(values.get(letter) ?? values.get('C') ?? 0),
    ) as [number, number];
    let hasFound = false;
    const search = (name: string) => {
      let count = 0;
      const earlier: string[] = [];
      let owed = 0;
      let last = 0;
      return (line: string, number: number): boolean => {
        match.lastIndex = 0;
        const isFound = match.test(line) !== flags.has('v');
        const say = (text: string, at: number, mark: string) => {
          const place = (isNamed ? `${name}${mark}` : '') + (flags.has('n') ? `${at}${mark}` : '');
          call.out(`${place}${text}\n`);
        };
        if (isFound) {
          count += 1;
          hasFound = true;
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
    };
    if (paths.length === 0) {
      await eachLine(
        call,
        search('-'),
        flags.has('c') ? (count) => call.out(`${count}\n`) : undefined,
        match,
        flags,
        limit,
      );
      return Number(!hasFound);
    }
    let code = 0;
    for (const one of await contents(call, tool, paths)) {
      if (!one) {
        code = 2;
        continue;
      }
      const all = linesOf(textOf(one.bytes));
      const take = search(one.name);
      let count = 0;
      for (const [i, line] of all.entries()) {
        match.lastIndex = 0;
        if (match.test(line) !== flags.has('v')) count += 1;
        if (!take(line, i + 1)) break;
      }
      if (flags.has('c')) call.out(`${isNamed ? `${one.name}:` : ''}${count}\n`);
      else if (flags.has('l') && count > 0) call.out(`${one.name}\n`);
    }
    return hasFound ? code : code || 1;
  };

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
