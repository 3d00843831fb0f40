/**
 * Members of one class in a mapping file (R8, *Mapping file format*).
 *
 *     [first:last:]type [class.]name(arguments)[:original first[:original last]] -> renamed
 *     # {"id":"…"}     about the line above it, or about the class where no member was named yet
 *
 * Lines one after another with the same first and last line of the renamed method are frames of one place, the innermost first.
 */

export interface MappedMethod {
  /** Lines of the renamed method; absent where the file tells none. */
  lines?: { first: number; last: number };
  /** The class that it was written in, where it is not this one: it was inlined or moved. */
  className?: string;
  name: string;
  /** With its argument types, as the file writes them. */
  signature: string;
  originalLines?: { first: number; last?: number };
  /** Written by the compiler: no person has seen it. */
  isSynthesized?: true;
  /** Code that several methods share: its caller knows where it was written. */
  isOutline?: true;
  /** By the outline's lines: the line of this method that it stands for. */
  outlineLines?: Readonly<Record<string, number>>;
  /** Where the exception is one of these (type descriptors), this many of the innermost frames go. */
  hiddenFrames?: { when: string[]; count: number };
}

/** One line of the file that names a method; it is read whole only where it is asked for. */
interface MemberLine {
  lines?: MappedMethod['lines'];
  read(): MappedMethod;
}

export interface ClassMembers {
  original: string;
  sourceFile?: string;
  /** Of the methods with this name after renaming, in the order of the file. */
  named(renamed: string): readonly MemberLine[];
  /** Some of its methods call code that they share with others. */
  hasOutlines: boolean;
}

const METHOD =
  /^\s+(?:(\d+):(\d+):)?(\S+) (?:([^\s(]+)\.)?([^\s(.]+)\(([^)]*)\)(?::(\d+))?(?::(\d+))? -> (\S+)\s*$/;
const RANGE = /\s+(?:(\d+):(\d+):)?\S+ [^\s(]+\(/y;
const INFO = /^\s*#\s*(\{.*\})\s*$/;

/** @param text the lines between the class's own and the next class's */
export function readMembers(original: string, text: string): ClassMembers {
  const found = new Map<string, MemberLine[]>();
  const sourceFile = sourceFileIn(text);
  return {
    original,
    ...(sourceFile && { sourceFile }),
    hasOutlines: text.includes('"com.android.tools.r8.outline'),
    named: (renamed) => {
      const before = found.get(renamed);
      const lines = before ?? findLines(original, text, renamed);
      if (!before) found.set(renamed, lines);
      return lines;
    },
  };
}

/** It stands before the first member. */
function sourceFileIn(text: string): string | undefined {
  for (const line of text.slice(0, 2000).split('\n')) {
    const info = INFO.exec(line)?.[1];
    if (!info) return undefined;
    const { fileName, id } = parsed(info) ?? {};
    if (id === 'sourceFile' && typeof fileName === 'string') return fileName;
  }
  return undefined;
}

function findLines(original: string, text: string, renamed: string): MemberLine[] {
  const found: MemberLine[] = [];
  const needle = ` -> ${renamed}`;
  for (let at = text.indexOf(needle); at >= 0; at = text.indexOf(needle, at + 1)) {
    const end = at + needle.length;
    // a longer name begins with this one
    if (end < text.length && text[end] !== '\n' && text[end] !== '\r') continue;
    const from = text.lastIndexOf('\n', at) + 1;
    RANGE.lastIndex = from;
    const [, first, last] = RANGE.exec(text) ?? [];
    // a field
    if (RANGE.lastIndex === 0) continue;
    let method: MappedMethod | undefined;
    found.push({
      ...(first && Number(last) > 0 && { lines: { first: Number(first), last: Number(last) } }),
      read: () => {
        method ??= readMethod(original, text, from, end);
        return method;
      },
    });
  }
  return found;
}

function readMethod(original: string, text: string, from: number, end: number): MappedMethod {
  const [, first, until, type, className, name = '', args, origin, to] =
    METHOD.exec(text.slice(from, end)) ?? [];
  const method: MappedMethod = {
    ...(first && Number(until) > 0 && { lines: { first: Number(first), last: Number(until) } }),
    ...(className && className !== original && { className }),
    name,
    signature: `${type} ${name}(${args})`,
    ...(origin && { originalLines: { first: Number(origin), ...(to && { last: Number(to) }) } }),
  };
  // what is said of it stands below it
  for (let at = text.indexOf('\n', end) + 1; at > 0; at = text.indexOf('\n', at) + 1) {
    const line = text.slice(at, text.indexOf('\n', at) < 0 ? text.length : text.indexOf('\n', at));
    const info = INFO.exec(line)?.[1];
    if (!info) break;
    readInfo(parsed(info) ?? {}, method);
  }
  return method;
}

function parsed(json: string): Record<string, unknown> | undefined {
  try {
    return JSON.parse(json);
  } catch {
    return undefined;
  }
}

function readInfo(info: Record<string, unknown>, method: MappedMethod): void {
  switch (info.id) {
    case 'com.android.tools.r8.synthesized':
      method.isSynthesized = true;
      break;
    case 'com.android.tools.r8.outline':
      method.isOutline = true;
      break;
    case 'com.android.tools.r8.outlineCallsite':
      if (typeof info.positions === 'object' && info.positions)
        method.outlineLines = info.positions as Record<string, number>;
      break;
    case 'com.android.tools.r8.rewriteFrame':
      readRewrite(info, method);
  }
}

function readRewrite({ actions, conditions }: Record<string, unknown>, method: MappedMethod): void {
  const named = (list: unknown, form: RegExp): string[] =>
    Array.isArray(list) ? list.flatMap((one) => form.exec(String(one))?.[1] ?? []) : [];
  const [count] = named(actions, /^removeInnerFrames\((\d+)\)$/);
  const when = named(conditions, /^throws\((L[^;]+;)\)$/);
  if (count && when.length > 0) method.hiddenFrames = { when, count: Number(count) };
}
