/** What came of one drill on the screen in front: on one screenful, what held, what was lost, and how that is known. */
import type { Callback } from '../areas/lifecycle/runs/callbacks.ts';
import type { RunClass } from '../areas/lifecycle/runs/class-of-run.ts';
import { formatInvalid } from '../areas/lifecycle/runs/invalid-words.ts';
import { isStateDrill } from '../model/drill.ts';
import type { DrillRunFact } from '../model/fact.ts';
import type { Finding } from '../model/finding.ts';
import type { Outcome } from '../model/outcome.ts';
import { printableText } from './escape.ts';
import { outcomeMark } from './outcome-words.ts';
import type { TextStyle } from './text-style.ts';
import { wrap } from './wrap.ts';

export interface HereSeen {
  drill: string;
  /** What the drill does, in a few words. */
  says: string;
  came: RunClass;
  run: DrillRunFact;
  findings: readonly Finding[];
  callbacks: readonly Callback[];
  /** Files of pictures. */
  pictures: readonly string[];
  tookMs: number;
}

interface ViewOptions {
  style: TextStyle;
  widthColumns: number;
}

const LABEL = 11;

export function hereView(seen: HereSeen, { style, widthColumns }: ViewOptions): string {
  const outcome = outcomeOf(seen);
  const line = (label: string, text: string): string[] => {
    const [first = '', ...rest] = wrap(text, widthColumns, LABEL + 2, LABEL + 2);
    return [`  ${style.faint(label.padEnd(LABEL))}${first.trimStart()}`, ...rest];
  };
  const details = [
    ...processLine(seen.run),
    ...logLine(seen.callbacks),
    ...otherLines(seen.run),
    ...seen.pictures.map((file): [string, string] => ['picture', file]),
  ];
  return [
    `${style.outcome(outcome, outcomeMark[outcome])} ${style.strong(seen.drill)}  ${formatCame(seen)}  ${style.faint(`(${seen.says}; ${(seen.tookMs / 1000).toFixed(1)} s)`)}`,
    ...seen.findings.flatMap(({ words }) => [
      ...wrap(
        `${style.outcome('failed', outcomeMark.failed)} ${printableText(words.what)}`,
        widthColumns,
        4,
        6,
      ),
      ...line('', `${printableText(words.measured)}`),
    ]),
    ...[...new Set(seen.findings.map(({ words }) => words.remedy))].flatMap((remedy) =>
      line('to do', remedy),
    ),
    ...details.flatMap(([label, text]) => line(label, text)),
    '',
  ].join('\n');
}

/** How a run from here counts. */
export function outcomeOf({ came, findings, run }: Pick<HereSeen, 'came' | 'findings' | 'run'>): Outcome {
  if (came.kind === 'invalid' || isUntimed(run)) return 'untested';
  return came.kind !== 'restored' || findings.length > 0 ? 'failed' : 'passed';
}

/** Where a task was only brought to the front, the phone tells no times. */
const isUntimed = ({ drill, startsMs = [] }: DrillRunFact): boolean =>
  drill === 'cold-start' && startsMs.length === 0;

function formatStarts(startsMs: readonly number[]): string {
  const sorted = [...startsMs].sort((a, b) => a - b);
  return `${sorted[sorted.length >> 1]} ms to the first frame, the median of ${sorted.length} cold starts; the slowest ${sorted.at(-1)} ms`;
}

const PLACES = {
  first: 'lost: the app began again at its first screen',
  elsewhere: 'lost: another screen is there',
  outside: 'lost: the app is no longer in front',
};

function formatCame({ came, run }: Pick<HereSeen, 'came' | 'run'>): string {
  switch (came.kind) {
    case 'restored':
      if (isUntimed(run)) return 'proves nothing: the phone told no time of any start';
      if (run.drill === 'cold-start') return formatStarts(run.startsMs!);
      return isStateDrill(run.drill) ? 'everything is as it was' : 'done';
    case 'partly-restored':
      return `the screen came back, ${came.lost.length} ${came.lost.length === 1 ? 'thing' : 'things'} on it did not`;
    case 'restarted':
      return PLACES[came.at];
    case 'crashed':
      return run.notResponding ? 'the app did not respond any more' : 'the app crashed';
    case 'invalid':
      return formatInvalid(came.why, run).replace(/^Invalid: /, 'proves nothing: ');
    default:
      return came satisfies never;
  }
}

// Clock ticks a second that the kernel counts in for user space (proc(5), USER_HZ).
// iOS tells a time of day in its place, by the app's own word
const LATEST_BOOT_TICKS = 1e11;
const TICKS_PER_S = 100;

function processLine({ ended, process: { after, away, before } }: DrillRunFact): [string, string][] {
  const say = (of: typeof before): string =>
    of
      ? `${of.pid}${of.startTicks === undefined || of.startTicks > LATEST_BOOT_TICKS ? '' : `, started ${(of.startTicks / TICKS_PER_S).toFixed(1)} s after the phone`}`
      : 'none';
  if (before === undefined) return [];
  const isSame = before && after && before.pid === after.pid && before.startTicks === after.startTicks;
  if (isSame) return [['process', `the same before and after: ${say(before)}`]];
  const meanwhile =
    away === undefined
      ? []
      : [`meanwhile ${away ? say(away) : `gone${ended ? ` (log: ${printableText(ended)})` : ''}`}`];
  return [['process', [`before ${say(before)}`, ...meanwhile, `after ${say(after)}`].join('; ')]];
}

/** Callbacks in order, what is told of one activity in a row together. */
function logLine(callbacks: readonly Callback[]): [string, string][] {
  const groups: { activity: string; names: string[] }[] = [];
  for (const { activity, name } of callbacks) {
    const last = groups.at(-1);
    if (last?.activity === activity) last.names.push(name);
    else groups.push({ activity, names: [name] });
  }
  const text = groups.map(({ activity, names }) => `${activity} ${names.join(' ')}`).join(' · ');
  return text ? [['log', printableText(text)]] : [];
}

function otherLines({ backChain, servicesAfter, volatile }: DrillRunFact): [string, string][] {
  const short = (activity: string) => activity.split(/[./]/).at(-1) || 'out of the app';
  return [
    ...(backChain
      ? [['back', backChain.map(({ activity }) => short(activity)).join(' › ')] as [string, string]]
      : []),
    ...(servicesAfter
      ? [
          ['services', servicesAfter.length > 0 ? servicesAfter.map(short).join(', ') : 'none runs on'] as [
            string,
            string,
          ],
        ]
      : []),
    ...(volatile.length > 0
      ? [['moves', `${volatile.join(', ')} changed by itself, and is not counted`] as [string, string]]
      : []),
  ];
}
