/** One run of a drill, from its trace: what was there before, what came of it, what the log told. */
import type { Platform } from '../../../model/candidate.ts';
import type { BackStep, BorrowedSettingFact, DrillRunFact } from '../../../model/fact.ts';
import type { DrillLine, DrillLineOf, SeenLine, TraceLine } from '../../../model/trace.ts';
import { placeNodes, type UiNode } from '../../../model/ui-tree.ts';
import type { TraceEvidence, TraceObserver } from '../../observer.ts';
import { lifecycleTag } from '../runs/callbacks.ts';
import { crashInLog, ENDED, hangInLog } from '../runs/crash-in-log.ts';
import { compareStates } from '../state/compare-states.ts';
import { SAME_SCREEN, screenOutline, screenState, similarity, titleIn } from '../state/screen-state.ts';

export const observeDrillRun = {
  id: 'drill-run',
  reads: 'trace',
  *observe(trace) {
    const lines = trace.lines as (TraceLine | DrillLine)[];
    const began = lines.find(isKind('drill.began'));
    if (!began) return;
    const { deviceId } = began;
    const { digest: evidence, platform } = trace;
    for (const { at, now, setting, was } of lines.filter(isKind('setting.put-back')))
      yield {
        kind: 'borrowed-setting',
        platform,
        evidence,
        deviceId,
        at,
        setting,
        was,
        now,
      } satisfies BorrowedSettingFact;
    // what only puts settings back is no run; links and messages are told one by one
    if (!['put-back', 'links', 'push'].includes(began.drill)) yield runOf(trace, began, lines);
  },
} satisfies TraceObserver;

const isKind =
  <K extends DrillLine['kind']>(kind: K) =>
  (line: TraceLine | DrillLine): line is DrillLineOf<K> =>
    line.kind === kind;

function runOf(
  { digest, platform }: TraceEvidence,
  began: DrillLineOf<'drill.began'>,
  lines: readonly (TraceLine | DrillLine)[],
): DrillRunFact {
  const seen = lines.filter(isKind('screen.seen')) as SeenLine[];
  const at = (step: string) => seen.find((line) => line.step === step);
  const log = lines.filter(isKind('log.line'));
  const processes = lines.filter(isKind('process.seen'));
  const process: DrillRunFact['process'] = {};
  for (const step of ['before', 'away', 'after'] as const) {
    const line = processes.findLast((one) => one.step === step);
    if (line) process[step] = line.pid === undefined ? null : { pid: line.pid, startTicks: line.startTicks };
  }
  const stopped = lines.find(isKind('drill.stopped'));
  const states = statesOf(lines);
  const commands = lines.filter(isKind('command.ran')).map(({ code, line, said }) => ({ line, code, said }));
  const services = (step: string) =>
    lines.filter(isKind('services.seen')).findLast((line) => line.step === step)?.services;
  const starts = lines.filter(isKind('start.timed')).map(({ totalMs }) => totalMs);
  const [away, before] = [at('away'), at('before')];
  return {
    kind: 'drill-run',
    platform,
    evidence: digest,
    cell: began.cell,
    drill: began.drill,
    at: began.at,
    deviceId: began.deviceId,
    sdk: began.sdk,
    ...(stopped && { stopped: { step: stopped.step, why: stopped.why } }),
    process,
    ...(Object.keys(states).length > 0 && { states }),
    landed: landingOf(at('first'), at('reached'), at('before'), at('after'), began.appId),
    window: windowOf(at('before')),
    ...changesOf(at('before'), at('before-again'), at('after')),
    backChain: chainOf(seen, began.appId, platform),
    lifecycle: countLifecycle(whileAway(lines), began.appId),
    ended: process.before ? endOf(log, process.before.pid) : undefined,
    crash: crashInLog(log, began.appId) ?? endingOf(states, commands),
    ...(hangInLog(log, began.appId) && { notResponding: true }),
    ...(away?.tree &&
      before?.tree && {
        wasTurned: isTurned(before.tree, away.tree),
        similarityAway: similarity(screenOutline(before.tree), screenOutline(away.tree)),
        away: {
          inApp: away.activity.startsWith(`${began.appId}/`),
          texts: textsOf(away.tree),
          isWaiting: isWaiting(away.tree),
          before: textsOf(before.tree),
        },
      }),
    commands,
    borrowed: lines
      .filter(isKind('setting.borrowed'))
      .map(({ reads, setting, wanted }) => ({ setting, wanted, reads })),
    servicesBefore: services('before'),
    servicesAfter: services('after'),
    ...(starts.length > 0 && { startsMs: starts }),
  };
}

function statesOf(lines: readonly (TraceLine | DrillLine)[]): NonNullable<DrillRunFact['states']> {
  const seen = lines.filter(isKind('app-state.seen'));
  const states: NonNullable<DrillRunFact['states']> = {};
  for (const step of ['left', 'gone', 'after'] as const) {
    const state = seen.findLast((one) => one.step === step)?.state;
    if (state) states[step] = state;
  }
  return states;
}

/** Of iOS no log tells a crash: the app was opened, and is not there; and nobody ended it who did not wait for that. */
const endingOf = (
  { after, gone }: NonNullable<DrillRunFact['states']>,
  commands: DrillRunFact['commands'],
): DrillRunFact['crash'] =>
  after === 'not-running' && (gone !== undefined || !commands.some(({ line }) => line.startsWith('end ')))
    ? ENDED
    : undefined;

const textsOf = (tree: UiNode): string[] => [
  ...new Set(
    placeNodes(tree).flatMap(({ node }) => (node.visible && node.text.trim() ? [node.text.trim()] : [])),
  ),
];

const isWaiting = (tree: UiNode): boolean =>
  placeNodes(tree).some(
    ({ node }) =>
      node.visible && (/Progress/.test(node.className) || node.traits?.includes('progress') === true),
  );

function landingOf(
  first: SeenLine | undefined,
  reached: SeenLine | undefined,
  before: SeenLine | undefined,
  after: SeenLine | undefined,
  appId: string,
): DrillRunFact['landed'] {
  if (!before?.tree || !after) return undefined;
  const [outlineBefore, outlineAfter] = [before, after].map(({ tree }) => (tree ? screenOutline(tree) : []));
  return {
    activity: after.activity,
    isSameActivity: after.activity === before.activity,
    likeBefore: similarity(outlineBefore!, outlineAfter!),
    likeFirst: likenessOf(first, after),
    likeReached: reached ? likenessOf(reached, after) : likeUnder(first, before, after),
    inApp: after.activity.startsWith(`${appId}/`),
    boundsPx: after.tree?.bounds ?? before.tree.bounds,
  };
}

/**
 * Where a person reached the screen, nobody saw what lay under the window that was open: the activity that is there again, and is not
 * the first one, or now fills more of the display than the window did.
 */
function likeUnder(first: SeenLine | undefined, before: SeenLine, after: SeenLine): number {
  if (!first || before.activity !== after.activity || likenessOf(first, after) >= SAME_SCREEN) return 0;
  const sizeOf = ({ tree }: SeenLine) => (tree ? tree.bounds.width * tree.bounds.height : 0);
  return first.activity !== after.activity || sizeOf(before) < sizeOf(after) ? 1 : 0;
}

const likenessOf = (one: SeenLine | undefined, after: SeenLine): number =>
  one?.tree && after.tree && one.activity === after.activity
    ? similarity(screenOutline(one.tree), screenOutline(after.tree))
    : 0;

/** Names the window by its outermost id, and by the first text in it. */
function windowOf(seen: SeenLine | undefined): DrillRunFact['window'] {
  if (!seen?.tree) return undefined;
  const placed = placeNodes(seen.tree);
  const named = placed.find(({ node }) => node.id);
  const title = placed.find(({ node }) => node.text);
  return { key: named?.key ?? 'window', title: title?.node.text ?? '', boundsPx: seen.tree.bounds };
}

function changesOf(
  before: SeenLine | undefined,
  again: SeenLine | undefined,
  after: SeenLine | undefined,
): Pick<DrillRunFact, 'changes' | 'volatile'> {
  if (!before?.tree || !after?.tree || before.activity !== after.activity)
    return { changes: [], volatile: [] };
  const was = screenState(before.tree);
  const volatile = again?.tree
    ? new Set(compareStates(was, screenState(again.tree)).map(({ key }) => key))
    : new Set<string>();
  const all = compareStates(was, screenState(after.tree));
  return { changes: all.filter(({ key }) => !volatile.has(key)), volatile: [...volatile].sort() };
}

function chainOf(seen: readonly SeenLine[], appId: string, platform: Platform): DrillRunFact['backChain'] {
  const steps = seen.filter(({ step }) => step.startsWith('back-'));
  if (steps.length === 0) return undefined;
  if (platform === 'ios') return titledChain(steps, seen.find(({ step }) => step === 'after')?.tree, appId);
  return steps.map(({ activity, tree }) => ({
    activity: activity.startsWith(`${appId}/`) ? activity : '',
    outline: tree && activity.startsWith(`${appId}/`) ? screenOutline(tree) : [],
  }));
}

/** Of a system that names no screens, by what stands in their bars; it ends where nothing is behind. */
function titledChain(steps: readonly SeenLine[], from: UiNode | undefined, appId: string): BackStep[] {
  const chain: BackStep[] = [];
  let last = from ? screenOutline(from) : [];
  for (const { tree } of steps) {
    const outline = tree ? screenOutline(tree) : [];
    if (similarity(outline, last) >= SAME_SCREEN) break;
    chain.push({ activity: `${appId}/${titleIn(outline)}`, outline });
    last = outline;
  }
  return chain;
}

/** The log from the first look before to the last one after: not of the way there, nor of the way back. */
function whileAway(lines: readonly (TraceLine | DrillLine)[]): DrillLineOf<'log.line'>[] {
  const seen = (step: string) => lines.findIndex((line) => line.kind === 'screen.seen' && line.step === step);
  const [from, back] = [seen('before-again'), seen('back-1')];
  // where it is opened once more afterwards
  const reopened = seen('first') > seen('after') ? seen('first') : -1;
  const to = back < 0 ? reopened : back;
  return lines.slice(Math.max(from, 0), to < 0 ? undefined : to).filter(isKind('log.line'));
}

function countLifecycle(log: readonly DrillLineOf<'log.line'>[], appId: string): Record<string, number> {
  const counts: Record<string, number> = {};
  for (const { message, tag: told } of log) {
    const tag = lifecycleTag(told);
    if (!/^wm_(on_|relaunch|destroy_activity)/.test(tag) || !message.includes(appId)) continue;
    counts[tag] = (counts[tag] ?? 0) + 1;
  }
  return counts;
}

/** `am_kill: [user,pid,process,oom,reason]`; `am_proc_died` has none. */
function endOf(log: readonly DrillLineOf<'log.line'>[], pid: number): string | undefined {
  const fields = (message: string) => message.replace(/^\[|\]$/g, '').split(',');
  const kill = log.find(({ message, tag }) => tag === 'am_kill' && fields(message)[1] === String(pid));
  if (kill) return fields(kill.message).slice(4).join(',');
  const died = log.some(({ message, tag }) => tag === 'am_proc_died' && fields(message)[1] === String(pid));
  return died ? 'died' : undefined;
}

const isTurned = (before: UiNode, away: UiNode): boolean =>
  Math.abs(before.bounds.width - away.bounds.width) > 8 ||
  Math.abs(before.bounds.height - away.bounds.height) > 8;
