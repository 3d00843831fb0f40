/** Links that a drill handed to a device, from its trace: one fact for each. */

import type { LinkRunFact } from '../../../model/facts/links.ts';
import { LOG_TAG } from '../../../model/log-tag.ts';
import type { DrillLine, DrillLineOf, SeenLine, TraceLine } from '../../../model/trace.ts';
import { placeNodes } from '../../../model/ui-tree.ts';
import { crashInLog, ENDED, hangInLog } from '../../lifecycle/runs/crash-in-log.ts';
import { screenOutline, similarity } from '../../lifecycle/state/screen-state.ts';
import type { TraceEvidence, TraceObserver } from '../../observer.ts';

export const observeLinkRuns = {
  id: 'link-runs',
  reads: 'trace',
  *observe(trace) {
    const lines = trace.lines as (TraceLine | DrillLine)[];
    const began = lines.find((line): line is DrillLineOf<'drill.began'> => line.kind === 'drill.began');
    if (began?.drill !== 'links') return;
    const starts = lines.flatMap(({ kind }, i) => (kind === 'link.fired' ? [i] : []));
    const goal = lines.find((line): line is SeenLine => line.kind === 'screen.seen' && line.step === 'goal');
    for (const [n, from] of starts.entries())
      yield runOf(trace, began, lines.slice(from, starts[n + 1]), goal);
  },
} satisfies TraceObserver;

// More than any screen shows, and little enough to keep.
const MOST_TEXTS = 200;
const LONGEST_TEXT = 200;

function runOf(
  { digest, platform }: TraceEvidence,
  began: DrillLineOf<'drill.began'>,
  lines: readonly (TraceLine | DrillLine)[],
  goal: SeenLine | undefined,
): LinkRunFact {
  const [fired] = lines as [DrillLineOf<'link.fired'>];
  const seen = lines.filter((line): line is SeenLine => line.kind === 'screen.seen');
  const landed = seen.find(({ step }) => step === fired.step);
  const below = seen.find(({ step }) => step === `${fired.step}-below`);
  const log = lines.filter((line): line is DrillLineOf<'log.line'> => line.kind === 'log.line');
  const back = seen.filter(({ step }) => step.startsWith(`${fired.step}-back-`));
  const { appId } = began;
  const inApp = (activity: string) => activity.startsWith(`${appId}/`);
  const state = lines.find(
    (line): line is DrillLineOf<'app-state.seen'> =>
      line.kind === 'app-state.seen' && line.step === fired.step,
  )?.state;
  const crash = crashInLog(log, appId) ?? (wasEnded(fired, state, log) ? ENDED : undefined);
  const told = argumentsTold(log);
  return {
    kind: 'link-run',
    platform,
    evidence: digest,
    cell: { ...began.cell, step: fired.step },
    at: fired.at,
    deviceId: began.deviceId,
    sdk: began.sdk,
    route: fired.route,
    url: fired.url,
    probe: fired.probe,
    variant: fired.variant,
    how: fired.how,
    addressed: fired.addressed,
    arguments: fired.arguments,
    started: fired.started,
    landed: landed?.activity ?? '',
    inApp: inApp(fired.started) && inApp(landed?.activity ?? ''),
    ...(goal?.tree &&
      landed?.tree && {
        likeGoal: similarity(screenOutline(goal.tree), screenOutline(landed.tree)),
      }),
    from: fired.from,
    texts: [landed, below].flatMap((line) => (line?.tree ? textsOn(line.tree) : [])),
    ...(told && { told }),
    ...(crash && { crash }),
    ...(hangInLog(log, appId) && { notResponding: true }),
    ...(back.length > 0 && { backChain: back.map(({ activity }) => (inApp(activity) ? activity : '')) }),
  };
}

/** Of iOS no log tells it: the app ran before, or was started for the link, and is not there. */
const wasEnded = (
  { addressed, how }: DrillLineOf<'link.fired'>,
  state: string | undefined,
  log: readonly DrillLineOf<'log.line'>[],
): boolean =>
  state === 'not-running' &&
  (how !== 'cold' ||
    addressed ||
    log.some(({ message, tag }) => tag === LOG_TAG && message.includes('"app.began"')));

const textsOn = (tree: NonNullable<SeenLine['tree']>): string[] =>
  placeNodes(tree)
    .flatMap(({ node }) => [node.text, node.label])
    .filter((text): text is string => Boolean(text))
    .slice(0, MOST_TEXTS)
    .map((text) => text.slice(0, LONGEST_TEXT));

/** `{"kind":"link.opened","arguments":{…}}`, as an app may print it to its log under the tag `Fenlok`. */
function argumentsTold(log: readonly DrillLineOf<'log.line'>[]): Record<string, string> | undefined {
  for (const { message, tag } of log) {
    if (tag !== LOG_TAG) continue;
    const line = parse(message);
    if (line?.kind !== 'link.opened' || typeof line.arguments !== 'object') continue;
    return Object.fromEntries(
      Object.entries(line.arguments ?? {}).map(([name, value]) => [name, String(value)]),
    );
  }
  return undefined;
}

function parse(message: string): { kind?: string; arguments?: object | null } | undefined {
  try {
    return JSON.parse(message) as { kind?: string };
  } catch {
    return undefined;
  }
}
