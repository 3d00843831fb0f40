/** Stacks with the names that people wrote (R8, *Retrace*; ProGuard, *ReTrace*). */
import type { StackFrame, Thrown } from '../../../model/stack.ts';
import type { ClassMembers, MappedMethod } from './read-members.ts';

export interface Mapping {
  /** Of a class by its name after renaming. */
  members(renamed: string): ClassMembers | undefined;
  /** The name of a class after renaming. */
  renamed(original: string): string | undefined;
}

/** An exception and its causes with their own names. A frame that may be several is given in its first reading, and says so. */
export const retraceThrown = (thrown: readonly Thrown[], mapping: Mapping): Thrown[] =>
  thrown.map((one) => {
    const exception = mapping.members(one.exception)?.original ?? one.exception;
    return { ...one, exception, frames: retraceFrames(one.frames, exception, mapping) };
  });

/** @param exception the original name of what was thrown; empty for a stack that nothing threw */
export function retraceFrames(
  frames: readonly StackFrame[],
  exception: string,
  mapping: Mapping,
): StackFrame[] {
  const found: StackFrame[] = [];
  // a shared piece of code is told by the line of the frame that called it
  let outlineLine: number | undefined;
  for (const [i, frame] of frames.entries()) {
    const members = mapping.members(frame.className);
    const hits = members ? hitsOf(members, frame, outlineLine) : [];
    if (hits.flat().some(({ isOutline }) => isOutline) && i + 1 < frames.length) {
      outlineLine = frame.line;
      continue;
    }
    const readings = readingsOf(frame, members, hits, outlineLine, mapping);
    outlineLine = undefined;
    const [first = [frame]] = readings;
    const hidden = i === 0 ? hiddenOf(hits[0], exception) : 0;
    const shown = first.slice(Math.min(hidden, first.length - 1));
    found.push(
      ...shown.map((of, place) =>
        readings.length > 1 && place === shown.length - 1
          ? { ...of, or: readings.slice(1).map((other) => formatName(other.at(-1)!)) }
          : of,
      ),
    );
  }
  return found;
}

const formatName = ({ className, method }: StackFrame): string => `${className}.${method}`;

/** Methods that the frame may stand for; those of one place together. */
function hitsOf(
  { hasOutlines, named }: ClassMembers,
  frame: StackFrame,
  outlineLine: number | undefined,
): MappedMethod[][] {
  const all = named(frame.method);
  const callsite = hasOutlines
    ? all.find(({ lines, read }) => holds(lines, frame.line) && read().outlineLines)
    : undefined;
  const moved = outlineLine === undefined ? undefined : callsite?.read().outlineLines?.[String(outlineLine)];
  const line = moved ?? frame.line;
  if (line !== undefined) {
    const inRange = all.filter((one) => holds(one.lines, line) && !(moved && one === callsite));
    if (inRange.length > 0) return togetherByLines(inRange.map(({ read }) => read()));
    const without = all.filter(({ lines }) => !lines);
    if (without.length > 0) return without.map(({ read }) => [read()]);
  }
  // without a line, each of its places could be it: only the methods that were not inlined are certain to be there
  const outermost = togetherByLines(all.map(({ read }) => read())).map((group) => group.at(-1)!);
  return outermost
    .filter((one, i) => outermost.findIndex((other) => isSameMethod(one, other)) === i)
    .map((one) => [one]);
}

const holds = (lines: MappedMethod['lines'], line: number | undefined): boolean =>
  lines !== undefined && line !== undefined && lines.first <= line && line <= lines.last;

const isSameMethod = (one: MappedMethod, other: MappedMethod): boolean =>
  one.signature === other.signature && one.className === other.className;

/** Neighbours that stand for the same lines are frames of one place. */
function togetherByLines(methods: readonly MappedMethod[]): MappedMethod[][] {
  const groups: MappedMethod[][] = [];
  for (const method of methods) {
    const before = groups.at(-1)?.at(-1)?.lines;
    const isNext = before && before.first === method.lines?.first && before.last === method.lines?.last;
    if (isNext) groups.at(-1)!.push(method);
    else groups.push([method]);
  }
  return groups;
}

function readingsOf(
  frame: StackFrame,
  members: ClassMembers | undefined,
  hits: readonly MappedMethod[][],
  outlineLine: number | undefined,
  mapping: Mapping,
): StackFrame[][] {
  if (!members) return [[frame]];
  if (hits.length === 0)
    return [[{ ...frame, className: members.original, file: members.sourceFile ?? frame.file }]];
  return hits.map((group) => {
    const seen = group.filter(({ isSynthesized }) => !isSynthesized);
    return (seen.length > 0 ? seen : group).map((method): StackFrame => {
      const className = method.className ?? members.original;
      const holder = method.className ? mapping.members(mapping.renamed(className) ?? className) : members;
      const moved = outlineLine === undefined ? undefined : method.outlineLines?.[String(outlineLine)];
      const line = lineOf(method, moved ?? frame.line);
      const { line: _, ...rest } = frame;
      return {
        ...rest,
        className,
        method: method.name,
        file: holder?.sourceFile ?? (method.className ? '' : frame.file),
        ...(line !== undefined && { line }),
      };
    });
  });
}

function lineOf({ lines, originalLines }: MappedMethod, line: number | undefined): number | undefined {
  if (line === undefined || !originalLines) return line;
  const { first, last } = originalLines;
  // one line stands for all
  if (last === undefined || last === first || !lines) return first;
  return Math.min(last, first + line - lines.first);
}

function hiddenOf(group: readonly MappedMethod[] | undefined, exception: string): number {
  const descriptor = `L${exception.replaceAll('.', '/')};`;
  return group?.find(({ hiddenFrames }) => hiddenFrames?.when.includes(descriptor))?.hiddenFrames?.count ?? 0;
}
