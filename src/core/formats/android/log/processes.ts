import type { LogLine } from './log-line.ts';

/**
 * Which process a number stood for, and when: numbers are given again, and a log may begin in the middle of a run. Moments are told
 * in the log's own words, since a bug report has its buffers one after the other.
 */
export class Processes {
  #named = new Map<number, { moment: string; name: string; isStart: boolean }[]>();
  #isSorted = true;

  /** @param isStart it began here; otherwise it was there before */
  name(pid: number, name: string, moment: string, isStart: boolean): void {
    const list = this.#named.get(pid);
    if (list) list.push({ moment, name, isStart });
    else this.#named.set(pid, [{ moment, name, isStart }]);
    this.#isSorted = false;
  }

  /** The name of the process that had this number at that moment; nothing where the log does not tell. */
  at(pid: number, moment: string): string | undefined {
    this.#sort();
    const list = this.#named.get(pid) ?? [];
    const before = list.findLast((one) => one.moment <= moment);
    if (before) return before.name;
    const next = list[0];
    return next && !next.isStart ? next.name : undefined;
  }

  has(isApp: (name: string) => boolean): boolean {
    return [...this.#named.values()].flat().some(({ name }) => isApp(name));
  }

  #sort(): void {
    if (this.#isSorted) return;
    for (const list of this.#named.values())
      list.sort((a, b) => (a.moment < b.moment ? -1 : Number(a.moment > b.moment)));
    this.#isSorted = true;
  }
}

/** By tag: what tells a process's name, and whether it began there. */
export const NAMING = new Map<string, [message: RegExp, isStart: boolean][]>([
  [
    'ActivityManager',
    [
      [/^Start proc (?<pid>\d+):(?<name>[\w.:]+)\//, true],
      // 4.4 to 5.0
      [/^Start proc (?<name>[\w.:]+) for .*: pid=(?<pid>\d+)/, true],
      [/^Process (?<name>[\w.:]+) \(pid (?<pid>\d+)\) has died/, false],
    ],
  ],
  ['am_proc_start', [[/^\[\d+,(?<pid>\d+),\d+,(?<name>[\w.:]+),/, true]]],
  ['am_proc_bound', [[/^\[\d+,(?<pid>\d+),(?<name>[\w.:]+)/, false]]],
  ['am_proc_died', [[/^\[\d+,(?<pid>\d+),(?<name>[\w.:]+)/, false]]],
  ['am_kill', [[/^\[\d+,(?<pid>\d+),(?<name>[\w.:]+),/, false]]],
  ['am_crash', [[/^\[(?<pid>\d+),\d+,(?<name>[\w.:]+),/, false]]],
  ['am_anr', [[/^\[\d+,(?<pid>\d+),(?<name>[\w.:]+),/, false]]],
  ['AndroidRuntime', [[/^Process: (?<name>[\w.:]+), PID: (?<pid>\d+)/, false]]],
]);

/** What a line says of which process a number stands for. */
export function namedProcess({
  message,
  tag,
}: LogLine): { pid: number; name: string; isStart: boolean } | undefined {
  for (const [form, isStart] of NAMING.get(tag) ?? []) {
    const { name, pid } = form.exec(message)?.groups ?? {};
    if (name && pid) return { pid: Number(pid), name, isStart };
  }
  return undefined;
}
