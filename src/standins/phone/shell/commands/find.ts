/** `find`. */
import { BLOCK_BYTES, told, within } from '../file-access.ts';
import { patternSource } from '../patterns.ts';
import { posixSource } from '../posix-regex.ts';
import type { Call, ShellCommand } from '../shell-command.ts';

type PathTest = (path: string) => boolean | Promise<boolean>;

const lastName = (path: string) => path.replace(/\/$/, '').split('/').pop()!;

/** What `find` can ask of a path, by the term and what follows it. */
const FIND_TESTS: Record<string, (call: Call, value: string) => PathTest> = {
  '-name': (_, value) => {
    const source = wholePattern(value, 'u');
    return (path) => source.test(lastName(path));
  },
  '-iname': (_, value) => {
    const source = wholePattern(value, 'iu');
    return (path) => source.test(lastName(path));
  },
  '-path': (_, value) => {
    const source = wholePattern(value, 'u');
    return (path) => source.test(path);
  },
  '-regex': (_, value) => {
    const source = new RegExp(`^${posixSource(value, false)}$`, 'u');
    return (path) => source.test(path);
  },
  '-type': (call, kind) => (path) => call.os.files.isFolder(call.path(path)) === (kind === 'd'),
  '-size': (call, value) => {
    const [, sign = '', count = '0', unit = ''] = /^([-+]?)(\d+)([ckM]?)$/.exec(value) ?? [];
    const size = Number(count) * ({ c: 1, k: 1024, M: 2 ** 20, '': 512 }[unit] ?? 512);
    return (path) => {
      const bytes = call.os.readFile(call.path(path))?.bytes.length ?? BLOCK_BYTES;
      return sign === '+' ? bytes > size : sign === '-' ? bytes < size : bytes === size;
    };
  },
  '-newer': (call, value) => {
    const than = call.os.readFile(call.path(value))?.at ?? 0;
    return (path) => (call.os.readFile(call.path(path))?.at ?? 0) > than;
  },
};

const wholePattern = (value: string, flags: string): RegExp =>
  new RegExp(`^${patternSource([{ text: value, quoted: false }])}$`, flags);

interface FindTerms {
  tests: PathTest[];
  depths: { least: number; most: number };
  /** Commands that are given all paths at once. */
  all: { words: string[]; paths: string[] }[];
  /** It does something with what it finds, and so does not print it. */
  acts: boolean;
}

/** @returns the term that it does not know, as text */
function readFindTerms(call: Call, terms: readonly string[]): FindTerms | string {
  const read: FindTerms = {
    tests: [],
    depths: { least: 0, most: Number.POSITIVE_INFINITY },
    all: [],
    acts: false,
  };
  let negated = false;
  const must = (test: PathTest) => {
    const isOpposite = negated;
    read.tests.push(isOpposite ? async (path) => !(await test(path)) : test);
    negated = false;
  };
  for (let i = 0; i < terms.length; i++) {
    const term = terms[i]!;
    const value = () => terms[++i] ?? '';
    const test = Object.hasOwn(FIND_TESTS, term) ? FIND_TESTS[term] : undefined;
    if (test) must(test(call, value()));
    else if (term === '!' || term === '-not') negated = !negated;
    else if (term === '-maxdepth') read.depths.most = Number(value());
    else if (term === '-mindepth') read.depths.least = Number(value());
    else if (term === '-print') {
      read.acts = true;
      must((path) => {
        call.out(`${path}\n`);
        return true;
      });
    } else if (term === '-delete') must((path) => deleteFound(call, path));
    else if (term === '-exec') {
      read.acts = true;
      const end = terms.findIndex((one, at) => at > i && (one === ';' || one === '+'));
      const words = terms.slice(i + 1, end < 0 ? undefined : end);
      i = end < 0 ? terms.length : end;
      if (terms[end] === '+') {
        const kept = { words: words.filter((word) => word !== '{}'), paths: [] as string[] };
        read.all.push(kept);
        must((path) => kept.paths.push(path) > 0);
      } else must(async (path) => (await call.run(words.map((word) => word.replaceAll('{}', path)))) === 0);
    } else return term;
  }
  return read;
}

/** The phone's tool prints what it deletes. */
function deleteFound(call: Call, path: string): boolean {
  const { files } = call.os;
  const at = call.path(path);
  return told(call, 'find', path, files.isFolder(at) ? files.removeFolder(at) : files.remove(at));
}

/** `find FOLDER… [-name P] [-iname P] [-type f|d] [-maxdepth N] [-mindepth N] [-size N] [-newer F] [-print] [-delete] [-exec … ;|+]` */
export const find: ShellCommand = async (call) => {
  const begin = call.args.findIndex((arg) => arg.startsWith('-') || arg === '!' || arg === '(');
  const roots = begin < 0 ? call.args : call.args.slice(0, begin);
  const terms = begin < 0 ? [] : call.args.slice(begin);
  const read = readFindTerms(call, terms);
  if (typeof read === 'string') {
    call.err(`find: bad arg '${read}'\n`);
    return 1;
  }
  const { acts, all, depths, tests } = read;
  let code = 0;
  for (const root of roots.length === 0 ? ['.'] : roots) {
    const base = call.path(root);
    if (!call.os.files.exists(base)) {
      call.err(`find: '${root}': No such file or directory\n`);
      code = 1;
      continue;
    }
    const found = [...within(call, base)];
    // what is deleted must be empty by then
    if (terms.includes('-delete')) found.reverse();
    for (const { depth, path } of found) {
      if (call.signal.aborted || depth < depths.least || depth > depths.most) continue;
      const shown = root.replace(/(.)\/$/, '$1') + path.slice(base.length);
      let holds = true;
      for (const test of tests) {
        holds = await test(shown);
        if (!holds) break;
      }
      if (holds && !acts) call.out(`${shown}\n`);
    }
  }
  for (const { paths, words } of all)
    if (paths.length > 0) code = (await call.run([...words, ...paths])) || code;
  return code;
};
